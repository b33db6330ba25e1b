import { SRGB_LIGHT, srgbByte } from './srgb';

/** A picture of four bytes a pixel: red, green, blue, alpha. */
export interface Pixels {
  width: number;
  height: number;
  data: Uint8Array;
}

/** What its values are: colours of sRGB, directions from -1 to 1, or anything else. */
export type PixelKind = 'colour' | 'normal' | 'data';

/**
 * Half as wide and high, each pixel the mean of four: of colours the mean of their light, weighed by how opaque they are; of
 * directions their sum, one long again. A side of one stays one, and of an odd side the last goes to its neighbour.
 */
export function halvePicture({ width, height, data }: Pixels, kind: PixelKind): Pixels {
  const [w, h] = [Math.max(1, width >> 1), Math.max(1, height >> 1)];
  const out = new Uint8Array(w * h * 4);
  for (let y = 0; y < h; y++) {
    const rows = span(y, h, height);
    for (let x = 0; x < w; x++) {
      const columns = span(x, w, width);
      const sum = [0, 0, 0, 0];
      let [weight, count] = [0, 0];
      for (let sy = rows[0]; sy < rows[1]; sy++)
        for (let sx = columns[0]; sx < columns[1]; sx++) {
          const o = (sy * width + sx) * 4;
          const alpha = data[o + 3];
          const share = kind === 'colour' ? alpha : 1;
          for (let k = 0; k < 3; k++) sum[k] += (kind === 'colour' ? SRGB_LIGHT[data[o + k]] : kind === 'normal' ? data[o + k] - 127.5 : data[o + k]) * share;
          weight += share;
          sum[3] += alpha;
          count++;
        }
      const o = (y * w + x) * 4;
      if (kind === 'normal') {
        const l = Math.sqrt(sum[0] * sum[0] + sum[1] * sum[1] + sum[2] * sum[2]) || 1;
        for (let k = 0; k < 3; k++) out[o + k] = Math.round((sum[k] / l) * 127.5 + 127.5);
      } else
        for (let k = 0; k < 3; k++) {
          // Where all is clear its colour is that of what is clear: it shows at edges.
          const mean = weight > 0 ? sum[k] / weight : plainMean(data, width, [columns, rows], k);
          out[o + k] = kind === 'colour' ? srgbByte(mean) : Math.round(mean);
        }
      out[o + 3] = Math.round(sum[3] / count);
    }
  }
  return { width: w, height: h, data: out };
}

/** Which of `size` pixels become pixel `i` of half as many. */
function span(i: number, half: number, size: number): [number, number] {
  return size === 1 ? [0, 1] : [i * 2, i === half - 1 ? size : i * 2 + 2];
}

function plainMean(data: Uint8Array, width: number, [[x0, x1], [y0, y1]]: readonly [[number, number], [number, number]], k: number): number {
  let sum = 0;
  for (let y = y0; y < y1; y++) for (let x = x0; x < x1; x++) sum += SRGB_LIGHT[data[(y * width + x) * 4 + k]];
  return sum / ((x1 - x0) * (y1 - y0));
}
