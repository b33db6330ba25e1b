import { fractal, noise } from '@rammer/core/num/tiling';
import { smoothstep } from '@rammer/core/num/vec';
import { mix, paint, shade, type Rgb, type Sheet, type Texel } from './sheet';

/** Iron left out in the rain for a century: scale, rust in three depths, a little bare where hands and wheels go; 1 m a side. */
export const iron = (): Promise<Sheet> =>
  paint({ name: 'iron', side: 512, metres: 1, hollows: 0.4 }, (u, v): Texel => {
    const broad = fractal({ seed: 441, period: 4, octaves: 5 }, u, v);
    const pit = fractal({ seed: 442, period: 40, octaves: 3 }, u, v);
    const flake = smoothstep(0.52, 0.6, fractal({ seed: 443, period: 9, octaves: 4 }, u, v));
    const run = smoothstep(0.55, 0.85, noise(444, 26, u, v, 3)) * 0.5;
    const scale: Rgb = mix([0.15, 0.145, 0.15], [0.26, 0.25, 0.25], pit);
    const rust: Rgb = mix([0.25, 0.165, 0.125], [0.43, 0.3, 0.215], pit * 0.6 + broad * 0.4);
    const red = Math.min(1, smoothstep(0.32, 0.62, broad + 0.25 * flake) + run);
    return {
      colour: shade(mix(scale, rust, red), 0.9 + 0.2 * noise(445, 160, u, v)),
      height: flake * 0.0012 + pit * 0.0009 * red,
      rough: 0.5 + 0.42 * red,
      metal: 0.75 * (1 - red),
    };
  });
