import { decode, encode } from 'fast-png';
import type { AssetTexture } from '../../kit/material';
import type { PictureTools } from '../../kit/mend/tools';
import type { Pixels } from '../../num/halvePicture';

/** Unpacks a PNG of any depth into four bytes a pixel. */
export function unpackPng(bytes: Uint8Array): Pixels {
  const { width, height, data, channels, depth, palette } = decode(bytes);
  const out = new Uint8Array(width * height * 4).fill(255);
  const byte = (v: number) => (depth === 16 ? v >> 8 : v);
  for (let i = 0; i < width * height; i++) {
    if (palette) {
      out.set(palette[data[i]] ?? [0, 0, 0], i * 4);
      continue;
    }
    const grey = channels < 3;
    for (let k = 0; k < 3; k++) out[i * 4 + k] = byte(data[i * channels + (grey ? 0 : k)]);
    if (channels === 2 || channels === 4) out[i * 4 + 3] = byte(data[i * channels + channels - 1]);
  }
  return { width, height, data: out };
}

/** Packs pixels as PNG; what is opaque all over takes three channels. */
export function packPng({ width, height, data }: Pixels): Uint8Array {
  let opaque = true;
  for (let i = 3; i < data.length && opaque; i += 4) opaque = data[i] === 255;
  if (!opaque) return encode({ width, height, data, channels: 4, depth: 8 });
  const rgb = new Uint8Array(width * height * 3);
  for (let i = 0; i < width * height; i++) rgb.set(data.subarray(i * 4, i * 4 + 3), i * 3);
  return encode({ width, height, data: rgb, channels: 3, depth: 8 });
}

/** Pictures where there is no browser: PNG alone. */
export const PNG_PICTURES: PictureTools = {
  unpack(texture: AssetTexture) {
    if (texture.mime !== 'image/png') return Promise.reject(new Error(`${texture.name} is ${texture.mime}: only a browser unpacks it`));
    return Promise.resolve(unpackPng(texture.bytes));
  },
  pack: (pixels) => Promise.resolve({ bytes: packPng(pixels), mime: 'image/png' }),
};
