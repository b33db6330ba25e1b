import { PLANT_STRIDE, type Plants } from './plants';

/** Radius of a circle of 100 m2. */
const RADIUS = 5.641895835477563;

/** Plants of all species in the 100 m2 around a point. */
export function densityAt(grown: readonly Plants[], x: number, z: number): number {
  let count = 0;
  for (const { place } of grown) {
    for (let o = 0; o < place.length; o += PLANT_STRIDE) {
      const dx = place[o] - x;
      const dz = place[o + 2] - z;
      if (dx * dx + dz * dz <= RADIUS * RADIUS) count++;
    }
  }
  return count;
}
