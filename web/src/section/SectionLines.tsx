import { Pencil, Pin, Trash2 } from 'lucide-react';
import { ofKind } from '@rammer/core/level/level';
import type { SectionLine } from '@rammer/core/level/objects';
import type { Session } from '../store/session';
import { useUi } from '../store/ui';
import { newId, nextName } from '../store/names';
import { mm } from '../tools/things';

interface Props {
  session: Session;
  /** the kept line it runs along */
  own?: SectionLine;
  /** of its window */
  metres: number;
  /** ends of what is shown now */
  current(): Pick<SectionLine, 'from' | 'to'>;
}

/** Which line the section runs along: the view's own, or one that was drawn or kept under a name. */
export function SectionLines({ session, own, metres, current }: Props) {
  const lines = ofKind(session.level, 'section');
  const tool = useUi((s) => s.tool);
  const { setTool } = useUi.getState();
  const keep = () => {
    const { from, to } = current();
    const id = newId('section');
    const round = (p: readonly number[]) => p.map(mm) as [number, number];
    if (
      session.commit(
        { kind: 'add', objects: [{ id, version: 1, kind: 'section', name: nextName(session.level, 'section'), from: round(from), to: round(to) }] },
        'keep a section line',
      )
    )
      useUi.setState({ sectionLine: id });
  };
  const rename = (name: string) => {
    if (own && name.trim() && name.trim() !== own.name)
      session.commit({ kind: 'set', patches: [{ id: own.id, set: { name: name.trim() } }] }, `rename to ${name.trim()}`);
  };
  return (
    <div
      className="absolute left-[62px] top-0 flex h-6 items-center gap-0.5 text-[13px]"
      onPointerDown={(e) => e.stopPropagation()}
      onPointerMove={(e) => e.stopPropagation()}
      onDoubleClick={(e) => e.stopPropagation()}
    >
      <select
        className="label h-[22px] max-w-[150px] border-0 bg-transparent"
        aria-label="the section runs along"
        value={own?.id ?? ''}
        onChange={(e) => useUi.setState({ sectionLine: e.target.value || undefined })}
      >
        <option value="">along the view</option>
        {lines.map((l) => (
          <option key={l.id} value={l.id}>{`along ${l.name}`}</option>
        ))}
      </select>
      {own && (
        <input
          key={`${own.id}${own.name}`}
          className="textf h-[20px] w-28"
          aria-label="name of the section line"
          defaultValue={own.name}
          maxLength={120}
          onBlur={(e) => rename(e.target.value)}
          onKeyDown={(e) => {
            e.stopPropagation();
            if (e.key === 'Enter') e.currentTarget.blur();
          }}
        />
      )}
      <button
        className="icon-btn h-[22px]"
        aria-label="draw a section line"
        title="draw a line: two clicks in the view"
        aria-pressed={tool === 'section'}
        onClick={() => setTool('section')}
      >
        <Pencil size={13} />
      </button>
      {own ? (
        <button
          className="icon-btn h-[22px]"
          aria-label={`delete ${own.name}`}
          onClick={() => session.commit({ kind: 'remove', ids: [own.id] }, `delete ${own.name}`)}
        >
          <Trash2 size={13} />
        </button>
      ) : (
        <button
          className="icon-btn h-[22px]"
          aria-label="keep this section line"
          title="keep the line along the view under a name"
          disabled={!session.writable}
          onClick={keep}
        >
          <Pin size={13} />
        </button>
      )}
      {!own && <span className="label whitespace-nowrap">{metres} m, same scale both ways</span>}
    </div>
  );
}
