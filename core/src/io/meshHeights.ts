import type { Mesh } from '../num/mesh';
import { fault, type Outcome } from './fault';
import type { Heightmap } from './heightmap';

/** Pixels of the longer side of the picture a mesh is sampled into. */
const SIDE = 1025;
/** Pixels that all faces together may cover: ground covers each about twice, with both halves of its quads counted. */
const MOST_COVERED = 40_000_000;

/**
 * The top of a mesh as a picture of heights: for each pixel the highest of the triangles over or under it, NaN
 * where there is none. It says its own size and heights. Hanging faces are not ground: of an overhang the top
 * is taken.
 *
 * @param meshes metres, Y up
 */
export function meshHeights(name: string, meshes: readonly Mesh[]): Outcome<Heightmap> {
  const low = [Infinity, Infinity, Infinity];
  const high = [-Infinity, -Infinity, -Infinity];
  for (const { positions } of meshes) {
    for (let i = 0; i < positions.length; i++) {
      const k = i % 3;
      if (positions[i] < low[k]) low[k] = positions[i];
      if (positions[i] > high[k]) high[k] = positions[i];
    }
  }
  const [wide, deep] = [high[0] - low[0], high[2] - low[2]];
  if (!(wide >= 1 && deep >= 1))
    return fault('survey-size', `${name} is ${wide.toFixed(2)} x ${deep.toFixed(2)} m in plan: ground is at least 1 x 1 m. Is it in metres, with Y up?`);
  const pixel = Math.max(wide, deep) / (SIDE - 1);
  const width = Math.max(2, Math.round(wide / pixel) + 1);
  const height = Math.max(2, Math.round(deep / pixel) + 1);
  const tops = new Float32Array(width * height).fill(-Infinity);
  let covered = 0;
  // Points on an edge that two triangles share may be missed by both when rounded: so much nearer counts as inside.
  const hair = 1e-6;
  for (const { positions: p, indices } of meshes) {
    for (let i = 0; i < indices.length; i += 3) {
      const a = indices[i] * 3;
      const b = indices[i + 1] * 3;
      const c = indices[i + 2] * 3;
      const ax = (p[a] - low[0]) / pixel;
      const az = (p[a + 2] - low[2]) / pixel;
      const bx = (p[b] - low[0]) / pixel;
      const bz = (p[b + 2] - low[2]) / pixel;
      const cx = (p[c] - low[0]) / pixel;
      const cz = (p[c + 2] - low[2]) / pixel;
      const area = (bx - ax) * (cz - az) - (cx - ax) * (bz - az);
      // Upright faces have no top of their own.
      if (Math.abs(area) < 1e-12) continue;
      const x0 = Math.max(0, Math.ceil(Math.min(ax, bx, cx) - hair));
      const x1 = Math.min(width - 1, Math.floor(Math.max(ax, bx, cx) + hair));
      const z0 = Math.max(0, Math.ceil(Math.min(az, bz, cz) - hair));
      const z1 = Math.min(height - 1, Math.floor(Math.max(az, bz, cz) + hair));
      covered += Math.max(0, x1 - x0 + 1) * Math.max(0, z1 - z0 + 1);
      // Told before the work is done: a small file of large faces would hold the browser for minutes.
      if (covered > MOST_COVERED) return fault('survey-overlaid', `${name} has faces that lie over each other many times: take the ground alone`);
      for (let z = z0; z <= z1; z++) {
        for (let x = x0; x <= x1; x++) {
          const u = ((bx - x) * (cz - z) - (cx - x) * (bz - z)) / area;
          const v = ((cx - x) * (az - z) - (ax - x) * (cz - z)) / area;
          const w = 1 - u - v;
          if (u < -hair || v < -hair || w < -hair) continue;
          const y = u * p[a + 1] + v * p[b + 1] + w * p[c + 1];
          if (y > tops[z * width + x]) tops[z * width + x] = y;
        }
      }
    }
  }
  let lowest = Infinity;
  let highest = -Infinity;
  for (const y of tops) {
    if (y === -Infinity) continue;
    if (y < lowest) lowest = y;
    if (y > highest) highest = y;
  }
  if (highest === -Infinity) return fault('survey-size', `${name} has no face that looks up: it has no ground`);
  const range = highest - lowest || 1;
  return { ok: true, value: { width, height, values: tops.map((y) => (y === -Infinity ? NaN : (y - lowest) / range)), range: [lowest, highest], pixel } };
}
