import { composeRect } from '../../earth/compose';
import type { ConditionOf, FieldKind } from './field';

let _heights = new Float32Array(0);

/** What one lift does to the ground: the stack with it less the stack up to it. */
export const lift: FieldKind<ConditionOf<'lift'>> = {
  unit: 'm', looksAt: 'lifts',
  make({ lift: id }, { terrain, stack, tiles }, rect) {
    const at = stack.findIndex((l) => l.id === id);
    if (at < 0) return { at: () => NaN };
    const w = rect.x1 - rect.x0 + 1;
    const change = new Float32Array(w * (rect.z1 - rect.z0 + 1));
    if (_heights.length !== terrain.heights.length) _heights = new Float32Array(terrain.heights.length);
    composeRect({ ...terrain, heights: _heights }, stack.slice(0, at + 1), tiles, rect, (of, below, window, own) => {
      if (of.id !== id) return;
      for (let z = Math.max(own.z0, rect.z0); z <= Math.min(own.z1, rect.z1); z++) {
        const row = (z - window.z0) * window.w - window.x0;
        for (let x = Math.max(own.x0, rect.x0); x <= Math.min(own.x1, rect.x1); x++) change[(z - rect.z0) * w + x - rect.x0] = window.heights[row + x] - below[row + x];
      }
    });
    return { at: (x, z) => change[(z - rect.z0) * w + x - rect.x0] };
  },
};
