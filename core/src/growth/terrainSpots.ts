import type { Terrain } from '../earth/compose';
import { heightAt, steepnessAt } from '../earth/sample';
import { SLOTS, type GroundRaster } from '../surface/ground';
import type { Candidates } from './candidates';
import { onGround, wantedIn, type Masks } from './masks';

/**
 * Height, steepness and share of wanted ground of bare terrain under each candidate that has to be
 * asked, in one pass over the samples around it: the same bits as `heightAt`, `steepnessAt` and `onGround`.
 */
export function terrainSpots(terrain: Terrain, ground: GroundRaster, masks: Masks, c: Candidates): void {
  const { nx, nz, spacing } = terrain.grid;
  const { asked, height, steep, share } = c;
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
  for (let n = 0; n < c.askedCount; n++) {
    const s = asked[n];
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
    } else
      for (let k = 0; k < SLOTS; k++) {
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

/** Height of the terrain under the candidates left that were not asked: the same bits as `heightAt`. */
export function terrainHeights(terrain: Terrain, c: Candidates): void {
  const { nx, nz, spacing } = terrain.grid;
  const { live, known, height } = c;
  const h = terrain.heights;
  const perSample = 1 / spacing;
  for (let n = 0; n < c.count; n++) {
    const s = live[n];
    if (known[s] === 0) continue;
    const fx = c.x[s] * perSample;
    const fz = c.z[s] * perSample;
    const ix = fx | 0;
    const iz = fz | 0;
    if (!(fx >= 0 && fz >= 0 && ix <= nx - 2 && iz <= nz - 2)) {
      height[s] = heightAt(terrain, c.x[s], c.z[s]);
      continue;
    }
    const u = fx - ix;
    const v = fz - iz;
    const i = iz * nx + ix;
    const nw = h[i];
    // Which of its two triangles is a toss of a coin: without a branch it is foretold wrong no time.
    const corner = h[u >= v ? i + 1 : i + nx];
    height[s] = nw + (corner - nw) * Math.max(u, v) + (h[i + nx + 1] - corner) * Math.min(u, v);
  }
}
