import type { Level } from '../level/level';
import type { Surface } from '../level/objects';
import { hashUnit } from '../num/hash';
import { cells, fractal, noise } from '../num/tiling';
import { clamp, smoothstep } from '../num/vec';

/** Pixels a side of a generated surface texture. */
export const TEXTURE_SIDE = 256;
/** Pixels a side of surfaces in the full picture, where any of them wears a picture of its own. */
export const FINE_SIDE = 1024;

type Rgb = [number, number, number];
const mix = (a: Rgb, b: Rgb, t: number): Rgb => [a[0] + (b[0] - a[0]) * t, a[1] + (b[1] - a[1]) * t, a[2] + (b[2] - a[2]) * t];
const shade = (c: Rgb, k: number): Rgb => [c[0] * k, c[1] * k, c[2] * k];

/** Colour and standing-out (for blending by height) of each kind at a place of its tile, u and v from 0 to 1. */
const PAINTERS: Record<Surface['texture'], (u: number, v: number) => [Rgb, number]> = {
  turf(u, v) {
    const broad = fractal({ seed: 11, period: 3, octaves: 4 }, u, v);
    const blade = fractal({ seed: 17, period: 28, octaves: 3 }, u, v * 0.999);
    const dry = smoothstep(0.55, 0.85, fractal({ seed: 23, period: 5, octaves: 3 }, u, v) + blade * 0.15);
    let c = mix([0.22, 0.245, 0.115], [0.4, 0.39, 0.19], broad * 0.7 + blade * 0.35);
    c = mix(c, [0.36, 0.31, 0.22], dry * 0.7);
    return [shade(c, 0.78 + 0.44 * blade), blade];
  },
  slate(u, v) {
    // Beds lie across v: long one way, short the other, with thin leaves and a few upright joints.
    const warp = 0.03 * noise(30, 4, u, v);
    const beds = noise(32, 2, u, v + warp, 10) * 0.7 + noise(37, 5, u, v + warp, 21) * 0.3;
    const leaves = noise(33, 3, u, v + warp * 0.6, 64);
    const joint = noise(34, 15, u + warp, v, 4);
    const crack = smoothstep(0.12, 0.3, joint);
    const grain = fractal({ seed: 38, period: 24, octaves: 2 }, u, v);
    let c = mix([0.2, 0.21, 0.24], [0.46, 0.46, 0.48], clamp(beds * 0.85 + leaves * 0.5 - 0.22, 0, 1));
    c = mix(c, [0.34, 0.27, 0.235], smoothstep(0.62, 0.88, fractal({ seed: 39, period: 4, octaves: 2 }, u, v)) * 0.45);
    return [shade(c, (0.72 + 0.28 * crack) * (0.88 + 0.24 * grain)), beds * 0.6 + crack * 0.4];
  },
  gravel(u, v) {
    const [near, second, id] = cells(51, 22, u, v);
    const [n2, s2, id2] = cells(52, 46, u, v);
    const edge = smoothstep(0.05, 0.28, second - near);
    const fine = smoothstep(0.05, 0.3, s2 - n2);
    const stone = mix([0.33, 0.325, 0.33], [0.56, 0.53, 0.49], hashUnit(53, id));
    const chip = mix([0.3, 0.28, 0.26], [0.46, 0.44, 0.42], hashUnit(54, id2));
    const c = mix(shade(chip, 0.55 + 0.45 * fine), shade(stone, 1.05 - 0.35 * near), edge);
    return [c, 0.3 + 0.7 * edge];
  },
  scree(u, v) {
    // Broken plates: edged pieces of two sizes, each tilted its own way, dark between them.
    const [near, second, id] = cells(71, 9, u + 0.02 * noise(75, 9, u, v), v);
    const [n2, s2, id2] = cells(72, 21, u, v);
    const edge = smoothstep(0.03, 0.16, second - near);
    const small = smoothstep(0.03, 0.2, s2 - n2);
    const tilt = 0.78 + 0.4 * hashUnit(74, id) + 0.12 * (noise(76, 40, u, v, 20) - 0.5);
    const plate = mix([0.27, 0.275, 0.3], [0.5, 0.49, 0.5], hashUnit(73, id));
    const chip = mix([0.24, 0.235, 0.25], [0.42, 0.41, 0.41], hashUnit(77, id2));
    const big = edge * smoothstep(0.25, 0.4, hashUnit(78, id));
    return [mix(shade(chip, 0.5 + 0.5 * small), shade(plate, tilt), big), 0.25 * small + 0.75 * big * (0.6 + 0.4 * hashUnit(74, id))];
  },
  mud(u, v) {
    const broad = fractal({ seed: 81, period: 4, octaves: 4 }, u, v);
    const [near] = cells(82, 13, u + 0.04 * noise(83, 9, u, v), v);
    const print = smoothstep(0.18, 0.42, near);
    const wet = 1 - smoothstep(0.3, 0.55, broad);
    const c = mix([0.3, 0.25, 0.19], [0.43, 0.37, 0.285], broad);
    return [shade(mix(c, [0.2, 0.18, 0.15], wet * 0.7), 0.82 + 0.2 * print + 0.1 * noise(84, 48, u, v)), 0.35 * broad + 0.4 * print];
  },
  heath(u, v) {
    // Low twigs over dark peat, with some in flower.
    const [near, , id] = cells(91, 16, u + 0.04 * noise(95, 11, u, v), v);
    const bush = 1 - smoothstep(0.25, 0.7, near);
    const twig = fractal({ seed: 92, period: 40, octaves: 2 }, u, v);
    const flower = bush * smoothstep(0.62, 0.8, twig) * smoothstep(0.45, 0.6, hashUnit(93, id));
    let c = mix([0.185, 0.165, 0.135], [0.29, 0.28, 0.165], bush * (0.5 + 0.5 * hashUnit(94, id)));
    c = mix(c, [0.45, 0.3, 0.4], flower * 0.75);
    return [shade(c, 0.74 + 0.5 * twig), 0.2 + 0.8 * bush * (0.5 + 0.5 * twig)];
  },
  setts(u, v) {
    // Squared stones in courses, each course shifted, joints full of dirt.
    const rows = 12;
    const row = Math.floor(v * rows);
    const along = u * 8 + (row % 2) * 0.5 + 0.1 * (hashUnit(101, row) - 0.5);
    const stone = ((Math.floor(along) % 8) + 8) % 8;
    const fx = along - Math.floor(along);
    const fy = v * rows - row;
    const wear = 0.05 * noise(102, 36, u, v);
    const body = smoothstep(0.03, 0.12, Math.min(fx, 1 - fx) + wear) * smoothstep(0.05, 0.18, Math.min(fy, 1 - fy) + wear);
    const c = mix([0.32, 0.315, 0.31], [0.5, 0.48, 0.455], hashUnit(103, stone, row));
    return [
      mix([0.215, 0.205, 0.175], shade(c, 0.86 + 0.26 * fractal({ seed: 104, period: 30, octaves: 2 }, u, v)), body),
      body * (0.75 + 0.25 * hashUnit(105, stone, row)),
    ];
  },
  moss(u, v) {
    const [near] = cells(61, 9, u + 0.05 * noise(64, 7, u, v), v);
    const clump = 1 - smoothstep(0.2, 0.85, near);
    const fine = fractal({ seed: 62, period: 36, octaves: 3 }, u, v);
    const c = mix([0.16, 0.195, 0.085], [0.335, 0.375, 0.15], clamp(clump * 0.75 + fine * 0.4 - 0.1, 0, 1));
    return [shade(c, 0.8 + 0.4 * fine), clump];
  },
};

/**
 * The texture of a surface, or its own picture by the hash of the asset, with another texture in its hollows where it has one.
 * The same key, the same bytes.
 */
export type Weave = Pick<Surface, 'texture' | 'hollows' | 'picture'>;
/** What a texture is made from, as text: equal keys, equal bytes. */
export const weaveKey = ({ texture, hollows, picture }: Weave): string =>
  [picture ?? texture, ...(hollows ? [hollows.texture, hollows.level, hollows.soft] : [])].join('/');

/** What the texture of a surface is made of in a level. A picture that is not there is none. */
export function weaveOf({ texture, hollows, picture }: Surface, level: Pick<Level, 'object'>): Weave {
  const asset = picture === undefined ? undefined : level.object(picture);
  return { texture, ...(hollows ? { hollows } : {}), ...(asset?.kind === 'asset' ? { picture: asset.hash } : {}) };
}

/**
 * Two textures made one by the heights of the first: what lies under `level` is the other one, over a
 * softness; the other's own heights fray the edge. Laid out as `surfaceTexture`.
 *
 * @param picture the first, where it is a picture and not a texture; see `pictureTexture`
 */
export function weave(of: Weave, side = TEXTURE_SIDE, picture?: Uint8Array): Uint8Array {
  const out = picture ? picture.slice() : surfaceTexture(of.texture, side);
  if (!of.hollows) return out;
  const { level, soft } = of.hollows;
  const other = surfaceTexture(of.hollows.texture, side);
  for (let i = 0; i < out.length; i += 4) {
    const high = out[i + 3] / 255 - (other[i + 3] / 255 - 0.5) * 0.2;
    const k = 1 - smoothstep(level - soft / 2 - 1e-6, level + soft / 2, high);
    for (let c = 0; c < 3; c++) out[i + c] = Math.round(out[i + c] + (other[i + c] - out[i + c]) * k);
    // What fills a hollow lies as deep as the hollow.
    out[i + 3] = Math.round(out[i + 3] + (other[i + 3] * level * 0.8 - out[i + 3]) * k);
  }
  return out;
}

/** A tiling texture: four bytes a pixel (red, green, blue as they look, and how far it stands out), row by row. */
export function surfaceTexture(kind: Surface['texture'], side = TEXTURE_SIDE): Uint8Array {
  const out = new Uint8Array(side * side * 4);
  for (let y = 0, o = 0; y < side; y++) {
    for (let x = 0; x < side; x++) {
      const [c, high] = PAINTERS[kind](x / side, y / side);
      for (const v of [...c, high]) out[o++] = Math.round(clamp(v, 0, 1) * 255);
    }
  }
  return out;
}

/** A tiling texture so many times as large, mixed between its pixels. */
export function enlarged(texture: Uint8Array, side: number, times: number): Uint8Array {
  const large = side * times;
  const out = new Uint8Array(large * large * 4);
  // Pixels are asked for at their middles.
  const at = Array.from({ length: large }, (_, i) => {
    const k = (i + 0.5) / times - 0.5 + side;
    return [Math.floor(k) % side, Math.floor(k + 1) % side, k - Math.floor(k)] as const;
  });
  for (let y = 0, o = 0; y < large; y++) {
    const [y0, y1, fy] = at[y];
    for (let x = 0; x < large; x++) {
      const [x0, x1, fx] = at[x];
      for (let c = 0; c < 4; c++, o++) {
        const top = texture[(y0 * side + x0) * 4 + c] * (1 - fx) + texture[(y0 * side + x1) * 4 + c] * fx;
        const low = texture[(y1 * side + x0) * 4 + c] * (1 - fx) + texture[(y1 * side + x1) * 4 + c] * fx;
        out[o] = Math.round(top * (1 - fy) + low * fy);
      }
    }
  }
  return out;
}
