import { grownRect, type Rect } from '../earth/rect';
import { noiseRect, rowsOf, slabRects, spread, tilesOn, type Rows } from '../earth/slab';
import { noiseOf } from '../earth/compose';
import type { GroundRule, Lift, Surface } from '../level/objects';
import type { Grid } from '../level/tiles';
import { composeGround, makeGround, SLOTS, type GroundRaster, type GroundSource } from './ground';
import { rulesReach } from './rules';
import type { Wet } from './rules/field';

/** Whole rows of a level's ground to be composed by themselves, in a worker of their own, see earth/slab. */
export interface GroundSlabJob {
  grid: Grid;
  surfaces: Surface[];
  rules: readonly GroundRule[];
  stack: readonly Lift[];
  /** whole ones: how far a shore is depends on all of them */
  waters: Wet[];
  tiles: [key: string, samples: Int32Array][];
  rect: Rect;
  heights: Rows;
  /** rows of noise rasters, where a rule goes by what a lift does */
  noise: [hash: string, rows: Rows][];
}

/** The rows of `rect` of each part of a ground, laid out as there. */
export interface GroundSlab extends Pick<GroundRaster, 'of' | 'weights' | 'topOf' | 'tops'> {
  rect: Rect;
}

/** The whole ground as jobs, one a part. */
export function groundSlabJobs(surfaces: Surface[], source: GroundSource, count: number): GroundSlabJob[] {
  const {
    terrain: { grid, heights, noise },
    stack,
    rules,
  } = source;
  const reach = rulesReach(rules, grid.spacing);
  const waters = source.waters.map(({ rect, wet, height, levels }) => ({ rect, wet, height, levels }));
  const owners = new Set([...surfaces.map((s) => s.id), ...stack.map((l) => l.id)]);
  const byLift = rules.some((r) => r.on && r.where.some((c) => c.by === 'lift'));
  return slabRects(grid, count).map((rect) => {
    // Once for the slab itself, which composeGround grows by as much, and once for what is looked at from there.
    const around = grownRect(rect, 2 * reach + 1, grid);
    const made = noiseRect(stack, around, grid);
    return {
      grid,
      surfaces,
      rules,
      stack,
      waters,
      rect,
      tiles: tilesOn(source.tiles, byLift ? made : around, owners),
      heights: rowsOf(heights, around, grid),
      noise: byLift ? noiseOf(stack, grid).map(({ hash }): [string, Rows] => [hash, rowsOf(noise.get(hash)!, made, grid)]) : [],
    };
  });
}

/** Composes one slab: the bytes of the same rows of the whole. */
export function composeGroundSlab({ grid, surfaces, rules, stack, waters, tiles, rect, heights, noise }: GroundSlabJob): GroundSlab {
  const terrain = { grid, heights: spread(heights, grid), noise: new Map(noise.map(([hash, rows]) => [hash, rows.data])), noiseFrom: noise[0]?.[1].rect.z0 };
  const ground = makeGround(grid, surfaces, grownRect(rect, rulesReach(rules, grid.spacing), grid));
  composeGround(ground, { terrain, stack, tiles: new Map(tiles), waters, rules }, rect);
  const cut = (bytes: Uint8Array) => bytes.slice(rect.z0 * grid.nx * SLOTS, (rect.z1 + 1) * grid.nx * SLOTS);
  return { rect, of: cut(ground.of), weights: cut(ground.weights), topOf: cut(ground.topOf), tops: cut(ground.tops) };
}

/** Puts a ground together from its slabs. */
export function joinGround(grid: Grid, surfaces: Surface[], slabs: readonly GroundSlab[]): GroundRaster {
  const ground = makeGround(grid, surfaces);
  for (const slab of slabs) for (const part of ['of', 'weights', 'topOf', 'tops'] as const) ground[part].set(slab[part], slab.rect.z0 * grid.nx * SLOTS);
  return ground;
}
