import type { Grid } from '../../level/tiles';
import { distanceToMarked, nearestMarked } from '../../num/nearest';
import type { Wet } from './field';

/** One entry a sample: metres from the nearest shore, negative in the water, and the height of the water there, metres. */
export interface Shores {
  distance: Float32Array;
  level: Float32Array;
}

const known = new WeakMap<readonly Wet[], Shores>();

/**
 * Where the shores are, to half a sample: a shore lies midway between a wet sample and a dry one.
 * Where waters lie over each other the highest counts.
 *
 * @returns nothing where there is no water; the same object as long as the list of waters is the same
 */
export function shores(grid: Grid, waters: readonly Wet[]): Shores | undefined {
  if (waters.length === 0) return undefined;
  const old = known.get(waters);
  if (old) return old;
  const { nx, nz, spacing } = grid;
  const wet = new Uint8Array(nx * nz);
  const level = new Float32Array(nx * nz).fill(-Infinity);
  for (const { rect, wet: marks, height, levels } of waters) {
    const w = rect.x1 - rect.x0 + 1;
    for (let k = 0; k < marks.length; k++) {
      if (marks[k] === 0) continue;
      const i = (rect.z0 + Math.floor(k / w)) * nx + rect.x0 + (k % w);
      wet[i] = 1;
      const own = levels ? levels[k] : height;
      if (own > level[i]) level[i] = own;
    }
  }
  const near = nearestMarked(wet, nx, nz);
  if (near[0] < 0) return undefined;
  const land = distanceToMarked(wet, nx, nz);
  const sea = distanceToMarked(
    wet.map((v) => 1 - v),
    nx,
    nz,
  );
  const distance = new Float32Array(nx * nz);
  for (let i = 0; i < distance.length; i++) {
    distance[i] = (wet[i] ? 0.5 - Math.min(sea[i], nx + nz) : land[i] - 0.5) * spacing;
    if (!wet[i]) level[i] = level[near[i]];
  }
  const made = { distance, level };
  known.set(waters, made);
  return made;
}
