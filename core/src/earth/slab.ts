import { liftStack, settingsOf, type Level } from '../level/level';
import type { Lift } from '../level/objects';
import { gridOf, ownerTile, parseTileKey, TILE_QUADS, type Grid, type Tiles } from '../level/tiles';
import { composeRect, noiseOf, type Terrain } from './compose';
import { coarseNoiseRows, noiseLiftRows } from './lifts/noise';
import { looksAround } from './mask';
import { grownRect, type Rect } from './rect';

/** Rows of a raster of the whole grid: `data` holds those of `rect`, which spans its width. */
export interface Rows {
  rect: Rect;
  data: Float32Array;
}

/**
 * A part of a level to be composed by itself, in a worker of its own: whole rows of samples, with all that
 * is needed for them and nothing else.
 */
export interface SlabJob {
  grid: Grid;
  stack: readonly Lift[];
  tiles: [key: string, samples: Int32Array][];
  rect: Rect;
  /** rows of the noise rasters that are there already, by hash; those that are not are made */
  noise: [hash: string, rows: Rows][];
  /** samples between two looks at noise that is made: 1 where absent, more only for a small picture */
  every?: number;
}

export interface SlabResult extends Rows {
  /** the same rows of each noise raster that was made */
  made: [hash: string, data: Float32Array][];
}

/** What slabs are cut from. */
export type SlabSource = Pick<Terrain, 'grid' | 'noise'> & { stack: readonly Lift[]; tiles: Tiles };

/** The level's rows in `count` parts of whole tiles, from the north. */
export function slabRects({ nx, tilesZ }: Grid, count: number): Rect[] {
  const parts = Math.max(1, Math.min(count, tilesZ));
  const end = (i: number) => Math.round((i * tilesZ) / parts) * TILE_QUADS;
  return Array.from({ length: parts }, (_, i) => ({ x0: 0, z0: i === 0 ? 0 : end(i) + 1, x1: nx - 1, z1: end(i + 1) }));
}

/** Rows of a raster of the whole grid, as a copy: a view would take the whole of it along to the worker. */
export const rowsOf = (raster: Float32Array, rect: Rect, { nx }: Grid): Rows => ({ rect, data: raster.slice(rect.z0 * nx, (rect.z1 + 1) * nx) });

/** The tiles of some owners on the rows of a rectangle. */
export function tilesOn(tiles: Tiles, rect: Rect, owners: ReadonlySet<string>): [string, Int32Array][] {
  const first = ownerTile(rect.z0);
  const last = ownerTile(rect.z1);
  return [...tiles].filter(([key]) => {
    const { lift, tz } = parseTileKey(key)!;
    return tz >= first && tz <= last && owners.has(lift);
  });
}

/** What lifts are made from beside themselves: their own tiles, and the paint their masks go by. */
const ownersOf = (stack: readonly Lift[]): Set<string> => new Set(stack.flatMap((l) => [l.id, ...(l.mask?.painted === undefined ? [] : [l.mask.painted])]));

/** Rows whose noise is looked at when `rect` is composed: twice as far around as masks look, see composeRect. */
export const noiseRect = (stack: readonly Lift[], rect: Rect, grid: Grid): Rect =>
  grownRect(rect, 2 * stack.filter((l) => l.visible && looksAround(l.mask)).length, grid);

/** The whole of a level as jobs, one a part. */
export function slabJobs({ grid, noise, stack, tiles }: SlabSource, count: number): SlabJob[] {
  const owners = ownersOf(stack);
  return slabRects(grid, count).map((rect) => {
    const around = noiseRect(stack, rect, grid);
    return {
      grid,
      stack,
      rect,
      tiles: tilesOn(tiles, around, owners),
      noise: noiseOf(stack, grid).flatMap(({ hash }) => {
        const raster = noise.get(hash);
        return raster ? [[hash, rowsOf(raster, around, grid)] as [string, Rows]] : [];
      }),
    };
  });
}

/** Puts rows back at their place in a raster of the whole grid; what is not there stays 0. */
export function spread({ rect, data }: Rows, { nx, nz }: Grid): Float32Array {
  const raster = new Float32Array(nx * nz);
  raster.set(data, rect.z0 * nx);
  return raster;
}

/**
 * Rasters to work in, kept from one job to the next: workers of one process that all get
 * and give back so much wait for each other. Not those of wide levels, which are too much to hold on to.
 */
const _rasters: Float32Array[] = [];
const MOST_KEPT = 2_000_000;

/** The `n`th of them. What was written in it before is still there: of use where each sample is written before it is read. */
function raster(n: number, samples: number): Float32Array {
  if (samples > MOST_KEPT) return new Float32Array(samples);
  if (!(_rasters[n]?.length >= samples)) _rasters[n] = new Float32Array(samples);
  return _rasters[n];
}

/** Composes one slab: the bits of the same rows of the whole. Noise is held on its rows only. */
export function composeSlab({ grid, stack, tiles, rect, noise: known, every = 1 }: SlabJob): SlabResult {
  const around = noiseRect(stack, rect, grid);
  const noise = new Map(known.map(([hash, rows]) => [hash, rows.data]));
  const made: string[] = [];
  const samples = (around.z1 - around.z0 + 1) * grid.nx;
  for (const { hash, lift } of noiseOf(stack, grid)) {
    if (noise.has(hash)) continue;
    made.push(hash);
    const rows = raster(made.length, samples);
    if (every > 1) coarseNoiseRows(lift, grid, rows, around, every);
    else noiseLiftRows(lift, grid, rows, around.z0, around.z1);
    noise.set(hash, rows);
  }
  const heights = raster(0, grid.nx * grid.nz);
  composeRect({ grid, heights, noise, noiseFrom: around.z0 }, stack, new Map(tiles), rect);
  const inner = (rows: Float32Array) => rows.slice((rect.z0 - around.z0) * grid.nx, (rect.z1 - around.z0 + 1) * grid.nx);
  return { rect, data: rowsOf(heights, rect, grid).data, made: made.map((hash) => [hash, inner(noise.get(hash)!)]) };
}

/** Samples of a part when a level is composed part by part. */
const PART_SAMPLES = 1_000_000;

/**
 * The terrain of a level without the rasters of its noise lifts: part by part, so that many noise lifts on
 * a wide level need no more memory than one. The bits of composeTerrain.
 *
 * @param every samples between two looks at noise; 1. With more, noise is straight in between and quicker by the square
 */
export function composeLean({ grid, stack, tiles }: Pick<SlabSource, 'grid' | 'stack' | 'tiles'>, every = 1): Terrain {
  const heights = new Float32Array(grid.nx * grid.nz);
  for (const job of slabJobs({ grid, noise: new Map(), stack, tiles }, Math.ceil(heights.length / PART_SAMPLES))) {
    heights.set(composeSlab({ ...job, every }).data, job.rect.z0 * grid.nx);
  }
  return { grid, heights, noise: new Map() };
}

/** What the terrain of a level is composed from. */
export const earthOf = (level: Level): Pick<SlabSource, 'grid' | 'stack' | 'tiles'> => ({
  grid: gridOf(settingsOf(level)),
  stack: liftStack(level),
  tiles: level.tiles,
});

/** Puts a level together from its slabs; noise that was made joins that in `noise`. */
export function joinSlabs(grid: Grid, noise: Map<string, Float32Array>, slabs: readonly SlabResult[]): Terrain {
  const heights = new Float32Array(grid.nx * grid.nz);
  const made = new Map<string, Float32Array>();
  for (const slab of slabs) {
    heights.set(slab.data, slab.rect.z0 * grid.nx);
    for (const [hash, data] of slab.made) {
      if (!made.has(hash)) made.set(hash, new Float32Array(grid.nx * grid.nz));
      made.get(hash)!.set(data, slab.rect.z0 * grid.nx);
    }
  }
  for (const [hash, raster] of made) noise.set(hash, raster);
  return { grid, heights, noise };
}
