import type { Level } from '../level/level';
import { liftStack } from '../level/level';
import { composeRect, wholeRect, type Terrain } from './compose';

export interface CutAndFill {
  /** m3 taken away and added by the lift, both positive */
  cut: number;
  fill: number;
}

/**
 * Cut and fill of one lift: the terrain with the stack up to and with it, against without it.
 * Each sample stands for spacing x spacing, half at an edge, a quarter at a corner.
 */
export function cutAndFill(level: Level, terrain: Terrain, liftId: string): CutAndFill {
  const stack = liftStack(level);
  const at = stack.findIndex((l) => l.id === liftId);
  if (at < 0 || !stack[at].visible) return { cut: 0, fill: 0 };
  const heights = (lifts: typeof stack) => {
    const t: Terrain = { ...terrain, heights: new Float32Array(terrain.heights.length) };
    composeRect(t, lifts, level.tiles, wholeRect(terrain.grid));
    return t.heights;
  };
  const below = heights(stack.slice(0, at));
  const above = heights(stack.slice(0, at + 1));
  const { nx, nz, spacing } = terrain.grid;
  let cut = 0;
  let fill = 0;
  for (let z = 0, i = 0; z < nz; z++) {
    const rowShare = z === 0 || z === nz - 1 ? 0.5 : 1;
    for (let x = 0; x < nx; x++, i++) {
      const share = rowShare * (x === 0 || x === nx - 1 ? 0.5 : 1);
      const d = above[i] - below[i];
      if (d > 0) fill += d * share;
      else cut -= d * share;
    }
  }
  return { cut: cut * spacing * spacing, fill: fill * spacing * spacing };
}
