import { liftStack, settingsOf, type Level } from '../level/level';
import type { Lift, NoiseLift } from '../level/objects';
import { gridOf, ownedRange, ownerTile, TILE_SIDE, TILE_QUADS, tileKey, type Grid, type Tiles } from '../level/tiles';
import { FIXED_ONE } from '../num/fixed';
import { noiseLiftHash, noiseLiftRaster } from './noiseLift';

/** A rectangle of samples, inclusive on all sides. */
export interface Rect {
  x0: number;
  z0: number;
  x1: number;
  z1: number;
}

/** The smallest rectangle that holds both; one alone where the other is not there. */
export const uniteRects = (a: Rect | undefined, b: Rect): Rect => (a ? { x0: Math.min(a.x0, b.x0), z0: Math.min(a.z0, b.z0), x1: Math.max(a.x1, b.x1), z1: Math.max(a.z1, b.z1) } : b);

/**
 * The terrain of a level: its grid and the composed heights, metres, one float32 a sample, row by
 * row (z outer). `noise` keeps the raster of each noise lift under its input hash.
 */
export interface Terrain {
  grid: Grid;
  heights: Float32Array;
  noise: Map<string, Float32Array>;
}

export const wholeRect = (grid: Grid): Rect => ({ x0: 0, z0: 0, x1: grid.nx - 1, z1: grid.nz - 1 });

/** Noise lifts of a level whose raster is not in `noise` yet, with their hashes. */
export function missingNoise(level: Level, noise: ReadonlyMap<string, Float32Array>): { hash: string; lift: NoiseLift }[] {
  const grid = gridOf(settingsOf(level));
  const missing: { hash: string; lift: NoiseLift }[] = [];
  for (const lift of liftStack(level)) {
    if (lift.lift !== 'noise' || !lift.visible) continue;
    const hash = noiseLiftHash(lift, grid);
    if (!noise.has(hash)) missing.push({ hash, lift });
  }
  return missing;
}

/** Composes the whole terrain of a level, making what noise rasters are missing. */
export function composeTerrain(level: Level, noise: Map<string, Float32Array> = new Map()): Terrain {
  const grid = gridOf(settingsOf(level));
  for (const { hash, lift } of missingNoise(level, noise)) noise.set(hash, noiseLiftRaster(lift, grid)!);
  const terrain: Terrain = { grid, heights: new Float32Array(grid.nx * grid.nz), noise };
  composeRect(terrain, liftStack(level), level.tiles, wholeRect(grid));
  return terrain;
}

/**
 * Recomposes a rectangle of samples in place: a pure function of the lifts at each sample, so that
 * a rectangle gives the same bits as the whole.
 *
 * From the lowest lift up: noise adds its contribution; a hand lift gives
 * lerp(below + delta, held, weight) from its three channels.
 *
 * @throws Error when a visible noise lift has no raster in `terrain.noise`
 */
export function composeRect(terrain: Terrain, stack: readonly Lift[], tiles: Tiles, rect: Rect): void {
  const { grid } = terrain;
  const layers = stack.filter((l) => l.visible).map((lift) => {
    if (lift.lift === 'hand') return { lift, raster: undefined };
    const raster = terrain.noise.get(noiseLiftHash(lift, grid));
    if (!raster) throw new Error(`noise of lift ${lift.id} is not there yet`);
    return { lift, raster };
  });
  for (let tz = ownerTile(rect.z0); tz <= ownerTile(rect.z1); tz++) {
    for (let tx = ownerTile(rect.x0); tx <= ownerTile(rect.x1); tx++) {
      const cols = ownedRange(tx);
      const rows = ownedRange(tz);
      const x0 = Math.max(rect.x0, cols.first);
      const x1 = Math.min(rect.x1, cols.last);
      const z0 = Math.max(rect.z0, rows.first);
      const z1 = Math.min(rect.z1, rows.last);
      for (let z = z0; z <= z1; z++) terrain.heights.fill(0, z * grid.nx + x0, z * grid.nx + x1 + 1);
      for (const { lift, raster } of layers) {
        if (raster) addRaster(terrain.heights, raster, grid.nx, x0, z0, x1, z1);
        else applyHand(terrain.heights, tiles, lift.id, grid.nx, tx, tz, x0, z0, x1, z1);
      }
    }
  }
}

function addRaster(heights: Float32Array, raster: Float32Array, nx: number, x0: number, z0: number, x1: number, z1: number): void {
  for (let z = z0; z <= z1; z++) {
    for (let i = z * nx + x0, end = z * nx + x1; i <= end; i++) heights[i] += raster[i];
  }
}

function applyHand(heights: Float32Array, tiles: Tiles, id: string, nx: number, tx: number, tz: number, x0: number, z0: number, x1: number, z1: number): void {
  const delta = tiles.get(tileKey(id, 'delta', tx, tz));
  const weight = tiles.get(tileKey(id, 'weight', tx, tz));
  const held = tiles.get(tileKey(id, 'held', tx, tz));
  if (!delta && !weight) return;
  for (let z = z0; z <= z1; z++) {
    let local = (z - tz * TILE_QUADS) * TILE_SIDE + (x0 - tx * TILE_QUADS);
    for (let i = z * nx + x0, end = z * nx + x1; i <= end; i++, local++) {
      const moved = heights[i] + (delta ? delta[local] / FIXED_ONE : 0);
      const w = weight ? weight[local] / FIXED_ONE : 0;
      heights[i] = w === 0 ? moved : moved + ((held ? held[local] / FIXED_ONE : 0) - moved) * w;
    }
  }
}
