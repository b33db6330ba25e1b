import { hashUnit } from '@rammer/core/num/hash';
import { cells, fractal, noise } from '@rammer/core/num/tiling';
import { smoothstep } from '@rammer/core/num/vec';
import { mix, paint, shade, type Rgb, type Sheet, type Texel } from './sheet';

/** Weathered boards, the grain along u: 1 m a side. */
export const timber = (): Promise<Sheet> =>
  paint({ name: 'timber', side: 1024, metres: 2 }, (u, v): Texel => {
    // A knot bends the grain about it.
    const [near, , id] = cells(401, 5, u, v);
    const knot = hashUnit(402, id) < 0.45 ? smoothstep(0.22, 0.02, near) : 0;
    const bend = v + 0.012 * knot + 0.01 * (noise(403, 4, u, v) - 0.5);
    const band = noise(404, 2, u, bend, 44) * 0.6 + noise(405, 3, u, bend, 120) * 0.4;
    const fibre = noise(406, 8, u, bend, 380);
    const check = smoothstep(0.74, 0.86, noise(407, 4, u, bend, 150)) * smoothstep(0.35, 0.6, noise(408, 6, u, v));
    const grey = smoothstep(0.25, 0.75, fractal({ seed: 409, period: 4, octaves: 3 }, u, v));
    const brown: Rgb = mix([0.33, 0.27, 0.215], [0.48, 0.41, 0.335], band);
    const silver: Rgb = mix([0.38, 0.36, 0.33], [0.58, 0.555, 0.515], band);
    let c = mix(brown, silver, 0.3 + 0.55 * grey);
    c = mix(c, [0.2, 0.15, 0.11], knot * 0.75);
    c = shade(c, (0.86 + 0.22 * fibre) * (1 - 0.55 * check));
    return { colour: c, height: band * 0.0016 + fibre * 0.0006 - check * 0.003 + knot * 0.0008, rough: 0.82 + 0.1 * fibre };
  });

/** Birch bark: papery white with dark flecks across, black where it has split; 0.6 m a side. */
export const birchBark = (): Promise<Sheet> =>
  paint({ name: 'birch bark', side: 256, metres: 0.6 }, (u, v): Texel => {
    const fleck = smoothstep(0.66, 0.78, noise(411, 9, u, v, 44)) * smoothstep(0.4, 0.6, noise(412, 14, u, v, 20));
    const split = smoothstep(0.64, 0.74, fractal({ seed: 413, period: 3, octaves: 4 }, u, v));
    const paper = noise(414, 3, u, v, 26);
    let c: Rgb = mix([0.74, 0.71, 0.66], [0.86, 0.85, 0.82], paper);
    c = mix(c, [0.56, 0.44, 0.36], smoothstep(0.62, 0.9, noise(415, 5, u, v, 12)) * 0.4);
    c = mix(c, [0.17, 0.155, 0.145], Math.max(fleck * 0.85, split));
    return { colour: c, height: paper * 0.001 - fleck * 0.002 - split * 0.006 + split * 0.005 * noise(416, 40, u, v), rough: 0.75 + 0.2 * split };
  });

/** Bark with upright ridges: rowan, gorse stems, and what lies fallen; 0.6 m a side. */
export const darkBark = (): Promise<Sheet> =>
  paint({ name: 'dark bark', side: 256, metres: 0.6 }, (u, v): Texel => {
    const ridge = noise(421, 22, u + 0.03 * noise(422, 5, u, v), v, 5);
    const fine = fractal({ seed: 423, period: 24, octaves: 3 }, u, v);
    const moss = smoothstep(0.6, 0.8, fractal({ seed: 424, period: 4, octaves: 4 }, u, v));
    let c: Rgb = mix([0.21, 0.185, 0.165], [0.42, 0.39, 0.355], ridge * 0.6 + fine * 0.4);
    c = mix(c, [0.3, 0.32, 0.17], moss * 0.5);
    return { colour: c, height: ridge * 0.006 + fine * 0.002 + moss * 0.003, rough: 0.92 };
  });

/** Plain sacking: threads over and under each other; 0.25 m a side. */
export const sacking = (): Promise<Sheet> =>
  paint({ name: 'sacking', side: 256, metres: 0.25 }, (u, v): Texel => {
    const n = 44;
    const [a, b] = [u * n, v * n];
    const over = (Math.floor(a) + Math.floor(b)) % 2 === 0;
    const across = Math.sin((a % 1) * Math.PI);
    const along = Math.sin((b % 1) * Math.PI);
    const h = over ? along * (0.6 + 0.4 * across) : across * (0.6 + 0.4 * along);
    const worn = fractal({ seed: 431, period: 3, octaves: 3 }, u, v);
    return { colour: shade(mix([0.44, 0.37, 0.27], [0.6, 0.52, 0.39], worn), 0.6 + 0.4 * h), height: h * 0.0014, rough: 0.95 };
  });
