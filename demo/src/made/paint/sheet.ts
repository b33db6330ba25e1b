import sharp from 'sharp';
import { clamp } from '@rammer/core/num/vec';
import { textureBytes, type AssetTexture } from '@rammer/core/kit/material';

export type Rgb = [red: number, green: number, blue: number];

export const mix = (a: Rgb, b: Rgb, t: number): Rgb => [a[0] + (b[0] - a[0]) * t, a[1] + (b[1] - a[1]) * t, a[2] + (b[2] - a[2]) * t];
export const shade = (c: Rgb, k: number): Rgb => [c[0] * k, c[1] * k, c[2] * k];

/** What a stuff is like at a place of its tile. */
export interface Texel {
  /** as it looks (sRGB), 0 to 1 */
  colour: Rgb;
  /** how far it stands out, metres */
  height: number;
  /** 0 mirror to 1 matt; 0.9 */
  rough?: number;
  /** 0 to 1; 0 */
  metal?: number;
  /** 0 clear to 1; 1 */
  alpha?: number;
}

/** A stuff as pictures: colours, directions, and roughness with metalness. */
export interface Sheet {
  name: string;
  /** side of its tile, metres */
  metres: number;
  colour: AssetTexture;
  normal: AssetTexture;
  metalRough: AssetTexture;
  /** colours with how far they stand out as alpha, as surfaces of the ground have it */
  withHeight?: AssetTexture;
}

export interface SheetOptions {
  name: string;
  /** pixels and metres a side of the tile */
  side: number;
  metres: number;
  /** how much of the light that hollows lose is in its colours, 0 to 1; 0.5 */
  hollows?: number;
  /** keeps the height beside the colours */
  ground?: boolean;
}

/** A picture without loss of its sharpness: of colours by WebP, of directions by JPEG without mixing its channels. */
export async function packed(
  name: string,
  pixels: Uint8Array,
  [width, height]: readonly [number, number],
  as: 'colour' | 'clear' | 'normal' | 'grey' | 'data',
): Promise<AssetTexture> {
  const raw = sharp(pixels, { raw: { width, height, channels: 4 } });
  const bytes =
    as === 'colour'
      ? await raw.removeAlpha().webp({ quality: 78, effort: 6, smartSubsample: true }).toBuffer()
      : as === 'clear'
        ? await raw.webp({ quality: 66, alphaQuality: 50, exact: true, effort: 6 }).toBuffer()
        : as === 'normal'
          ? await raw.removeAlpha().jpeg({ quality: 66, chromaSubsampling: '4:4:4', mozjpeg: true }).toBuffer()
          : as === 'grey'
            ? await raw.removeAlpha().toColourspace('b-w').png({ compressionLevel: 9 }).toBuffer()
            : await raw.removeAlpha().jpeg({ quality: 70, chromaSubsampling: '4:4:4', mozjpeg: true }).toBuffer();
  const mime = as === 'colour' || as === 'clear' ? 'image/webp' : as === 'grey' ? 'image/png' : 'image/jpeg';
  return { name, mime, bytes: new Uint8Array(bytes), width, height, gpuBytes: textureBytes(width, height) };
}

/** Paints a stuff: `at` is asked for each pixel of its tile, u and v from 0 to 1, v downwards. */
export async function paint({ name, side, metres, hollows = 0.5, ground }: SheetOptions, at: (u: number, v: number) => Texel): Promise<Sheet> {
  const height = new Float32Array(side * side);
  const colour = new Float32Array(side * side * 3);
  const look = new Uint8Array(side * side * 4).fill(255);
  for (let y = 0, i = 0; y < side; y++)
    for (let x = 0; x < side; x++, i++) {
      const t = at((x + 0.5) / side, (y + 0.5) / side);
      height[i] = t.height;
      colour.set(t.colour, i * 3);
      look[i * 4] = 255;
      look[i * 4 + 1] = Math.round(clamp(t.rough ?? 0.9, 0.04, 1) * 255);
      look[i * 4 + 2] = Math.round(clamp(t.metal ?? 0, 0, 1) * 255);
    }
  const near = blurred(height, side, Math.max(1, Math.round((side / metres) * 0.012)));
  const far = blurred(height, side, Math.max(2, Math.round((side / metres) * 0.05)));
  const pixels = new Uint8Array(side * side * 4);
  const normal = new Uint8Array(side * side * 4).fill(255);
  const step = (2 * metres) / side;
  const wrap = (v: number) => ((v % side) + side) % side;
  let [low, high] = [Infinity, -Infinity];
  for (const h of height) [low, high] = [Math.min(low, h), Math.max(high, h)];
  for (let y = 0, i = 0; y < side; y++)
    for (let x = 0; x < side; x++, i++) {
      const lost = clamp((near[i] - height[i]) * 90, -0.25, 0.6) * 0.6 + clamp((far[i] - height[i]) * 40, -0.25, 0.6) * 0.5;
      for (let k = 0; k < 3; k++) pixels[i * 4 + k] = Math.round(clamp(colour[i * 3 + k] * (1 - hollows * lost), 0, 1) * 255);
      // Never clear: a browser forgets the colour of what is.
      pixels[i * 4 + 3] = ground ? 96 + Math.round(((height[i] - low) / Math.max(1e-9, high - low)) * 159) : 255;
      const across = (height[y * side + wrap(x + 1)] - height[y * side + wrap(x - 1)]) / step;
      const down = (height[wrap(y + 1) * side + x] - height[wrap(y - 1) * side + x]) / step;
      const l = Math.sqrt(across * across + down * down + 1);
      normal[i * 4] = Math.round((0.5 - (across / l) * 0.5) * 255);
      normal[i * 4 + 1] = Math.round((0.5 + (down / l) * 0.5) * 255);
      normal[i * 4 + 2] = Math.round((0.5 + 0.5 / l) * 255);
    }
  const small = Math.min(side, 512);
  const half = await sharp(look, { raw: { width: side, height: side, channels: 4 } })
    .resize(small, small)
    .raw()
    .toBuffer();
  return {
    name,
    metres,
    colour: await packed(`${name} colour`, pixels, [side, side], 'colour'),
    normal: await packed(`${name} normal`, normal, [side, side], 'normal'),
    metalRough: await packed(`${name} roughness`, new Uint8Array(half), [small, small], 'data'),
    ...(ground ? { withHeight: await packed(`${name} with height`, pixels, [side, side], 'clear') } : {}),
  };
}

/** Mean about each pixel over a square of `2 r + 1`, on the torus. */
function blurred(from: Float32Array, side: number, r: number): Float32Array {
  const pass = (input: Float32Array, along: boolean): Float32Array => {
    const out = new Float32Array(input.length);
    const wrap = (v: number) => ((v % side) + side) % side;
    for (let line = 0; line < side; line++) {
      const place = (k: number) => (along ? line * side + wrap(k) : wrap(k) * side + line);
      let sum = 0;
      for (let k = -r; k <= r; k++) sum += input[place(k)];
      for (let k = 0; k < side; k++) {
        out[place(k)] = sum / (2 * r + 1);
        sum += input[place(k + r + 1)] - input[place(k - r)];
      }
    }
    return out;
  };
  return pass(pass(from, true), false);
}
