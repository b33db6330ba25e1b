import { X } from 'lucide-react';
import { measureText } from '@rammer/core/block/measureFigures';
import { ofKind } from '@rammer/core/level/level';
import type { Vec3 } from '@rammer/core/num/vec';
import type { Session } from '../store/session';
import { useSession } from '../store/useSession';
import { useUi } from '../store/ui';
import type { LevelView } from './LevelView';
import { useDrawnFrame } from './useFrame';

/** Measured lines that were kept, in Block: ticks at the ends, the figures in the middle, and a way to take each away. */
export function Measures({ session, view }: { session: Session; view: LevelView }) {
  useDrawnFrame(view);
  useSession(session);
  if (useUi((s) => s.stage) !== 'block') return null;
  const seen = ofKind(session.level, 'measure').flatMap((measure) => {
    const a = view.project(measure.from);
    const b = view.project(measure.to);
    const middle = view.project([0, 1, 2].map((k) => (measure.from[k] + measure.to[k]) / 2) as Vec3);
    return a && b && middle ? [{ measure, a, b, middle }] : [];
  });
  return (
    <div className="pointer-events-none absolute inset-0" data-testid="measures">
      <svg className="absolute inset-0 h-full w-full" aria-hidden>
        {seen.map(({ measure, a, b }) => {
          const l = Math.hypot(b.x - a.x, b.y - a.y) || 1;
          const [nx, ny] = [(-(b.y - a.y) / l) * 6, ((b.x - a.x) / l) * 6];
          const d = `M${a.x} ${a.y}L${b.x} ${b.y}M${a.x - nx} ${a.y - ny}L${a.x + nx} ${a.y + ny}M${b.x - nx} ${b.y - ny}L${b.x + nx} ${b.y + ny}`;
          return (
            <g key={measure.id}>
              <path d={d} stroke="var(--raised)" strokeWidth={4.5} />
              <path d={d} stroke="var(--ink)" strokeWidth={1.75} />
            </g>
          );
        })}
      </svg>
      {seen.map(({ measure, middle }) => (
        <div
          key={measure.id}
          className="pointer-events-auto absolute flex items-center border pl-1"
          style={{ left: middle.x, top: middle.y, transform: 'translate(-50%, -50%)', background: 'var(--raised)', borderColor: 'var(--ink)' }}
          onPointerDown={(e) => e.stopPropagation()}
          onPointerMove={(e) => e.stopPropagation()}
          onPointerUp={(e) => e.stopPropagation()}
        >
          <span className="fig whitespace-nowrap text-[13px] leading-5">{measureText(measure.from, measure.to)}</span>
          {session.writable && (
            <button
              className="icon-btn"
              aria-label={`take ${measure.name} away`}
              onClick={() => session.commit({ kind: 'remove', ids: [measure.id] }, `take ${measure.name} away`)}
            >
              <X size={12} />
            </button>
          )}
        </div>
      ))}
    </div>
  );
}
