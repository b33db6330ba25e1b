import { TILE_QUADS, type Grid } from '../level/tiles';
import type { Rect } from './rect';

/**
 * Parts of a level whose heights a computation looked at, by squares of 64 samples: a change of heights that
 * meets none of them cannot change its result.
 */
export interface Looked {
  /** squares a row */
  across: number;
  /** one byte a square, row by row */
  squares: Uint8Array;
}

const square = (sample: number): number => Math.floor(sample / TILE_QUADS);

/** Nothing of a level was looked at yet. */
export function nothingLooked({ nx, nz }: Grid): Looked {
  const across = square(nx - 1) + 1;
  return { across, squares: new Uint8Array(across * (square(nz - 1) + 1)) };
}

/** A rectangle of samples was looked at. */
export function lookedAt({ across, squares }: Looked, rect: Rect): void {
  for (let z = square(rect.z0); z <= square(rect.z1); z++) squares.fill(1, z * across + square(rect.x0), z * across + square(rect.x1) + 1);
}

/** The squares of those samples were looked at that are not 0 in a raster of the whole level. */
export function lookedWhere(looked: Looked, { nx, nz }: Grid, raster: ArrayLike<number>): void {
  for (let q = 0; q < looked.squares.length; q++) {
    const [x0, z0] = [(q % looked.across) * TILE_QUADS, Math.floor(q / looked.across) * TILE_QUADS];
    if (looked.squares[q] === 0 && anyIn(raster, nx, { x0, z0, x1: Math.min(nx, x0 + TILE_QUADS) - 1, z1: Math.min(nz, z0 + TILE_QUADS) - 1 }))
      looked.squares[q] = 1;
  }
}

function anyIn(raster: ArrayLike<number>, nx: number, { x0, z0, x1, z1 }: Rect): boolean {
  for (let z = z0; z <= z1; z++) for (let i = z * nx + x0; i <= z * nx + x1; i++) if (raster[i] !== 0) return true;
  return false;
}

/** Whether a change of heights in a rectangle of samples could change what was computed. */
export function meets({ across, squares }: Looked, rect: Rect): boolean {
  for (let z = square(rect.z0); z <= square(rect.z1); z++)
    for (let x = square(rect.x0); x <= square(rect.x1); x++) if (squares[z * across + x] === 1) return true;
  return false;
}
