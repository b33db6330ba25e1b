import { beginStroke, endStroke } from '@rammer/core/earth/brush';
import { rampStroke } from '@rammer/core/earth/dab';
import { packRaster, toBase64 } from '@rammer/core/num/fixed';
import type { Vec3 } from '@rammer/core/num/vec';
import { useEarth } from '../store/earthDraft';
import { sculptedLift } from './sculptedLift';
import type { Tool, ToolContext, ToolMark } from './tool';

/** Drags a ramp from ground to ground: it is held straight between the two heights, as wide as the brush. */
export function rampTool({ session }: ToolContext): Tool {
  let from: Vec3 | undefined;
  let to: Vec3 | undefined;
  return {
    begin(e) {
      if (!e.pick || !sculptedLift(session)) return e.pick !== undefined;
      from = to = e.pick.point;
      return true;
    },
    move(e) {
      to = e.pick?.point ?? to;
    },
    end() {
      const [a, b] = [from, to];
      from = undefined;
      const lift = sculptedLift(session);
      if (!a || !b || !lift) return;
      const buffer = beginStroke(lift.id, session.terrain.grid);
      if (!rampStroke(buffer, session.level.tiles, a, b, useEarth.getState().brush)) session.say('drag from where the ramp begins to where it ends', true);
      else session.commit({ kind: 'stroke', tiles: endStroke(buffer).map(({ key, delta }) => ({ key, delta: toBase64(packRaster(delta)) })) }, 'ramp ground');
    },
    cancel() {
      from = undefined;
    },
    cursor(e) {
      to = e.pick?.point;
    },
    marks(): ToolMark[] {
      if (!to) return [];
      const { radius } = useEarth.getState().brush;
      if (!from) return [{ kind: 'label', at: to, text: `ramp from here, ${(radius * 2).toFixed(1)} m wide` }];
      const [dx, dz] = [to[0] - from[0], to[2] - from[2]];
      const l = Math.hypot(dx, dz);
      if (l < 0.1) return [];
      const [sx, sz] = [(-dz / l) * radius, (dx / l) * radius];
      const side = (p: Vec3, k: number): Vec3 => [p[0] + sx * k, p[1], p[2] + sz * k];
      const rise = to[1] - from[1];
      return [
        { kind: 'ring', points: [side(from, 1), side(to, 1), side(to, -1), side(from, -1), side(from, 1)], dashed: true },
        { kind: 'ring', points: [from, to], dashed: false },
        {
          kind: 'label',
          at: to,
          text:
            `${l.toFixed(1)} m, ${rise >= 0 ? 'up' : 'down'} ${Math.abs(rise).toFixed(2)} ` +
            `m, ${((Math.atan2(Math.abs(rise), l) * 180) / Math.PI).toFixed(0)}°`,
        },
      ];
    },
  };
}
