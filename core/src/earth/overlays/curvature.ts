import type { Terrain } from '../compose';

/**
 * Curvature at each sample, 1/m: the Laplacian of the heights, positive in hollows, negative on crests.
 * At the rim the nearest inner sample counts.
 */
export function curvature({ grid, heights: h }: Terrain): Float32Array {
  const { nx, nz, spacing } = grid;
  const out = new Float32Array(nx * nz);
  for (let z = 0, i = 0; z < nz; z++) {
    const zi = Math.min(nz - 2, Math.max(1, z));
    for (let x = 0; x < nx; x++, i++) {
      const c = zi * nx + Math.min(nx - 2, Math.max(1, x));
      out[i] = (h[c - 1] + h[c + 1] + h[c - nx] + h[c + nx] - 4 * h[c]) / (spacing * spacing);
    }
  }
  return out;
}
