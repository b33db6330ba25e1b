import { moverPeriod } from '@rammer/core/block/mover';
import { add, type Vec3 } from '@rammer/core/num/vec';
import type { Session } from '../store/session';
import { useSession } from '../store/useSession';
import { useUi } from '../store/ui';
import { edgePath } from './blockMesh';
import type { LevelView } from './LevelView';
import { useDrawnFrame } from './useFrame';

/** The ways of movers in Block: dashed from stop to stop, an outline and the second at each. */
export function Movers({ session, view }: { session: Session; view: LevelView }) {
  useDrawnFrame(view);
  useSession(session);
  const selection = useUi((s) => s.selection);
  if (useUi((s) => s.stage) !== 'block') return null;
  const movers = [...session.made.movers.values()].filter((b) => !b.hidden);
  if (movers.length === 0) return null;
  return (
    <svg className="pointer-events-none absolute inset-0 h-full w-full" data-testid="movers" aria-hidden>
      {movers.map((block) => {
        const stops = block.stops!;
        const middle = (by: Vec3) => view.project(add(add(block.at, by), [0, block.size[1] / 2, 0]));
        const points = stops.flatMap((s) => middle(s.by) ?? []);
        const d = points.map((p, i) => `${i === 0 ? 'M' : 'L'}${p.x.toFixed(1)} ${p.y.toFixed(1)}`).join('');
        const chosen = selection.includes(block.id);
        let at = 0;
        return (
          <g key={block.id} fill="none">
            <path d={d} stroke="var(--raised)" strokeWidth={4} />
            <path d={d} stroke="var(--ink)" strokeWidth={1.5} strokeDasharray="2 4" />
            {stops.map((s, i) => {
              at += i === 0 ? 0 : stops[i - 1].wait + s.travel;
              const p = middle(s.by);
              const outline = i > 0 ? edgePath(view, { ...block, at: add(block.at, s.by) }) : '';
              return p && (
                <g key={i}>
                  {chosen && outline && <><path d={outline} stroke="var(--raised)" strokeWidth={3} opacity={0.6} /><path d={outline} stroke="var(--ink)" strokeWidth={1} strokeDasharray="4 4" /></>}
                  <circle cx={p.x} cy={p.y} r={4} fill="var(--raised)" stroke="var(--ink)" strokeWidth={1.5} />
                  {i > 0 && <text x={p.x + 8} y={p.y + 4} className="fig" fontSize={13} fill="var(--ink)" stroke="var(--raised)" strokeWidth={3} paintOrder="stroke">{`${at.toFixed(1)} s of ${moverPeriod(stops).toFixed(1)}`}</text>}
                </g>
              );
            })}
          </g>
        );
      })}
    </svg>
  );
}
