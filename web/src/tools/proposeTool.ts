import { barred } from '@rammer/core/earth/water';
import { playerBody } from '@rammer/core/level/level';
import type { Vec3 } from '@rammer/core/num/vec';
import { useEarth } from '../store/earthDraft';
import { useUi } from '../store/ui';
import { earthWorker } from '../workers/pool';
import { addLift } from './lifts';
import { mm } from './things';
import type { Tool, ToolContext, ToolMark } from './tool';

/** Two clicks, and a route between them is proposed that keeps the grade; another seed proposes another. */
export function proposeTool({ session }: ToolContext): Tool {
  let from: Vec3 | undefined;
  let over: Vec3 | undefined;
  let looking = false;
  const propose = async (a: Vec3, b: Vec3) => {
    const { route, proposalSeed } = useEarth.getState();
    looking = true;
    session.say('looking for a way');
    try {
      const { terrain, scene, level } = session;
      const found = await earthWorker().propose(
        { grid: terrain.grid, heights: terrain.heights, noise: new Map(), barred: barred(terrain, scene.waters.bodies, playerBody(level).figures.wade).barred },
        [a[0], a[2]],
        [b[0], b[2]],
        { grade: route.grade, seed: proposalSeed },
      );
      if (!found.ok) session.say(found.message, true);
      else if (addLift(session, { lift: 'route', line: found.line.map((p) => p.map(mm) as Vec3), ...route })) useUi.getState().setTool('select');
    } catch (error) {
      session.say(`no route could be proposed: ${(error as Error).message}`, true);
    }
    looking = false;
  };
  return {
    begin(e) {
      if (!e.pick) return false;
      if (!session.writable) {
        session.say('this level is read only here: take over to edit it', true);
        return true;
      }
      if (looking) return true;
      if (!from) from = e.pick.point;
      else {
        void propose(from, e.pick.point);
        from = undefined;
      }
      return true;
    },
    move() {},
    end() {},
    cancel() {
      from = undefined;
    },
    cursor(e) {
      over = e.pick?.point;
    },
    marks(): ToolMark[] {
      if (!over) return [];
      if (!from) return [{ kind: 'label', at: over, text: 'a route from here' }];
      const rise = over[1] - from[1];
      return [
        { kind: 'ring', points: [from, over], dashed: true },
        { kind: 'label', at: over, text: `to here, ${rise >= 0 ? 'up' : 'down'} ${Math.abs(rise).toFixed(1)} m at ${useEarth.getState().route.grade} %` },
      ];
    },
  };
}
