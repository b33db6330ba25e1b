import { mix32 } from './hash';
import { clamp } from './vec';

/** Value of a lattice point, 0 to 1. */
const corner = (seed: number, x: number, y: number, z: number): number =>
  mix32(seed ^ Math.imul(x, 0x27d4eb2d) ^ Math.imul(y, 0x165667b1) ^ Math.imul(z, 0x1b873593)) / 4294967295;

const smooth = (t: number): number => t * t * (3 - 2 * t);

/** Two octaves vary little about their middle; so much stretched, a band is about the share of places it lets in. */
const STRETCH = 1.6;

/**
 * Seeded patches in space, 0 to 1: two octaves of value noise on a lattice hashed by integers, so that a shader gives the
 * same but for its digits.
 *
 * @param x,y,z in sizes of a patch
 */
export function patches(seed: number, x: number, y: number, z: number): number {
  const coarse = octave(seed | 0, x, y, z);
  const fine = octave((seed + 1) | 0, x * 2, y * 2, z * 2);
  return clamp(0.5 + ((coarse * 2 + fine) / 3 - 0.5) * STRETCH, 0, 1);
}

function octave(seed: number, x: number, y: number, z: number): number {
  const [ix, iy, iz] = [Math.floor(x), Math.floor(y), Math.floor(z)];
  const [u, v, w] = [smooth(x - ix), smooth(y - iy), smooth(z - iz)];
  let sum = 0;
  for (let k = 0; k < 8; k++) {
    const [a, b, c] = [k & 1, (k >> 1) & 1, k >> 2];
    sum += corner(seed, ix + a, iy + b, iz + c) * (a ? u : 1 - u) * (b ? v : 1 - v) * (c ? w : 1 - w);
  }
  return sum;
}
