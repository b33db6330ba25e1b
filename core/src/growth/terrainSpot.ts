import type { Terrain } from '../earth/compose';
import { heightAt, steepnessAt } from '../earth/sample';
import { clamp } from '../num/vec';
import { SLOTS, type GroundRaster } from '../surface/ground';
import { onGround, type Masks } from './masks';

/** What `terrainSpot` writes: height, steepness (rise over run) and the share of ground the species grows on. */
export const HEIGHT = 0;
export const STEEP = 1;
export const SHARE = 2;

/**
 * Height, steepness and wanted ground of bare terrain at a point, in one pass over the samples around
 * it: the same bits as `heightAt`, `steepnessAt` and `onGround`, for the loop over all candidates.
 *
 * @param out float64, three numbers as above
 */
export function terrainSpot(terrain: Terrain, ground: GroundRaster, masks: Masks, x: number, z: number, out: Float64Array): void {
  const { nx, nz, spacing } = terrain.grid;
  const fx = clamp(x / spacing, 0, nx - 1);
  const fz = clamp(z / spacing, 0, nz - 1);
  const ix = Math.min(Math.floor(fx), nx - 2);
  const iz = Math.min(Math.floor(fz), nz - 2);
  if (ix < 1 || iz < 1 || ix > nx - 3 || iz > nz - 3) {
    out[HEIGHT] = heightAt(terrain, x, z);
    out[STEEP] = steepnessAt(terrain, x, z);
    out[SHARE] = masks.anyGround ? 1 : onGround(masks, ground, x, z, false);
    return;
  }
  const h = terrain.heights;
  const u = fx - ix;
  const v = fz - iz;
  const i = iz * nx + ix;
  const j = i + nx;
  const nw = h[i];
  const ne = h[i + 1];
  const sw = h[j];
  const se = h[j + 1];
  out[HEIGHT] = u >= v ? nw + (ne - nw) * u + (se - ne) * v : nw + (sw - nw) * v + (se - sw) * u;
  const run = 2 * spacing;
  const gx = (((ne - h[i - 1]) / run) * (1 - u) + ((h[i + 2] - nw) / run) * u) * (1 - v) + (((se - h[j - 1]) / run) * (1 - u) + ((h[j + 2] - sw) / run) * u) * v;
  const gz = (((sw - h[i - nx]) / run) * (1 - u) + ((se - h[i + 1 - nx]) / run) * u) * (1 - v) + (((h[j + nx] - nw) / run) * (1 - u) + ((h[j + nx + 1] - ne) / run) * u) * v;
  out[STEEP] = Math.sqrt(gx * gx + gz * gz);
  if (masks.anyGround) {
    out[SHARE] = 1;
    return;
  }
  const w = ground.weights;
  const of = ground.of;
  const g = masks.grounds;
  const a = i * SLOTS;
  const c = j * SLOTS;
  let north = 0;
  let south = 0;
  // Of up to four surfaces each has its slot everywhere: the same products, without a look at whose they are.
  if (ground.surfaces.length <= SLOTS) {
    for (let k = 0; k < SLOTS; k++) {
      const counts = g[k];
      if (counts === 0) continue;
      north += w[a + k] * counts * (1 - u) + w[a + SLOTS + k] * counts * u;
      south += w[c + k] * counts * (1 - u) + w[c + SLOTS + k] * counts * u;
    }
  } else for (let k = 0; k < SLOTS; k++) {
    north += w[a + k] * g[of[a + k]] * (1 - u) + w[a + SLOTS + k] * g[of[a + SLOTS + k]] * u;
    south += w[c + k] * g[of[c + k]] * (1 - u) + w[c + SLOTS + k] * g[of[c + SLOTS + k]] * u;
  }
  out[SHARE] = (north * (1 - v) + south * v) / 255;
}
