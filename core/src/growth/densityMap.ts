import type { Grid } from '../level/tiles';
import { PLANT_STRIDE, type Plants } from './plants';

/** Radius of a circle of 100 m2. */
const RADIUS = 5.641895835477563;
/** Side of the squares plants are counted in, metres. */
const SIDE = 1;

/** Plants of all species on the 100 m2 around each square metre of a level. */
export interface DensityMap {
  across: number;
  down: number;
  /** row by row, the north-west square first */
  of: Uint16Array;
}

/** Counts plants around every square metre, to the squares that the circle's edge cuts. */
export function densityMap(grown: readonly Plants[], { width, depth }: Pick<Grid, 'width' | 'depth'>): DensityMap {
  const [across, down] = [Math.ceil(width / SIDE), Math.ceil(depth / SIDE)];
  // Sums along each row from its start: a stretch of it is one subtraction.
  const sums = new Uint32Array((across + 1) * down);
  for (const { place, count } of grown)
    for (let i = 0; i < count; i++) {
      const x = Math.min(across - 1, Math.max(0, Math.floor(place[i * PLANT_STRIDE] / SIDE)));
      const z = Math.min(down - 1, Math.max(0, Math.floor(place[i * PLANT_STRIDE + 2] / SIDE)));
      sums[z * (across + 1) + x + 1]++;
    }
  for (let z = 0; z < down; z++) for (let x = 1; x <= across; x++) sums[z * (across + 1) + x] += sums[z * (across + 1) + x - 1];
  const reach = Math.floor(RADIUS / SIDE);
  const half = Array.from({ length: 2 * reach + 1 }, (_, k) => Math.floor(Math.sqrt(RADIUS * RADIUS - (k - reach) * (k - reach)) / SIDE));
  const of = new Uint16Array(across * down);
  for (let z = 0; z < down; z++)
    for (let x = 0; x < across; x++) {
      let sum = 0;
      for (let k = Math.max(-reach, -z); k <= Math.min(reach, down - 1 - z); k++) {
        const row = (z + k) * (across + 1);
        sum += sums[row + Math.min(across, x + half[k + reach] + 1)] - sums[row + Math.max(0, x - half[k + reach])];
      }
      of[z * across + x] = Math.min(65_535, sum);
    }
  return { across, down, of };
}
