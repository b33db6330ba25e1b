import type { Vec3 } from '../num/vec';
import { mapDirection } from './harmonics';

/** A picture of all round as light: red, green and blue of each texel, rows from straight down to straight up, columns from -z over +x. */
export interface Panorama {
  width: number;
  height: number;
  data: Float32Array;
}

/** A panorama no wider than `most`, each texel the mean of those it takes the place of. */
export function shrunk(panorama: Panorama, most: number): Panorama {
  const k = Math.ceil(panorama.width / most);
  if (k <= 1) return panorama;
  const [width, height] = [Math.floor(panorama.width / k), Math.max(1, Math.floor(panorama.height / k))];
  const data = new Float32Array(width * height * 3);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++)
      for (let c = 0; c < 3; c++) {
        let sum = 0;
        for (let dy = 0; dy < k; dy++) for (let dx = 0; dx < k; dx++) sum += panorama.data[((y * k + dy) * panorama.width + x * k + dx) * 3 + c];
        data[(y * width + x) * 3 + c] = sum / (k * k);
      }
  return { width, height, data };
}

/**
 * Light in four bytes a texel, the last an exponent that all three share (Ward 1991), rows from the top as pictures have them: to a hundredth
 * of the brightest of its three, from 1e-38 to 1e38.
 */
export function packLight({ width, height, data }: Panorama): Uint8Array {
  const out = new Uint8Array(width * height * 4);
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const from = (y * width + x) * 3;
      const to = ((height - 1 - y) * width + x) * 4;
      const most = Math.max(data[from], data[from + 1], data[from + 2]);
      if (!(most > 1e-32)) continue;
      // Half to one times a power of two.
      let exponent = 0;
      let scale = 1;
      while (most * scale >= 1) [scale, exponent] = [scale / 2, exponent + 1];
      while (most * scale < 0.5) [scale, exponent] = [scale * 2, exponent - 1];
      for (let c = 0; c < 3; c++) out[to + c] = Math.min(255, Math.floor(Math.max(0, data[from + c]) * scale * 256));
      out[to + 3] = exponent + 128;
    }
  }
  return out;
}

/** What `packLight` packed. @param bytes four a texel, rows from the top */
export function unpackLight(bytes: Uint8Array, width: number, height: number): Panorama {
  const data = new Float32Array(width * height * 3);
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const from = ((height - 1 - y) * width + x) * 4;
      if (bytes[from + 3] === 0) continue;
      let scale = 1 / 256;
      for (let e = bytes[from + 3] - 128; e > 0; e--) scale *= 2;
      for (let e = bytes[from + 3] - 128; e < 0; e++) scale /= 2;
      for (let c = 0; c < 3; c++) data[(y * width + x) * 3 + c] = (bytes[from + c] + 0.5) * scale;
    }
  }
  return { width, height, data };
}

/** How many times the mean light the brightest place must have to be taken for a sun. */
const SUN_OVER_MEAN = 12;

/** Where the sun stands in a panorama: the direction of its brightest place, if that is far brighter than the rest. */
export function sunOf({ width, height, data }: Panorama): Vec3 | undefined {
  let best = -1;
  let most = 0;
  let sum = 0;
  for (let i = 0; i < width * height; i++) {
    const light = data[i * 3] + data[i * 3 + 1] + data[i * 3 + 2];
    sum += light;
    if (light > most) [most, best] = [light, i];
  }
  if (best < 0 || most < (SUN_OVER_MEAN * sum) / (width * height)) return undefined;
  return mapDirection(((best % width) + 0.5) / width, (Math.floor(best / width) + 0.5) / height);
}
