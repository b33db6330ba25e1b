import type { Session } from '../store/session';
import { useSession } from '../store/useSession';
import { useUi } from '../store/ui';
import { edgePath } from './blockMesh';
import type { LevelView } from './LevelView';
import { useDrawnFrame } from './useFrame';

/** Voids are not there to be seen: in Block their outlines are dashed, and are picked by a click. */
export function Voids({ session, view }: { session: Session; view: LevelView }) {
  useDrawnFrame(view);
  useSession(session);
  const selection = useUi((s) => s.selection);
  const tool = useUi((s) => s.tool);
  const stage = useUi((s) => s.stage);
  const isolated = useUi((s) => s.isolated);
  if (stage !== 'block') return null;
  const shown = session.scene.solids.voids.filter((v) => !v.hidden && !v.locked && (!isolated || isolated.has(v.id)) && !selection.includes(v.id));
  if (shown.length === 0) return null;
  return (
    <svg className="pointer-events-none absolute inset-0 h-full w-full" data-testid="voids" aria-hidden>
      {shown.map((v) => {
        const d = edgePath(view, v);
        return (
          <g key={v.id} fill="none">
            <path d={d} stroke="var(--raised)" strokeWidth={3} opacity={0.6} />
            <path d={d} stroke="var(--ink)" strokeWidth={1.2} strokeDasharray="5 3" />
            {tool === 'select' && (
              <path
                d={d}
                stroke="transparent"
                strokeWidth={10}
                style={{ pointerEvents: 'stroke', cursor: 'pointer' }}
                onPointerDown={(e) => {
                  e.stopPropagation();
                  const ui = useUi.getState();
                  ui.select(e.shiftKey ? [...ui.selection, v.id] : [v.id]);
                }}
              />
            )}
          </g>
        );
      })}
    </svg>
  );
}
