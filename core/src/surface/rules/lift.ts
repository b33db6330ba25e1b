import { composeRect, liftRect } from '../../earth/compose';
import { sharedRect } from '../../earth/rect';
import type { ConditionOf, FieldKind } from './field';

let _heights = new Float32Array(0);

/** What one lift does to the ground: the stack with it less the stack up to it; nothing beyond its reach. */
export const lift: FieldKind<ConditionOf<'lift'>> = {
  unit: 'm',
  cost: 1,
  looksAt: 'lifts',
  make({ lift: id }, { terrain, stack, tiles }, rect) {
    const at = stack.findIndex((l) => l.id === id);
    if (at < 0) return { at: () => NaN };
    const reach = liftRect(stack[at], terrain, tiles);
    const part = reach && stack[at].visible ? sharedRect(reach, rect) : undefined;
    if (!part) return { at: () => 0, within: 'nowhere' };
    const { x0, z0, x1, z1 } = part;
    const w = x1 - x0 + 1;
    const change = new Float32Array(w * (z1 - z0 + 1));
    if (_heights.length !== terrain.heights.length) _heights = new Float32Array(terrain.heights.length);
    composeRect({ ...terrain, heights: _heights }, stack.slice(0, at + 1), tiles, part, (of, below, window, own) => {
      if (of.id !== id) return;
      for (let z = Math.max(own.z0, z0); z <= Math.min(own.z1, z1); z++) {
        const row = (z - window.z0) * window.w - window.x0;
        for (let x = Math.max(own.x0, x0); x <= Math.min(own.x1, x1); x++) change[(z - z0) * w + x - x0] = window.heights[row + x] - below[row + x];
      }
    });
    return { within: part, at: (x, z) => (x < x0 || z < z0 || x > x1 || z > z1 ? 0 : change[(z - z0) * w + x - x0]) };
  },
};
