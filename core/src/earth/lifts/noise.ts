import type { NoiseLift } from '../../level/objects';
import type { Grid } from '../../level/tiles';
import { fractalNoise } from '../../num/noise';
import { hashText } from '../../num/hash';
import type { PassMaker } from './pass';

/** What a noise lift's raster depends on; two equal hashes give equal rasters. */
export function noiseLiftHash(lift: NoiseLift, grid: Pick<Grid, 'nx' | 'nz' | 'spacing' | 'ox' | 'oz'>): string {
  return hashText(
    JSON.stringify([
      'noise',
      lift.seed,
      lift.height,
      lift.scale,
      lift.octaves,
      lift.style ?? 'fractal',
      lift.warp ?? 0,
      grid.nx,
      grid.nz,
      grid.spacing,
      grid.ox,
      grid.oz,
    ]),
  );
}

/** Largest forms of the field that pushes places about, against those of the noise itself. */
const WARP_SCALE = 0.7;

type NoiseGrid = Pick<Grid, 'nx' | 'nz' | 'spacing' | 'ox' | 'oz'>;

/**
 * Raster of a noise lift, metres, one float32 a sample, row by row (z outer).
 *
 * Ridged folds the noise at zero so that its zero lines become crests, 1 - 2 |n|; billow folds it the
 * other way into round bumps. Warp reads it `warp` metres off, by two noises of their own.
 */
export function noiseLiftRaster(lift: NoiseLift, grid: NoiseGrid): Float32Array {
  const out = new Float32Array(grid.nx * grid.nz);
  noiseLiftRows(lift, grid, out, 0, grid.nz - 1);
  return out;
}

/** Writes rows z0 to z1 of that raster into one that begins with row z0. */
export function noiseLiftRows(lift: NoiseLift, grid: NoiseGrid, out: Float32Array, z0: number, z1: number): void {
  const { style = 'fractal', warp = 0 } = lift;
  const noise = fractalNoise(lift.seed, lift.octaves);
  const east = fractalNoise(lift.seed ^ 0x51ed27, 2);
  const south = fractalNoise(lift.seed ^ 0x2c1b3c, 2);
  const step = grid.spacing / lift.scale;
  const push = warp / lift.scale;
  const ou = grid.ox / lift.scale;
  const ov = grid.oz / lift.scale;
  for (let z = z0, i = 0; z <= z1; z++) {
    for (let x = 0; x < grid.nx; x++, i++) {
      let u = x * step + ou;
      let v = z * step + ov;
      if (push > 0) {
        const a = u / WARP_SCALE;
        const b = v / WARP_SCALE;
        u += push * east.at(a, b);
        v += push * south.at(a, b);
      }
      const n = noise.at(u, v);
      out[i] = lift.height * (style === 'fractal' ? n : style === 'ridged' ? 1 - 2 * Math.abs(n) : 2 * Math.abs(n) - 1);
    }
  }
}

/**
 * The same rows, looked at only every so many samples and straight between: for a picture so small that it
 * shows no more of them.
 *
 * @param every samples between two looks
 */
export function coarseNoiseRows(lift: NoiseLift, grid: NoiseGrid, out: Float32Array, { z0, z1 }: { z0: number; z1: number }, every: number): void {
  const [w, d] = [Math.ceil(grid.nx / every) + 1, Math.ceil((z1 - z0) / every) + 2];
  const coarse = new Float32Array(w * d);
  const first = Math.floor(z0 / every);
  noiseLiftRows(lift, { ...grid, nx: w, nz: first + d, spacing: grid.spacing * every }, coarse, first, first + d - 1);
  for (let z = z0, i = 0; z <= z1; z++) {
    const v = z / every - first;
    const row = Math.floor(v);
    const south = v - row;
    for (let x = 0; x < grid.nx; x++, i++) {
      const u = x / every;
      const at = row * w + Math.floor(u);
      const east = u - Math.floor(u);
      const north = coarse[at] + (coarse[at + 1] - coarse[at]) * east;
      out[i] = north + (coarse[at + w] + (coarse[at + w + 1] - coarse[at + w]) * east - north) * south;
    }
  }
}

/** Its `write` throws when the raster is not there; callers make it first, see missingNoise. */
export const noisePass: PassMaker<NoiseLift> = (lift, { grid, noise, noiseFrom = 0 }) => {
  const raster = noise.get(noiseLiftHash(lift, grid));
  const base = lift.base ?? 0;
  return {
    blend: 'add',
    write(window, part, out, blend) {
      if (!raster) throw new Error(`noise of lift ${lift.id} is not there yet`);
      const lifted = blend === 'add' ? 0 : base;
      for (let z = part.z0; z <= part.z1; z++) {
        const to = (z - window.z0) * window.w - window.x0;
        for (let x = part.x0, from = (z - noiseFrom) * grid.nx; x <= part.x1; x++) out[to + x] = raster[from + x] + lifted;
      }
    },
  };
};
