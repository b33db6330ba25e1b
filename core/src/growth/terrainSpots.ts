import type { Terrain } from '../earth/compose';
import { heightAt, steepnessAt } from '../earth/sample';
import { clamp } from '../num/vec';
import { SLOTS, type GroundRaster } from '../surface/ground';
import type { Candidates } from './candidates';
import { onGround, type Masks } from './masks';

/**
 * Height, steepness and share of wanted ground of bare terrain under each candidate, in one pass over
 * the samples around it: the same bits as `heightAt`, `steepnessAt` and `onGround`.
 */
export function terrainSpots(terrain: Terrain, ground: GroundRaster, masks: Masks, c: Candidates): void {
  const { nx, nz, spacing } = terrain.grid;
  const { live, count, height, steep, share } = c;
  const h = terrain.heights;
  const w = ground.weights;
  const of = ground.of;
  const g = masks.grounds;
  const { anyGround } = masks;
  // Of up to four surfaces each has its slot everywhere: the same products, without a look at whose they are.
  const few = ground.surfaces.length <= SLOTS;
  const wanted = Int32Array.from([0, 1, 2, 3].filter((k) => g[k] !== 0));
  const run = 2 * spacing;
  for (let n = 0; n < count; n++) {
    const s = live[n];
    const fx = clamp(c.x[s] / spacing, 0, nx - 1);
    const fz = clamp(c.z[s] / spacing, 0, nz - 1);
    const ix = fx | 0;
    const iz = fz | 0;
    if (ix < 1 || iz < 1 || ix > nx - 3 || iz > nz - 3) {
      height[s] = heightAt(terrain, c.x[s], c.z[s]);
      steep[s] = steepnessAt(terrain, c.x[s], c.z[s]);
      share[s] = anyGround ? 1 : onGround(masks, ground, c.x[s], c.z[s], false);
      continue;
    }
    const u = fx - ix;
    const v = fz - iz;
    const i = iz * nx + ix;
    const j = i + nx;
    const nw = h[i];
    const ne = h[i + 1];
    const sw = h[j];
    const se = h[j + 1];
    height[s] = u >= v ? nw + (ne - nw) * u + (se - ne) * v : nw + (sw - nw) * v + (se - sw) * u;
    const gx = (((ne - h[i - 1]) / run) * (1 - u) + ((h[i + 2] - nw) / run) * u) * (1 - v) + (((se - h[j - 1]) / run) * (1 - u) + ((h[j + 2] - sw) / run) * u) * v;
    const gz = (((sw - h[i - nx]) / run) * (1 - u) + ((se - h[i + 1 - nx]) / run) * u) * (1 - v) + (((h[j + nx] - nw) / run) * (1 - u) + ((h[j + nx + 1] - ne) / run) * u) * v;
    steep[s] = Math.sqrt(gx * gx + gz * gz);
    if (anyGround) {
      share[s] = 1;
      continue;
    }
    const a = i * SLOTS;
    const b = j * SLOTS;
    let north = 0;
    let south = 0;
    if (few) {
      for (let n = 0; n < wanted.length; n++) {
        const k = wanted[n];
        north += w[a + k] * (1 - u) + w[a + SLOTS + k] * u;
        south += w[b + k] * (1 - u) + w[b + SLOTS + k] * u;
      }
    } else for (let k = 0; k < SLOTS; k++) {
      north += w[a + k] * g[of[a + k]] * (1 - u) + w[a + SLOTS + k] * g[of[a + SLOTS + k]] * u;
      south += w[b + k] * g[of[b + k]] * (1 - u) + w[b + SLOTS + k] * g[of[b + SLOTS + k]] * u;
    }
    share[s] = (north * (1 - v) + south * v) / 255;
  }
}
