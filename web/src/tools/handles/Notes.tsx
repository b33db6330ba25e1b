import { useState } from 'react';
import { ofKind } from '@rammer/core/level/level';
import type { Session } from '../../store/session';
import { useSession } from '../../store/useSession';
import { useUi } from '../../store/ui';
import { newId } from '../../store/names';
import type { LevelView } from '../../view/LevelView';
import { useDrawnFrame } from '../../view/useFrame';

const PIN_M = 1.6;

/** Notes as numbered pins where they were put, and the field in which a new one is written. */
export function Notes({ session, view }: { session: Session; view: LevelView }) {
  useDrawnFrame(view);
  useSession(session);
  const at = useUi((s) => s.noteAt);
  const [text, setText] = useState('');
  const notes = ofKind(session.level, 'note');
  const place = at && view.project(at);
  const close = () => {
    setText('');
    useUi.setState({ noteAt: undefined });
  };
  const pin = () => {
    const said = text.trim();
    if (!at || !said) return;
    const done = session.commit(
      {
        kind: 'add',
        objects: [
          {
            id: newId('note'),
            version: 1,
            kind: 'note',
            name: said.slice(0, 120),
            text: said,
            at: at.map((v) => Math.round(v * 1000) / 1000) as [number, number, number],
          },
        ],
      },
      'pin a note',
    );
    if (done) close();
  };
  return (
    <div className="pointer-events-none absolute inset-0">
      <svg className="absolute inset-0 h-full w-full" aria-hidden>
        {notes.map((n, i) => {
          const foot = view.project(n.at);
          const top = view.project([n.at[0], n.at[1] + PIN_M, n.at[2]]);
          if (!foot || !top) return null;
          return (
            <g key={n.id}>
              <path d={`M${foot.x} ${foot.y}L${top.x} ${top.y}`} stroke="var(--raised)" strokeWidth={4} />
              <path d={`M${foot.x} ${foot.y}L${top.x} ${top.y}`} stroke="var(--ink)" strokeWidth={1.5} />
              <path d={`M${top.x - 11} ${top.y - 10}h22v14h-8l-3 6l-3 -6h-8z`} fill="var(--raised)" stroke="var(--ink)" strokeWidth={1.5} />
              <text fill="var(--ink)" className="fig" x={top.x} y={top.y + 1.5} textAnchor="middle" fontSize={12} fontWeight={600}>
                {i + 1}
              </text>
            </g>
          );
        })}
      </svg>
      {at && (
        <form
          className="pointer-events-auto absolute flex gap-1 border p-1"
          onSubmit={(e) => {
            e.preventDefault();
            pin();
          }}
          onPointerDown={(e) => e.stopPropagation()}
          onPointerMove={(e) => e.stopPropagation()}
          onPointerUp={(e) => e.stopPropagation()}
          style={{
            left: Math.min(Math.max((place?.x ?? view.width / 2) + 8, 8), view.width - 300),
            top: Math.min(Math.max((place?.y ?? view.height / 2) - 16, 8), view.height - 44),
            background: 'var(--raised)',
            borderColor: 'var(--ink)',
          }}
        >
          <input
            className="textf w-52"
            aria-label="note"
            placeholder="what should be looked at here"
            value={text}
            maxLength={2000}
            autoFocus
            onChange={(e) => setText(e.target.value)}
            onKeyDown={(e) => {
              e.stopPropagation();
              if (e.key === 'Escape') close();
            }}
          />
          <button type="submit" className="act main" disabled={!text.trim()}>
            pin
          </button>
        </form>
      )}
    </div>
  );
}
