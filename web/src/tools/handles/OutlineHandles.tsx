import { useState, type PointerEvent, type RefObject } from 'react';
import { heightAt } from '@rammer/core/earth/sample';
import { crossing, type Point2 } from '@rammer/core/num/outline';
import type { Vec3 } from '@rammer/core/num/vec';
import type { Session } from '../../store/session';
import { snapTo, useUi } from '../../store/ui';
import { mm } from '../things';
import { CornerHandles } from './CornerHandles';
import { drapedPath } from '../../view/draped';
import type { LevelView } from '../../view/LevelView';
import { rayPlane } from '../../view/project';

interface Props {
  session: Session;
  view: LevelView;
  frame: RefObject<HTMLDivElement | null>;
  outline: readonly Point2[];
  /** in words */
  what: string;
  dash: string;
  colour: string;
  /** the corners can be dragged */
  open: boolean;
  commit(outline: Point2[], verb: string): void;
}

/** An outline that lies on the ground; its corners are dragged in plan, new ones drawn out of its sides, Alt and a click takes one out. */
export function OutlineHandles({ session, view, frame, outline, what, dash, colour, open, commit }: Props) {
  const [dragged, setDragged] = useState<Point2[]>();
  const plan = (line: readonly Vec3[]): Point2[] => line.map(([x, , z]) => [mm(x), mm(z)]);
  const d = drapedPath(view, session.terrain, dragged ?? outline, true);
  return (
    <g fill="none">
      <path d={d} stroke="var(--raised)" strokeWidth={5} />
      <path d={d} stroke={colour} strokeWidth={2} strokeDasharray={dash} />
      {open && (
        <CornerHandles
          view={view}
          corners={(dragged ?? outline).map(([x, z]): Vec3 => [x, heightAt(session.terrain, x, z) + 0.1, z])}
          loop
          what={what}
          refuse={(why) => session.say(why, true)}
          at={(e: PointerEvent) => {
            const box = frame.current!.getBoundingClientRect();
            return [e.clientX - box.left, e.clientY - box.top];
          }}
          place={(x, y, from, free) => {
            const p = rayPlane(view.ray(x, y), from, [0, 1, 0]);
            const { snap } = useUi.getState();
            return p && [free ? mm(p[0]) : snapTo(p[0], snap), from[1], free ? mm(p[2]) : snapTo(p[2], snap)];
          }}
          preview={(line) => setDragged(line && plan(line))}
          commit={(line, verb) => {
            const found = crossing(plan(line));
            if (found)
              session.say(
                `${what}: the outline would cross itself: the side from corner ` +
                  `${found[0] + 1} meets the side from corner ${found[1] + 1}; its last shape is kept`,
                true,
              );
            else commit(plan(line), verb);
          }}
        />
      )}
    </g>
  );
}
