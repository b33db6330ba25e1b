import { liftStack, settingsOf, type Level } from '../level/level';
import type { Blend, Lift, NoiseLift } from '../level/objects';
import { gridOf, TILE_SIDE, type Grid, type Tiles } from '../level/tiles';
import { passOf } from './lifts';
import { noiseLiftHash, noiseLiftRaster } from './lifts/noise';
import type { Pass, Window } from './lifts/pass';
import { looksAround, maskOf } from './mask';
import { grownRect, overTiles, sharedRect, uniteRects, wholeRect, type Rect } from './rect';

export { uniteRects, wholeRect, type Rect };

/** Of a sample that is not barred. */
export const OPEN = -Infinity;

/**
 * The terrain of a level: its grid and the composed heights, metres, one float32 a sample, row by
 * row (z outer). `noise` keeps the raster of each noise lift under its input hash.
 */
export interface Terrain {
  grid: Grid;
  heights: Float32Array;
  noise: Map<string, Float32Array>;
  /** row those rasters begin with, see EarthSource */
  noiseFrom?: number;
  /** height in metres under which a body may not stand, at samples whose ground is so deep in water, see earth/water; `OPEN` elsewhere */
  barred?: Float32Array;
}

/** Noise lifts of a level whose raster is not in `noise` yet, with their hashes. */
export const missingNoise = (level: Level, noise: ReadonlyMap<string, Float32Array>): { hash: string; lift: NoiseLift }[] =>
  noiseOf(liftStack(level), gridOf(settingsOf(level))).filter(({ hash }) => !noise.has(hash));

/** Noise lifts of a stack that take part in it, with the hashes of their rasters. */
export const noiseOf = (stack: readonly Lift[], grid: Grid): { hash: string; lift: NoiseLift }[] =>
  stack.flatMap((lift) => (lift.lift === 'noise' && lift.visible && lift.weight !== 0 ? [{ hash: noiseLiftHash(lift, grid), lift }] : []));

/** Composes the whole terrain of a level, making what noise rasters are missing. */
export function composeTerrain(level: Level, noise: Map<string, Float32Array> = new Map()): Terrain {
  const grid = gridOf(settingsOf(level));
  for (const { hash, lift } of missingNoise(level, noise)) noise.set(hash, noiseLiftRaster(lift, grid));
  const terrain: Terrain = { grid, heights: new Float32Array(grid.nx * grid.nz), noise };
  composeRect(terrain, liftStack(level), level.tiles, wholeRect(grid));
  return terrain;
}

/** Told of each lift in turn, over one tile: what lay below it and what lies on it; `own` are the tile's own samples. */
export type LiftWatcher = (lift: Lift, below: Float32Array, window: Window, own: Rect) => void;

/**
 * Recomposes a rectangle of samples in place: a pure function of the lifts at each sample, so that
 * a rectangle gives the same bits as the whole.
 *
 * From the lowest lift up, by its blend and with k = weight x mask: add h + k v, max h + k (max(h, v) - h),
 * min likewise, replace h + k (v - h). A mask by slope looks one sample around, so that what changed
 * reaches one sample farther for each.
 *
 * @param rect samples whose lifts changed
 * @returns the samples that were composed anew
 * @throws Error when a visible noise lift has no raster in `terrain.noise`
 */
export function composeRect(terrain: Terrain, stack: readonly Lift[], tiles: Tiles, rect: Rect, watch?: LiftWatcher): Rect {
  const { grid, noise, noiseFrom } = terrain;
  const ready: Ready[] = [];
  for (const [at, lift] of stack.entries()) {
    const pass = passOf(lift, { grid, tiles, noise, noiseFrom });
    if (pass)
      ready.push({
        lift,
        pass,
        blend: lift.blend ?? pass.blend,
        weight: lift.weight ?? 1,
        mask: lift.mask && maskOf(lift.mask, grid, tiles, stack.slice(0, at)),
        around: looksAround(lift.mask),
      });
  }
  const rings = ready.filter((r) => r.around).length;
  const area = grownRect(rect, rings, grid);
  const most = (TILE_SIDE + 2 * rings) ** 2;
  const [heights, out, share] = [new Float32Array(most), new Float32Array(most), new Float32Array(most)];
  const below = watch && new Float32Array(most);
  overTiles(area, (_tx, _tz, own) => {
    const around = grownRect(own, rings, grid);
    const window: Window = { ...around, w: around.x1 - around.x0 + 1, heights };
    heights.fill(0, 0, window.w * (around.z1 - around.z0 + 1));
    for (const r of ready) {
      if (below) below.set(heights);
      run(r, window, out, share);
      watch?.(r.lift, below!, window, own);
    }
    for (let z = own.z0; z <= own.z1; z++) {
      const from = (z - window.z0) * window.w - window.x0;
      terrain.heights.set(heights.subarray(from + own.x0, from + own.x1 + 1), z * grid.nx + own.x0);
    }
  });
  return area;
}

interface Ready {
  lift: Lift;
  pass: Pass;
  blend: Blend;
  weight: number;
  mask?: ReturnType<typeof maskOf>;
  around: boolean;
}

function run({ pass, blend, weight, mask }: Ready, window: Window, out: Float32Array, share: Float32Array): void {
  const part = pass.rect ? sharedRect(window, pass.rect) : { x0: window.x0, z0: window.z0, x1: window.x1, z1: window.z1 };
  if (!part) return;
  pass.write(window, part, out, blend);
  mask?.(window, part, share);
  const h = window.heights;
  for (let z = part.z0; z <= part.z1; z++) {
    const row = (z - window.z0) * window.w - window.x0;
    for (let i = row + part.x0; i <= row + part.x1; i++) {
      const v = out[i];
      // NaN: left alone.
      if (v !== v) continue;
      const k = mask ? weight * share[i] : weight;
      if (blend === 'add') h[i] += k * v;
      else if (blend === 'replace') h[i] = k === 1 ? v : h[i] + k * (v - h[i]);
      else if (blend === 'max' ? v > h[i] : v < h[i]) h[i] = k === 1 ? v : h[i] + k * (v - h[i]);
    }
  }
}

/** Samples a lift can change in a level, or `undefined` for none. */
export function liftRect(lift: Lift, terrain: Terrain, tiles: Tiles): Rect | undefined {
  const pass = passOf(lift, { grid: terrain.grid, tiles, noise: terrain.noise });
  return pass && (pass.rect ?? wholeRect(terrain.grid));
}
