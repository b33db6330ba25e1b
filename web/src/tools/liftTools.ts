import { outlineFault } from '@rammer/core/level/objects';
import type { Point2 } from '@rammer/core/num/outline';
import type { Vec3 } from '@rammer/core/num/vec';
import { useEarth } from '../store/earthDraft';
import { useUi } from '../store/ui';
import { drawTool } from './drawTool';
import { addLift, meanGround } from './lifts';
import type { Tool, ToolContext } from './tool';

const plan = (corners: readonly Vec3[]): Point2[] => corners.map(([x, , z]) => [x, z]);

/** A landform from an outline, or round from its middle. */
export function landformTool(context: ToolContext): Tool {
  const { session } = context;
  const add = (line: Point2[], radius?: number): boolean => {
    const fault = line.length > 2 ? outlineFault(line) : undefined;
    if (fault) {
      session.say(`${fault}, or take it back with Backspace`, true);
      return false;
    }
    if (
      addLift(session, {
        lift: 'landform',
        line,
        ...useEarth.getState().landform,
        ...(radius === undefined ? { radius: 10 } : { radius, foot: Math.min(useEarth.getState().landform.foot, radius) }),
        seed: 1,
      })
    )
      useUi.getState().setTool('select');
    return true;
  };
  return drawTool(context, { what: 'landform', closed: true, done: (corners) => add(plan(corners)), round: ([x, , z], radius) => add([[x, z]], radius) });
}

/** Level ground under an outline, at the mean of the ground at its corners. */
export function padTool(context: ToolContext): Tool {
  const { session } = context;
  return drawTool(context, {
    what: 'pad',
    closed: true,
    done(corners) {
      const outline = plan(corners);
      const fault = outlineFault(outline);
      if (fault) {
        session.say(`${fault}, or take it back with Backspace`, true);
        return false;
      }
      if (addLift(session, { lift: 'pad', outline, height: meanGround(session, outline), ...useEarth.getState().pad })) useUi.getState().setTool('select');
      return true;
    },
  });
}

/** A way along clicked points, at the heights of the ground there. */
export function routeTool(context: ToolContext): Tool {
  const { session } = context;
  return drawTool(context, {
    what: 'route',
    closed: false,
    done(line) {
      if (addLift(session, { lift: 'route', line, ...useEarth.getState().route })) useUi.getState().setTool('select');
      return true;
    },
    word(corners, to) {
      const last = corners[corners.length - 1];
      const run = Math.hypot(to[0] - last[0], to[2] - last[2]);
      const grade = run > 0 ? ((to[1] - last[1]) / run) * 100 : 0;
      const most = useEarth.getState().route.grade;
      return `${grade >= 0 ? 'up' : 'down'} ${Math.abs(grade).toFixed(0)} %${Math.abs(grade) > most ? `, held to ${most} %` : ''}`;
    },
  });
}
