import { useState, type RefObject, type PointerEvent } from 'react';
import type { LaidLine } from '@rammer/core/level/objects';
import { presentOf } from '@rammer/core/level/present';
import type { Vec3 } from '@rammer/core/num/vec';
import type { Session } from '../../store/session';
import { snapTo, useUi } from '../../store/ui';
import { useSession } from '../../store/useSession';
import type { LevelView } from '../../view/LevelView';
import { useDrawnFrame } from '../../view/useFrame';
import { asPieces, placesOf, setLines, withPlaces } from '../laidLines';
import { isLocked } from '../things';
import { CornerHandles } from './CornerHandles';

/** The selected laid line: drawn, with its corners to drag and what is left over on each stretch. */
export function LaidLineHandles({ session, view, frame }: { session: Session; view: LevelView; frame: RefObject<HTMLDivElement | null> }) {
  useDrawnFrame(view);
  useSession(session);
  const selection = useUi((s) => s.selection);
  const tool = useUi((s) => s.tool);
  const line = selection.length === 1 ? session.level.object(selection[0]) : undefined;
  return line?.kind === 'laidLine' ? (
    <Handles session={session} view={view} frame={frame} line={line} open={tool === 'select' && session.writable && !isLocked(session, line)} />
  ) : null;
}

function Handles({
  session,
  view,
  frame,
  line,
  open,
}: {
  session: Session;
  view: LevelView;
  frame: RefObject<HTMLDivElement | null>;
  line: LaidLine;
  open: boolean;
}) {
  const [dragged, setDragged] = useState<LaidLine>();
  const shown = dragged ?? line;
  const places = placesOf(shown);
  const closed = line.closed === true;
  const way = [...places, ...(closed ? [places[0]] : [])].flatMap((p) => {
    const s = view.project(p);
    return s ? [`${s.x.toFixed(1)} ${s.y.toFixed(1)}`] : [];
  });
  const laid = dragged ? undefined : presentOf(session.level.objects).laidOf(line.id);
  const moved = (next: readonly Vec3[]) => withPlaces(session, line, next);
  return (
    <svg className="pointer-events-none absolute inset-0 h-full w-full" data-testid="laid-line">
      {way.length > 1 && (
        <g fill="none">
          <path d={`M${way.join('L')}`} stroke="var(--raised)" strokeWidth={4.5} />
          <path d={`M${way.join('L')}`} stroke="var(--blue)" strokeWidth={1.75} strokeDasharray="7 4" />
        </g>
      )}
      {laid?.stretches.map((s) => {
        if (s.left < 1e-3) return null;
        const i = line.corners.findIndex((c) => c.n === s.corner);
        const [a, b] = [places[i], places[(i + 1) % places.length]];
        const p = a && b && view.project([a[0] + (b[0] - a[0]) * 0.92, a[1] + (b[1] - a[1]) * 0.92, a[2] + (b[2] - a[2]) * 0.92]);
        return (
          p && (
            <text
              key={s.corner}
              x={p.x}
              y={p.y + 22}
              textAnchor="middle"
              className="fig"
              fontSize={13}
              fontWeight={600}
              fill="var(--blue)"
              stroke="var(--raised)"
              strokeWidth={4}
              paintOrder="stroke"
            >
              {s.left.toFixed(2)} left
            </text>
          )
        );
      })}
      {open && (
        <CornerHandles
          view={view}
          corners={places}
          loop={closed}
          what={closed ? 'laid outline' : 'laid line'}
          refuse={(why) => session.say(why, true)}
          at={(e: PointerEvent) => {
            const box = frame.current!.getBoundingClientRect();
            return [e.clientX - box.left, e.clientY - box.top];
          }}
          place={(x, y, from, free) => {
            const pick = view.pick(x, y, new Set([line.id]));
            if (!pick) return undefined;
            const { snap } = useUi.getState();
            const [px, py, pz] = pick.point;
            return free ? pick.point : [snapTo(px, snap), Number.isFinite(py) ? py : from[1], snapTo(pz, snap)];
          }}
          preview={(next) => {
            const as = next && moved(next);
            setDragged(as);
            view.setPiecePreview(as && asPieces(session, as));
          }}
          commit={(next, verb) => setLines(session, [line], () => ({ corners: moved(next).corners }), verb)}
        />
      )}
    </svg>
  );
}
