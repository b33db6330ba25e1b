import { cellRange, PLANT_CELL, plantGrid } from './plantGrid';
import { PLANT_STRIDE, type Plants } from './plants';

/** Radius of a circle of 100 m2. */
const RADIUS = 5.641895835477563;

/** Plants of all species in the 100 m2 around a point. */
export function densityAt(grown: readonly Plants[], x: number, z: number): number {
  let count = 0;
  const cell = (v: number) => Math.floor(v / PLANT_CELL);
  for (const plants of grown) {
    const { place } = plants;
    const grid = plantGrid(plants, 0);
    for (let cz = cell(z - RADIUS); cz <= cell(z + RADIUS); cz++) {
      for (let cx = cell(x - RADIUS); cx <= cell(x + RADIUS); cx++) {
        const [first, end] = cellRange(grid, cx, cz);
        for (let k = first; k < end; k++) {
          const o = grid.order[k] * PLANT_STRIDE;
          const [dx, dz] = [place[o] - x, place[o + 2] - z];
          if (dx * dx + dz * dz <= RADIUS * RADIUS) count++;
        }
      }
    }
  }
  return count;
}
