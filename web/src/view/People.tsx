import { X } from 'lucide-react';
import type { BodyFigures } from '@rammer/core/body/bodies';
import { stancesOf } from '@rammer/core/body/derived';
import { ofKind, playerBody } from '@rammer/core/level/level';
import { presentOf } from '@rammer/core/level/present';
import type { People as PeopleObject } from '@rammer/core/level/objects';
import { sinCosDeg } from '@rammer/core/num/trig';
import { add, type Vec3 } from '@rammer/core/num/vec';
import type { Session } from '../store/session';
import { useSession } from '../store/useSession';
import { useUi } from '../store/ui';
import type { LevelView } from './LevelView';
import { useDrawnFrame } from './useFrame';

/** Where the figure of a place in a row stands: to the right of the one before, as the row faces. */
export function figurePlace(row: Pick<PeopleObject, 'at' | 'turn'>, body: BodyFigures, index: number): Vec3 {
  const [s, c] = sinCosDeg(row.turn);
  const by = index * (body.radius * 2 + 0.5);
  return add(row.at, [c * by, 0, s * by]);
}

/** What stands in rows of figures, in Block: the height of each, the body, and ways to change and take it away. */
export function People({ session, view }: { session: Session; view: LevelView }) {
  useDrawnFrame(view);
  useSession(session);
  if (useUi((s) => s.stage) !== 'block') return null;
  const bodies = ofKind(session.level, 'body');
  const rows = presentOf(session.level.objects)
    .of('people')
    .filter((row) => !row.hidden)
    .map((row) => ({ row, body: bodies.find((b) => b.id === row.body) ?? playerBody(session.level) }));
  return (
    <div className="pointer-events-none absolute inset-0" data-testid="figures">
      {rows.map(({ row, body }) => {
        const stances = stancesOf(body.figures);
        const foot = view.project(add(row.at, [0, -0.15, 0]));
        return (
          <div key={row.id}>
            {stances.map((s, i) => {
              const feet = figurePlace(row, body.figures, i);
              const top = view.project(add(feet, [0, s.top, 0]));
              const low = view.project(feet);
              if (!top || !low || low.y - top.y < 24) return null;
              return (
                <span
                  key={s.name}
                  className="fig absolute whitespace-nowrap text-center text-[12px] leading-[13px]"
                  style={{
                    left: top.x,
                    top: top.y - 4,
                    transform: 'translate(-50%, -100%)',
                    color: 'var(--ink)',
                    textShadow: '0 0 3px var(--raised), 0 0 3px var(--raised), 0 0 3px var(--raised)',
                  }}
                >
                  {s.name}
                  <br />
                  {s.top.toFixed(2)}
                  <svg className="absolute" style={{ left: '50%', top: '100%', marginLeft: -9 }} width="18" height="4" aria-hidden>
                    <path d="M0 2H18" stroke="var(--raised)" strokeWidth="4" />
                    <path d="M0 2H18" stroke="var(--ink)" strokeWidth="1.5" />
                  </svg>
                </span>
              );
            })}
            {foot && session.writable && (
              <span
                className="pointer-events-auto absolute flex items-center border"
                style={{ left: foot.x, top: foot.y + 4, background: 'var(--raised)', borderColor: 'var(--edge)' }}
                onPointerDown={(e) => e.stopPropagation()}
                onPointerMove={(e) => e.stopPropagation()}
                onPointerUp={(e) => e.stopPropagation()}
              >
                <button
                  className="border-0 bg-transparent px-1 text-[12px] leading-4"
                  title="another body"
                  onClick={() =>
                    session.commit(
                      { kind: 'set', patches: [{ id: row.id, set: { body: bodies[(bodies.indexOf(body) + 1) % bodies.length].id } }] },
                      `body of ${row.name}`,
                    )
                  }
                >
                  {body.name}
                </button>
                <button
                  className="icon-btn h-5 w-5"
                  aria-label={`take ${row.name} away`}
                  onClick={() => session.commit({ kind: 'remove', ids: [row.id] }, `take ${row.name} away`)}
                >
                  <X size={11} />
                </button>
              </span>
            )}
          </div>
        );
      })}
    </div>
  );
}
