import { createNoise2D } from 'simplex-noise';
import { randomStream } from './hash';

/**
 * Fractal simplex noise, about [-1, 1], seeded. `simplex-noise` uses only + - * and floor on
 * constants, so the same seed gives the same bits everywhere (see noise.test.ts).
 */
export interface FractalNoise {
  /** Value at a point given in units of the first octave's wavelength. */
  at(x: number, z: number): number;
}

/** @param octaves 1 to 8; each halves the wavelength and the amplitude */
export function fractalNoise(seed: number, octaves: number): FractalNoise {
  const layers = Array.from({ length: octaves }, (_, i) => createNoise2D(randomStream(seed * 31 + i)));
  let total = 0;
  for (let i = 0, a = 1; i < octaves; i++, a /= 2) total += a;
  return {
    at(x, z) {
      let sum = 0;
      let amplitude = 1;
      let frequency = 1;
      for (let i = 0; i < octaves; i++) {
        sum += amplitude * layers[i](x * frequency, z * frequency);
        amplitude /= 2;
        frequency *= 2;
      }
      return sum / total;
    },
  };
}
