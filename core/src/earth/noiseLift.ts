import type { NoiseLift } from '../level/objects';
import type { Grid } from '../level/tiles';
import { fractalNoise } from '../num/noise';
import { hashText } from '../num/hash';

/** What a noise lift's contribution depends on; two equal hashes give equal rasters. */
export function noiseLiftHash(lift: NoiseLift, grid: Grid): string {
  return hashText(JSON.stringify(['noise', lift.seed, lift.height, lift.scale, lift.octaves, grid.nx, grid.nz, grid.spacing]));
}

/**
 * Contribution of a noise lift, metres, one float32 a sample, row by row (z outer).
 *
 * @param onRow called after each row with the share done; return false to stop early
 * @returns the raster, or `undefined` when stopped
 */
export function noiseLiftRaster(lift: NoiseLift, grid: Grid, onRow?: (done: number) => boolean): Float32Array | undefined {
  const noise = fractalNoise(lift.seed, lift.octaves);
  const out = new Float32Array(grid.nx * grid.nz);
  const step = grid.spacing / lift.scale;
  for (let z = 0, i = 0; z < grid.nz; z++) {
    for (let x = 0; x < grid.nx; x++, i++) out[i] = lift.height * noise.at(x * step, z * step);
    if (onRow && !onRow((z + 1) / grid.nz)) return undefined;
  }
  return out;
}
