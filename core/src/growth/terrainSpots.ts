import type { Terrain } from '../earth/compose';
import { heightAt, steepnessAt } from '../earth/sample';
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
  // Of up to four surfaces each has its slot everywhere: a sample's four bytes at a time, without a look at whose they are.
  const few = ground.surfaces.length <= SLOTS;
  const four = new Int32Array(w.buffer, w.byteOffset, w.length / SLOTS);
  const mask = masks.bytes;
  // A spacing is a power of two: divided by once in the end, or before each difference, the bits are the same.
  const perSample = 1 / spacing;
  const perRun = perSample / 2;
  for (let n = 0; n < count; n++) {
    const s = live[n];
    const fx = c.x[s] * perSample;
    const fz = c.z[s] * perSample;
    const ix = fx | 0;
    const iz = fz | 0;
    if (!(fx >= 1 && fz >= 1 && ix <= nx - 3 && iz <= nz - 3)) {
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
    const p = 1 - u;
    const q = 1 - v;
    const gx = ((ne - h[i - 1]) * p + (h[i + 2] - nw) * u) * q + ((se - h[j - 1]) * p + (h[j + 2] - sw) * u) * v;
    const gz = ((sw - h[i - nx]) * p + (se - h[i + 1 - nx]) * u) * q + ((h[j + nx] - nw) * p + (h[j + nx + 1] - ne) * u) * v;
    steep[s] = Math.sqrt(gx * gx + gz * gz) * perRun;
    if (anyGround) {
      share[s] = 1;
      continue;
    }
    let a = 0;
    let b = 0;
    let d = 0;
    let e = 0;
    if (few) {
      a = wantedIn(four[i] & mask);
      b = wantedIn(four[i + 1] & mask);
      d = wantedIn(four[j] & mask);
      e = wantedIn(four[j + 1] & mask);
    } else for (let k = 0; k < SLOTS; k++) {
      const o = i * SLOTS + k;
      const r = j * SLOTS + k;
      a += w[o] * g[of[o]];
      b += w[o + SLOTS] * g[of[o + SLOTS]];
      d += w[r] * g[of[r]];
      e += w[r + SLOTS] * g[of[r + SLOTS]];
    }
    share[s] = (a === b && a === d && a === e ? a : (a * p + b * u) * q + (d * p + e * u) * v) / 255;
  }
}

/** Sum of the four bytes of a sample's weights. */
function wantedIn(bytes: number): number {
  const pairs = (bytes & 0xff00ff) + ((bytes >>> 8) & 0xff00ff);
  return (pairs & 0xffff) + (pairs >>> 16);
}
