import type { Surface } from '@rammer/core/level/lay/dressed';
import { THROWN_RADIUS } from '@rammer/core/play/throwPieces';
import type { Vec3 } from '@rammer/core/num/vec';
import { useDressing } from '../store/dressing';
import { brushRadius, ringAt } from './brushRing';
import { rollAgain } from './dressed';
import { throwAt } from './throwing';
import type { Tool, ToolContext, ToolEvent, ToolMark } from './tool';

/** Throws pieces at what is under the pointer: they fall, settle and stay. R throws the last ones again, Escape stops a fall. */
export function throwTool(context: ToolContext): Tool {
  const { session } = context;
  let at: Surface | undefined;
  const under = (e: ToolEvent): Surface | undefined => (e.pick ? { at: e.pick.point, normal: e.pick.normal } : undefined);
  return {
    begin(e) {
      at = under(e);
      const { of, strokes, falling } = useDressing.getState();
      if (!at) return false;
      if (!session.writable) session.say('this level is read only here: take over to edit it', true);
      else if (of.list.length === 0) session.say('there is nothing to throw yet: click pieces in the library', true);
      else if (falling) session.say('the last throw still falls: wait for it, or stop it with Escape', true);
      else {
        useDressing.setState({ strokes: strokes + 1 });
        void throwAt(context, of, at, strokes);
      }
      return true;
    },
    move() {},
    end() {},
    cancel() {
      useDressing.getState().falling?.stop();
    },
    cursor(e) {
      at = under(e);
    },
    key(key) {
      if (brushRadius(key, THROWN_RADIUS)) return true;
      if (key.toLowerCase() !== 'r') return false;
      rollAgain(session);
      return true;
    },
    marks(): ToolMark[] {
      if (!at) return [];
      const { radius, of, throwing, falling } = useDressing.getState();
      const over: Vec3 = [at.at[0], at.at[1] + throwing.height, at.at[2]];
      const ring = ringAt({ at: over, normal: [0, 1, 0] }, Math.min(radius, THROWN_RADIUS));
      const text = falling
        ? `${falling.count} of ${falling.of} fall, ${falling.seconds.toFixed(1)} s`
        : of.list.length === 0
          ? 'nothing to throw'
          : `throw ${throwing.count} from ${throwing.height.toFixed(2)} m`;
      return [
        { kind: 'ring', points: ring, dashed: true },
        { kind: 'ring', points: [over, at.at], dashed: true },
        { kind: 'label', at: ring[12], text },
      ];
    },
  };
}
