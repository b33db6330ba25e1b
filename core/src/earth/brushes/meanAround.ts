import { clamp } from '../../num/vec';
import type { Rect, Terrain } from '../compose';

/** Mean of the 5 x 5 samples around each sample of the rectangle, edges clamped. */
export function meanAround(terrain: Terrain, rect: Rect): Float32Array {
  const { nx, nz } = terrain.grid;
  const w = rect.x1 - rect.x0 + 1;
  const out = new Float32Array(w * (rect.z1 - rect.z0 + 1));
  for (let z = rect.z0, o = 0; z <= rect.z1; z++) {
    for (let x = rect.x0; x <= rect.x1; x++, o++) {
      let sum = 0;
      for (let dz = -2; dz <= 2; dz++) {
        const row = clamp(z + dz, 0, nz - 1) * nx;
        for (let dx = -2; dx <= 2; dx++) sum += terrain.heights[row + clamp(x + dx, 0, nx - 1)];
      }
      out[o] = sum / 25;
    }
  }
  return out;
}
