import { CELL } from '../block/grid';
import type { Terrain } from '../earth/compose';
import { grownRect, sharedRect, type Rect } from '../earth/rect';
import type { Grid } from '../level/tiles';
import { SLOTS, type GroundRaster } from '../surface/ground';
import type { Masks } from './masks';
import type { Hosts } from './spot';

/** What a rule says of a 16 m cell as a whole: nothing grows by it anywhere, everything everywhere, or each place has to be asked. */
export const SHUT = 0;
export const OPEN = 1;
export const ASK = 2;

/** Lowest and highest ground, the steepest (rise over run) and which surfaces lie on it, of each 16 m cell, row by row; NaN where it was not looked at. */
export interface Relief {
  across: number;
  down: number;
  low: Float64Array;
  high: Float64Array;
  steep: Float64Array;
  /** a bit for each surface by its place in the level's list */
  grounds: Int32Array;
}

/** Numbers mixed from samples may lie beyond them by what is rounded, metres and rise over run. */
const ROUNDED = 1e-6;

/** Samples of a cell, those on its edges included. */
function samplesOf({ nx, nz, spacing }: Grid, across: number, cell: number): Rect {
  const side = CELL / spacing;
  const [x0, z0] = [(cell % across) * side, Math.floor(cell / across) * side];
  return { x0, z0, x1: Math.min(nx - 1, x0 + side), z1: Math.min(nz - 1, z0 + side) };
}

/** @param only samples outside which nothing is looked at */
export function reliefOf(terrain: Terrain, ground: GroundRaster, only?: Rect): Relief {
  const { grid } = terrain;
  const across = Math.max(1, Math.ceil(grid.width / CELL));
  const down = Math.max(1, Math.ceil(grid.depth / CELL));
  const column = () => new Float64Array(across * down).fill(NaN);
  const relief = { across, down, low: column(), high: column(), steep: column(), grounds: new Int32Array(across * down) };
  const side = CELL / grid.spacing;
  const [x0, z0, x1, z1] = only ? [only.x0 - 1, only.z0 - 1, only.x1, only.z1].map((v) => Math.floor(v / side)) : [0, 0, across, down];
  for (let cz = Math.max(0, z0); cz <= Math.min(down - 1, z1); cz++)
    for (let cx = Math.max(0, x0); cx <= Math.min(across - 1, x1); cx++) {
      const cell = cz * across + cx;
      const r = samplesOf(grid, across, cell);
      if (only && !sharedRect(r, only)) continue;
      heightsIn(terrain, r, relief, cell);
      relief.grounds[cell] = groundsIn(ground, r);
    }
  return relief;
}

/**
 * Bounds of a cell's heights and steepness. A gradient is mixed from steps between neighbours, those just
 * outside included: each way none is over the largest step, which may be more than the steepest place has.
 */
function heightsIn({ grid, heights: h }: Terrain, cellRect: Rect, relief: Relief, cell: number): void {
  const { nx, spacing } = grid;
  const { x0, z0, x1, z1 } = grownRect(cellRect, 1, grid);
  let low = h[z0 * nx + x0];
  let high = low;
  let along = 0;
  let down = 0;
  for (let z = z0; z <= z1; z++) {
    const up = z > z0 ? nx : 0;
    let west = h[z * nx + x0];
    for (let i = z * nx + x0; i <= z * nx + x1; i++) {
      const here = h[i];
      const north = h[i - up];
      if (here < low) low = here;
      if (here > high) high = here;
      const dx = Math.abs(here - west);
      const dz = Math.abs(here - north);
      if (dx > along) along = dx;
      if (dz > down) down = dz;
      west = here;
    }
  }
  relief.low[cell] = low;
  relief.high[cell] = high;
  relief.steep[cell] = Math.sqrt(along * along + down * down) / spacing;
}

/** Which surfaces lie anywhere on a rectangle of samples, a bit for each by its place in the level's list. */
function groundsIn({ grid: { nx }, surfaces, weights, of }: GroundRaster, { x0, z0, x1, z1 }: Rect): number {
  let bits = 0;
  if (surfaces.length <= SLOTS) {
    // Each has its own byte of the four: which are not zero anywhere.
    const four = new Int32Array(weights.buffer, weights.byteOffset, weights.length / SLOTS);
    let any = 0;
    for (let z = z0; z <= z1; z++) for (let i = z * nx + x0; i <= z * nx + x1; i++) any |= four[i];
    new Uint8Array(Int32Array.of(any).buffer).forEach((byte, k) => {
      if (byte !== 0) bits |= 1 << k;
    });
    return bits;
  }
  for (let z = z0; z <= z1; z++) for (let k = (z * nx + x0) * SLOTS; k < (z * nx + x1 + 1) * SLOTS; k++) if (weights[k] !== 0) bits |= 1 << of[k];
  return bits;
}

/** What a rule says of each cell of a relief. Where a block or a piece may be the host each place is asked. */
export function verdictsOf(masks: Masks, relief: Relief, hosts: Hosts): Uint8Array {
  const out = new Uint8Array(relief.across * relief.down).fill(ASK);
  for (let cell = 0; cell < out.length; cell++) if (hosts.built[cell] === 0) out[cell] = masks.on ? verdict(masks, relief, cell) : SHUT;
  return out;
}

function verdict({ slope, height, anyGround, wanted }: Masks, { low, high, steep, grounds: there }: Relief, cell: number): number {
  if (low[cell] !== low[cell]) return ASK;
  if (high[cell] < height[0] - ROUNDED || low[cell] > height[3] + ROUNDED) return SHUT;
  if (!anyGround && (there[cell] & wanted) === 0) return SHUT;
  // Shares sum to all there is: where nothing else lies, all is wanted. Gradients that point apart cancel out: there is no least steepness.
  const lets =
    (there[cell] & ~wanted) === 0 && slope[1] < 0 && steep[cell] < slope[2] - ROUNDED && low[cell] > height[1] + ROUNDED && high[cell] < height[2] - ROUNDED;
  return lets ? OPEN : ASK;
}
