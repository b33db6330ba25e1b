import type { Level } from '../level/level';
import { liftStack } from '../level/level';
import { composeRect, wholeRect, type Terrain } from './compose';

export interface CutAndFill {
  /** m3 taken away and added, both positive */
  cut: number;
  fill: number;
}

/**
 * Cut and fill of every lift, by id: the terrain with the stack up to and with it, against without it.
 * Each sample stands for spacing x spacing, half at an edge, a quarter at a corner.
 */
export function liftVolumes(level: Level, terrain: Terrain): Map<string, CutAndFill> {
  const { grid } = terrain;
  const stack = liftStack(level);
  const volumes = new Map(stack.map((l) => [l.id, { cut: 0, fill: 0 }]));
  const area = grid.spacing * grid.spacing;
  const scratch: Terrain = { ...terrain, heights: new Float32Array(terrain.heights.length) };
  composeRect(scratch, stack, level.tiles, wholeRect(grid), (lift, below, window, own) => {
    const volume = volumes.get(lift.id)!;
    for (let z = own.z0; z <= own.z1; z++) {
      const rowArea = area * (z === 0 || z === grid.nz - 1 ? 0.5 : 1);
      const row = (z - window.z0) * window.w - window.x0;
      for (let x = own.x0; x <= own.x1; x++) {
        const d = window.heights[row + x] - below[row + x];
        if (d === 0) continue;
        const v = d * rowArea * (x === 0 || x === grid.nx - 1 ? 0.5 : 1);
        if (v > 0) volume.fill += v;
        else volume.cut -= v;
      }
    }
  });
  return volumes;
}

/** Terrain of a level below one of its lifts, and with it. */
export function aroundLift(level: Level, terrain: Terrain, id: string): { below: Terrain; above: Terrain } | undefined {
  const stack = liftStack(level);
  const at = stack.findIndex((l) => l.id === id);
  if (at < 0) return undefined;
  const part = (count: number): Terrain => {
    const made: Terrain = { ...terrain, heights: new Float32Array(terrain.heights.length) };
    composeRect(made, stack.slice(0, count), level.tiles, wholeRect(terrain.grid));
    return made;
  };
  return { below: part(at), above: part(at + 1) };
}
