import { Check, Trash2, Undo2 } from 'lucide-react';
import { useState } from 'react';
import { ofKind } from '@rammer/core/level/level';
import type { Marker, Note } from '@rammer/core/level/objects';
import type { Vec3 } from '@rammer/core/num/vec';
import { acceptanceOf, holds } from '@rammer/core/snag/accept';
import type { Snag } from '@rammer/core/snag/finding';
import type { Session } from '../../store/session';
import { useSession } from '../../store/useSession';
import { useSnags } from '../../store/useSnags';
import { FINDINGS, useUi } from '../../store/ui';
import { newId } from '../../store/names';
import { NameCell } from '../../ui/NameCell';
import { Row, Table } from '../../ui/Table';

type Finding = { kind: 'marker'; marker: Marker } | { kind: 'snag'; snag: Snag } | { kind: 'note'; note: Note };

/** What is marked, what the checks found, and what was noted: one list with three tabs. */
export function Findings({ session, onGoTo }: { session: Session; onGoTo(at: Vec3): void }) {
  useSession(session);
  const tab = useUi((s) => s.findings);
  const { open, accepted, known, stale } = useSnags(session);
  const [accepting, accept] = useState<Snag>();
  const markers = ofKind(session.level, 'marker');
  const notes = ofKind(session.level, 'note');
  const counts = { markers: markers.length, snags: open.length, notes: notes.length };
  const rows: Finding[] =
    tab === 'markers'
      ? markers.map((marker) => ({ kind: 'marker', marker }))
      : tab === 'notes'
        ? notes.map((note) => ({ kind: 'note', note }))
        : [...open, ...accepted].map((snag) => ({ kind: 'snag', snag }));
  const empty = {
    markers: 'No markers yet. Pick entry, then click where the player comes in.',
    snags: known ? 'Nothing found.' : 'Bake the walk area: the checks run with it.',
    notes: 'No notes yet. Press N over the view, Walk included, to pin one.',
  }[tab];
  const remove = (id: string, name: string) => session.commit({ kind: 'remove', ids: [id] }, `delete ${name}`);
  const goTo = (snag: Snag) => {
    if (snag.object && session.level.object(snag.object)?.kind === 'block') useUi.getState().select([snag.object]);
    if (snag.at) onGoTo(snag.at);
  };

  return (
    <>
      {accepting && <AcceptForm session={session} snag={accepting} onDone={() => accept(undefined)} />}
      <Table
        label={tab}
        rows={rows}
        empty={empty}
        header={
          <div className="seg" role="group" aria-label="lists">
            {FINDINGS.map((t) => (
              <button
                key={t}
                className="act"
                style={{ minHeight: 22, padding: '0 8px' }}
                aria-pressed={tab === t}
                onClick={() => useUi.setState({ findings: t })}
              >
                {t}{' '}
                <span className="fig" style={{ textDecoration: t === 'snags' && stale && known ? 'underline dashed' : undefined }}>
                  {t === 'snags' && !known ? '' : counts[t]}
                </span>
              </button>
            ))}
          </div>
        }
        row={(f) => {
          if (f.kind === 'marker') {
            const m = f.marker;
            return (
              <Row title="click to go there" onClick={() => onGoTo(m.at)}>
                <span className="min-w-0 flex-1 truncate">{m.name}</span>
                <span className="label">{m.name === m.marker ? '' : m.marker}</span>
                <span className="fig label whitespace-nowrap">
                  {m.at[0].toFixed(0)}, {m.at[2].toFixed(0)}
                </span>
                <button
                  className="icon-btn"
                  aria-label={`delete ${m.name}`}
                  onClick={(e) => {
                    e.stopPropagation();
                    remove(m.id, m.name);
                  }}
                >
                  <Trash2 size={14} />
                </button>
              </Row>
            );
          }
          if (f.kind === 'note') {
            const n = f.note;
            return (
              <Row title={n.text} onClick={() => onGoTo(n.at)}>
                <NameCell
                  name={n.text}
                  onRename={(text) => session.commit({ kind: 'set', patches: [{ id: n.id, set: { text, name: text.slice(0, 120) } }] }, 'change a note')}
                />
                <button
                  className="icon-btn"
                  aria-label={`delete note ${n.text}`}
                  onClick={(e) => {
                    e.stopPropagation();
                    remove(n.id, 'a note');
                  }}
                >
                  <Trash2 size={14} />
                </button>
              </Row>
            );
          }
          const s = f.snag;
          return (
            <Row
              title={s.accepted ? `accepted, because ${s.accepted}` : `${s.message}. Mend: ${s.mend}.`}
              colour={s.accepted ? 'var(--ink-2)' : undefined}
              onClick={() => goTo(s)}
            >
              <span
                aria-label={s.accepted ? 'accepted' : s.severity}
                style={{ color: s.accepted ? 'var(--lichen-text)' : s.severity === 'blocking' ? 'var(--oxide)' : 'var(--ochre-text)' }}
              >
                {s.accepted ? '✓' : s.severity === 'blocking' ? '✕' : '▲'}
              </span>
              <span className="min-w-0 flex-1 truncate" style={{ textDecoration: s.accepted ? 'line-through' : undefined }}>
                {s.message}
              </span>
              {s.accepted ? (
                <button
                  className="icon-btn"
                  aria-label={`open again: ${s.message}`}
                  title="open again"
                  onClick={(e) => {
                    e.stopPropagation();
                    withdraw(session, s);
                  }}
                >
                  <Undo2 size={14} />
                </button>
              ) : (
                <button
                  className="icon-btn"
                  aria-label={`accept, because: ${s.message}`}
                  title="accept, because ..."
                  onClick={(e) => {
                    e.stopPropagation();
                    accept(s);
                  }}
                >
                  <Check size={14} />
                </button>
              )}
            </Row>
          );
        }}
      />
    </>
  );
}

function withdraw(session: Session, snag: Snag): void {
  const ids = ofKind(session.level, 'acceptance')
    .filter((a) => holds(session.level, a, snag))
    .map((a) => a.id);
  if (ids.length > 0) session.commit({ kind: 'remove', ids }, 'open a snag again');
}

/** Asks for the reason: an accepted snag is kept and listed with it, and lapses when the thing changes. */
function AcceptForm({ session, snag, onDone }: { session: Session; snag: Snag; onDone(): void }) {
  const [reason, setReason] = useState('');
  const send = () => {
    if (reason.trim() && session.commit({ kind: 'add', objects: [acceptanceOf(session.level, snag, reason.trim(), newId('accept'))] }, 'accept a snag'))
      onDone();
  };
  return (
    <form
      className="grid gap-1.5 border-t px-3 py-2"
      style={{ borderColor: 'var(--ink)' }}
      onSubmit={(e) => {
        e.preventDefault();
        send();
      }}
    >
      <span>
        {snag.message}. <span className="label">Mend: {snag.mend}.</span>
      </span>
      <label className="grid gap-0.5">
        <span className="label">accept, because</span>
        <input
          className="textf"
          value={reason}
          maxLength={500}
          autoFocus
          onChange={(e) => setReason(e.target.value)}
          onKeyDown={(e) => {
            e.stopPropagation();
            if (e.key === 'Escape') onDone();
          }}
        />
      </label>
      <div className="flex gap-2">
        <button type="submit" className="act main" disabled={!reason.trim()}>
          accept
        </button>
        <button type="button" className="act" onClick={onDone}>
          leave it open
        </button>
      </div>
    </form>
  );
}
