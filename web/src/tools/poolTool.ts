import { useEarth } from '../store/earthDraft';
import { useUi } from '../store/ui';
import { newId, nextName } from '../store/names';
import { mm } from './things';
import type { Tool, ToolContext, ToolMark } from './tool';
import type { Vec3 } from '@rammer/core/num/vec';

/** Fills the basin around a click: the water stands as deep there as the bench says. */
export function poolTool({ session }: ToolContext): Tool {
  let over: Vec3 | undefined;
  return {
    begin(e) {
      if (!e.pick) return false;
      if (!session.writable) {
        session.say('this level is read only here: take over to edit it', true);
        return true;
      }
      const [x, y, z] = e.pick.point;
      const id = newId('water');
      const water = {
        id,
        version: 1,
        kind: 'water' as const,
        form: 'pool' as const,
        name: nextName(session.level, 'pool'),
        seed: [mm(x), mm(z)] as [number, number],
        height: mm(y + useEarth.getState().poolDepth),
        hidden: false,
        out: false,
      };
      if (session.commit({ kind: 'add', objects: [water] }, `fill ${water.name}`)) {
        useEarth.setState({ water: id, lift: undefined });
        useUi.getState().setTool('select');
      }
      return true;
    },
    move() {},
    end() {},
    cancel() {},
    cursor(e) {
      over = e.pick?.point;
    },
    marks(): ToolMark[] {
      return over
        ? [
            {
              kind: 'label',
              at: over,
              text: `pool from here, ${useEarth.getState().poolDepth.toFixed(2)} m deep: ${(over[1] + useEarth.getState().poolDepth).toFixed(2)} m`,
            },
          ]
        : [];
    },
  };
}
