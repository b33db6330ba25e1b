import type { PointerEvent, RefObject } from 'react';
import { heightAt } from '@rammer/core/earth/sample';
import { routeLine } from '@rammer/core/earth/routeLine';
import { parseObject, type Landform, type Lift, type Pad, type Route } from '@rammer/core/level/objects';
import type { Vec3 } from '@rammer/core/num/vec';
import type { Session } from '../../store/session';
import { useEarth } from '../../store/earthDraft';
import { snapTo, useUi } from '../../store/ui';
import { useSession } from '../../store/useSession';
import { chosenLift, setLift } from '../lifts';
import { mm } from '../things';
import { CornerHandles } from './CornerHandles';
import type { LevelView } from '../../view/LevelView';
import { OutlineHandles } from './OutlineHandles';
import { rayPlane } from '../../view/project';
import { useDrawnFrame } from '../../view/useFrame';
import { WindowHandles } from './WindowHandles';

/** The chosen lift in the view: its outline on the ground and that of its mask, and their corners to be dragged. */
export function LiftHandles({ session, view, frame }: { session: Session; view: LevelView; frame: RefObject<HTMLDivElement | null> }) {
  useDrawnFrame(view);
  useSession(session);
  const stage = useUi((s) => s.stage);
  const tool = useUi((s) => s.tool);
  const id = useEarth((s) => s.lift);
  const work = useEarth((s) => s.workWindow);
  // As it is being dragged, where it is.
  const lift = stage === 'earth' ? (session.stack.find((l) => l.id === id) ?? chosenLift(session, id)) : undefined;
  if (!lift) return null;
  const shaped = lift.lift === 'noise' || lift.lift === 'hand' || lift.lift === 'weather' || lift.lift === 'survey' ? undefined : lift;
  const mask = lift.mask?.outline;
  const open = tool === 'select' && !lift.locked && session.writable;
  if (!shaped && !mask && work?.lift !== lift.id) return null;
  return (
    <svg className="pointer-events-none absolute inset-0 h-full w-full" data-testid="lift-handles" aria-hidden>
      {mask && (
        <OutlineHandles
          session={session}
          view={view}
          frame={frame}
          outline={mask.line}
          what="mask"
          dash="6 4"
          colour="var(--blue)"
          open={open && !shaped}
          commit={(line, verb) => setLift(session, lift, { mask: { ...lift.mask, outline: { ...mask, line } } }, `${verb} the mask of ${lift.name}`)}
        />
      )}
      {shaped && <ShapeHandles session={session} view={view} frame={frame} lift={shaped} open={open && !work} />}
      {work?.lift === lift.id && <WindowHandles session={session} view={view} frame={frame} work={work} />}
    </svg>
  );
}

/** The outline of a lift that has one. */
function ShapeHandles({
  session,
  view,
  frame,
  lift,
  open,
}: {
  session: Session;
  view: LevelView;
  frame: RefObject<HTMLDivElement | null>;
  lift: Landform | Route | Pad;
  open: boolean;
}) {
  const shape = shapeOf(session, lift);
  const at = (e: PointerEvent): [number, number] => {
    const box = frame.current!.getBoundingClientRect();
    return [e.clientX - box.left, e.clientY - box.top];
  };
  const show = (next?: Lift) => {
    const rect = session.scene.terrain.preview(next && new Map([[next.id, next]]));
    if (rect) view.terrainPreview(rect);
    view.request();
  };
  const withLine = (line: readonly Vec3[]): Lift | undefined => {
    const parsed = parseObject({ ...lift, ...shape.fields(line) });
    return parsed.ok ? (parsed.object as Lift) : undefined;
  };
  const path = shape.path.flatMap((p) => {
    const s = view.project(p);
    return s ? [`${s.x.toFixed(1)} ${s.y.toFixed(1)}`] : [];
  });
  const d = path.length > 1 ? `M${path.join('L')}${shape.loop ? 'z' : ''}` : '';
  return (
    <>
      <g fill="none">
        <path d={d} stroke="var(--raised)" strokeWidth={5} />
        <path d={d} stroke="var(--blue)" strokeWidth={2} strokeDasharray={lift.locked ? '2 4' : undefined} />
      </g>
      {open && shape.corners.length > 0 && (
        <CornerHandles
          view={view}
          corners={shape.corners}
          loop={shape.loop}
          what={lift.lift}
          at={at}
          refuse={(why) => session.say(why, true)}
          place={(x, y, from, free) => {
            const p = rayPlane(view.ray(x, y), from, [0, 1, 0]);
            const { snap } = useUi.getState();
            return p && [free ? mm(p[0]) : snapTo(p[0], snap), from[1], free ? mm(p[2]) : snapTo(p[2], snap)];
          }}
          preview={(line) => show(line && withLine(line))}
          commit={(line, verb) => setLift(session, lift, shape.fields(line), `${verb} ${lift.name}`)}
        />
      )}
    </>
  );
}

interface Shape {
  corners: Vec3[];
  loop: boolean;
  /** the outline or line as it is drawn */
  path: Vec3[];
  /** fields of the lift for other corners */
  fields(line: readonly Vec3[]): Record<string, unknown>;
}

/** Points along a side this far apart are laid on the ground, metres. */
const APART = 1.5;

function shapeOf(session: Session, lift: Landform | Route | Pad): Shape {
  const ground = (x: number, z: number): Vec3 => [x, heightAt(session.terrain, x, z) + 0.08, z];
  const plan = (line: readonly Vec3[]) => line.map(([x, , z]): [number, number] => [mm(x), mm(z)]);
  const draped = (line: readonly (readonly [number, number])[]): Vec3[] =>
    line.flatMap(([x, z], i) => {
      const [u, v] = line[(i + 1) % line.length];
      const n = Math.max(1, Math.min(60, Math.ceil(Math.hypot(u - x, v - z) / APART)));
      return Array.from({ length: n }, (_, k) => ground(x + ((u - x) * k) / n, z + ((v - z) * k) / n));
    });
  if (lift.lift === 'route') {
    const way = routeLine(lift);
    // Handles stand on the points themselves, which may lie off the graded way.
    return {
      corners: lift.line as Vec3[],
      loop: false,
      path: Array.from({ length: way.count }, (_, i): Vec3 => [way.x[i], way.y[i] + 0.1, way.z[i]]),
      fields: (line) => ({ line: line.map((p) => p.map(mm)) }),
    };
  }
  if (lift.lift === 'pad') {
    // What follows blocks is moved by moving them.
    const following = (lift.follows?.length ?? 0) > 0;
    return {
      corners: following ? [] : lift.outline.map(([x, z]) => ground(x, z)),
      loop: true,
      path: draped(lift.outline),
      fields: (line) => ({ outline: plan(line) }),
    };
  }
  if (lift.line.length > 1)
    return { corners: lift.line.map(([x, z]) => ground(x, z)), loop: true, path: draped(lift.line), fields: (line) => ({ line: plan(line) }) };
  const [[x, z]] = lift.line;
  const ring = Array.from({ length: 48 }, (_, i): [number, number] => [
    x + Math.cos((i / 24) * Math.PI) * lift.radius,
    z + Math.sin((i / 24) * Math.PI) * lift.radius,
  ]);
  // The middle moves it, the second handle sizes it.
  return {
    corners: [ground(x, z), ground(x + lift.radius, z)],
    loop: false,
    path: ring.map(([u, v]) => ground(u, v)),
    fields: ([middle, rim]) => {
      const moved = Math.hypot(middle[0] - x, middle[2] - z) > 0.001;
      return moved ? { line: [[mm(middle[0]), mm(middle[2])]] } : { radius: Math.max(0.5, mm(Math.hypot(rim[0] - middle[0], rim[2] - middle[2]))) };
    },
  };
}
