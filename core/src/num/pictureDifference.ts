/** A picture of four bytes a pixel. */
interface Pixels {
  width: number;
  height: number;
  data: Uint8ClampedArray;
}

/** A pixel is another where any of its colours is so far off, of 255. */
const OFF = 14;
const CHANGED = [179, 64, 42] as const;

/**
 * Where two pictures of one size differ: the second in pale greys, what is another in it in oxide, the stronger the more.
 *
 * @returns its pixels, and the share of all pixels that are others
 */
export function pictureDifference(a: Pixels, b: Pixels): { data: Uint8ClampedArray<ArrayBuffer>; share: number } {
  const data = new Uint8ClampedArray(b.data.length);
  let count = 0;
  for (let i = 0; i < data.length; i += 4) {
    const off = Math.max(Math.abs(a.data[i] - b.data[i]), Math.abs(a.data[i + 1] - b.data[i + 1]), Math.abs(a.data[i + 2] - b.data[i + 2]));
    const pale = 140 + 0.4 * (0.3 * b.data[i] + 0.59 * b.data[i + 1] + 0.11 * b.data[i + 2]);
    const strong = off > OFF ? Math.min(1, 0.5 + off / 160) : 0;
    if (off > OFF) count++;
    for (let k = 0; k < 3; k++) data[i + k] = pale + (CHANGED[k] - pale) * strong;
    data[i + 3] = 255;
  }
  return { data, share: data.length === 0 ? 0 : count / (data.length / 4) };
}
