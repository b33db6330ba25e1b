import type { Terrain } from '../compose';

/**
 * How much ground drains through each sample, m2, itself included: each passes all it has to its lowest
 * neighbour of eight (D8, O'Callaghan and Mark 1984), the highest samples first; a hollow keeps it.
 */
export function runoff({ grid, heights: h }: Terrain): Float32Array {
  const { nx, nz, spacing } = grid;
  const n = nx * nz;
  const order = new Uint32Array(n).map((_, i) => i).sort((a, b) => h[b] - h[a] || a - b);
  const out = new Float32Array(n).fill(spacing * spacing);
  for (const s of order) {
    const x = s % nx;
    const z = (s - x) / nx;
    let steepest = 0;
    let to = -1;
    for (let dz = -1; dz <= 1; dz++) {
      for (let dx = -1; dx <= 1; dx++) {
        const [u, v] = [x + dx, z + dz];
        if ((dx === 0 && dz === 0) || u < 0 || v < 0 || u >= nx || v >= nz) continue;
        const t = v * nx + u;
        const fall = (h[s] - h[t]) / (dx !== 0 && dz !== 0 ? Math.SQRT2 : 1);
        if (fall > steepest) {
          steepest = fall;
          to = t;
        }
      }
    }
    if (to >= 0) out[to] += out[s];
  }
  return out;
}
