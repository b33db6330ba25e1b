import type { Terrain } from '../earth/compose';
import type { Grid } from '../level/tiles';
import { distanceToMarked } from '../num/nearest';
import type { Vec3 } from '../num/vec';

/** What stands so far over the ground can have room under it, metres: a person's. */
const ROOM = 1.6;
/** Half of the open sky's light is left so far in under a roof, metres. */
const HALF_AT = 1.8;
/** Roofs that hang higher over the ground than this darken nothing, metres; see `occluderHeights`. */
export const ROOF_CLEAR = 8;
/** Samples across at most: what covers a level is not told finer. */
const MOST = 1025;

/** What is roofed over, every `step` samples of the level. */
export interface Cover {
  nx: number;
  nz: number;
  step: number;
  /** top of what covers a place, metres; the ground where nothing does */
  top: Float32Array;
  /** 1 where that hangs so high that the light of tops is not its own, see `occluderHeights` */
  hangs: Uint8Array;
  /** share of the sky's light that comes in there under the roof: 1 in the open, less the farther in */
  open: Float32Array;
}

/**
 * Roofs of a level and how dark it is under them. Light is taken to come in from the nearest place that is not
 * roofed, walls or no walls between.
 *
 * @param roofs heights of all that stands, without crowns, with roofs that hang; see `occluderHeights`
 * @param occluders the same without those: where both differ a roof hangs
 */
export function coverOf({ grid, heights }: Pick<Terrain, 'grid' | 'heights'>, roofs: Float32Array, occluders: Float32Array = roofs): Cover {
  const step = Math.max(1, Math.ceil(grid.nx / MOST), Math.ceil(grid.nz / MOST));
  const [nx, nz] = [Math.floor((grid.nx - 1) / step) + 1, Math.floor((grid.nz - 1) / step) + 1];
  const top = new Float32Array(nx * nz);
  const bare = new Uint8Array(nx * nz);
  const hangs = new Uint8Array(nx * nz);
  for (let o = 0; o < top.length; o++) {
    const i = Math.floor(o / nx) * step * grid.nx + (o % nx) * step;
    bare[o] = roofs[i] - heights[i] < ROOM ? 1 : 0;
    top[o] = bare[o] ? heights[i] : roofs[i];
    hangs[o] = roofs[i] > occluders[i] + 0.3 ? 1 : 0;
  }
  closeCracks(bare, top, hangs, nx, nz);
  const apart = distanceToMarked(bare, nx, nz);
  const metres = grid.spacing * step;
  const open = Float32Array.from(apart, (d) => {
    const t = (Number.isFinite(d) ? d * metres : 1e3) / HALF_AT;
    return 1 / (1 + t * t);
  });
  return { nx, nz, step, top, hangs, open };
}

/** A crack between two roofs that one sample falls into, as at a ridge, is no skylight: with roofs on both sides it is closed. */
function closeCracks(bare: Uint8Array, top: Float32Array, hangs: Uint8Array, nx: number, nz: number): void {
  const closed: [at: number, from: number][] = [];
  for (let z = 1; z < nz - 1; z++) {
    for (let x = 1; x < nx - 1; x++) {
      const i = z * nx + x;
      if (bare[i] === 0) continue;
      if (bare[i - 1] === 0 && bare[i + 1] === 0) closed.push([i, i - 1]);
      else if (bare[i - nx] === 0 && bare[i + nx] === 0) closed.push([i, i - nx]);
    }
  }
  for (const [at, from] of closed) {
    bare[at] = 0;
    top[at] = top[from];
    hangs[at] = hangs[from];
  }
}

/**
 * Light on the ground itself, where `light` is that of the tops of what stands there: under a roof no sun, and as much
 * sky as comes in.
 *
 * @param light sun and sky, two bytes a sample of the whole level; see `sunlit`
 */
export function lightUnder({ grid, heights }: Pick<Terrain, 'grid' | 'heights'>, light: Uint8Array, cover: Cover): Uint8Array {
  const out = light.slice();
  for (let z = 0, i = 0; z < grid.nz; z++) {
    const row = Math.min(cover.nz - 1, Math.round(z / cover.step)) * cover.nx;
    for (let x = 0; x < grid.nx; x++, i++) {
      const o = row + Math.min(cover.nx - 1, Math.round(x / cover.step));
      if (cover.open[o] === 1 || cover.top[o] - heights[i] < ROOM) continue;
      out[i * 2] = 0;
      out[i * 2 + 1] = Math.round(255 * cover.open[o]);
    }
  }
  return out;
}

/** Light of a level as `sunlit` and `lightUnder` give it, two bytes a sample: on its tops, and on the ground under them. */
export interface PlaceLight {
  grid: Grid;
  tops: Uint8Array;
  ground: Uint8Array;
  cover: Cover;
}

/**
 * Sun and sky at a place, 0 to 1, at the nearest sample: that of the tops where a body stands on what covers the ground
 * there, that of the ground where it stands under it.
 *
 * @param at metres, its feet
 */
export function lightAt({ grid, tops, ground, cover }: PlaceLight, [x, y, z]: Vec3): { sun: number; sky: number } {
  const nearest = (v: number, n: number, step: number) => Math.min(n - 1, Math.max(0, Math.round(v / grid.spacing / step)));
  const o = nearest(z, cover.nz, cover.step) * cover.nx + nearest(x, cover.nx, cover.step);
  const light = cover.open[o] < 1 && y < cover.top[o] - ROOM / 2 ? ground : tops;
  const i = nearest(z, grid.nz, 1) * grid.nx + nearest(x, grid.nx, 1);
  return { sun: light[i * 2] / 255, sky: light[i * 2 + 1] / 255 };
}
