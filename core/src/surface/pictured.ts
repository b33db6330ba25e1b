import { clamp } from '../num/vec';

/** How much larger the steps over the edges of a picture may be than those inside it, for one that tiles. */
const TILES_BELOW = 1.6;

/** Part of a side over which a picture that does not tile is mixed with its mirror image, at each edge. */
const MARGIN = 1 / 6;

/**
 * A picture as the texture of a surface, laid out as `surfaceTexture`: it tiles, and how far it stands out is
 * its transparency where it has any, else its brightness, from the darkest to the lightest of it.
 *
 * @param pixels four bytes a pixel, row by row, square
 */
export function pictureTexture(pixels: Uint8Array | Uint8ClampedArray, side: number): Uint8Array {
  const out = Uint8Array.from(pixels);
  if (!isClear(pixels)) standOut(out);
  return edgeSteps(out, side) > TILES_BELOW ? mendEdges(out, side) : out;
}

function isClear(pixels: ArrayLike<number>): boolean {
  for (let i = 3; i < pixels.length; i += 4) if (pixels[i] < 250) return true;
  return false;
}

const brightness = (pixels: ArrayLike<number>, i: number): number => 0.2126 * pixels[i] + 0.7152 * pixels[i + 1] + 0.0722 * pixels[i + 2];

/** Sets the fourth byte by brightness, spread so that all but the outer 2 % at either end fill the range. */
function standOut(pixels: Uint8Array): void {
  const count = new Uint32Array(256);
  for (let i = 0; i < pixels.length; i += 4) count[Math.round(brightness(pixels, i))]++;
  const few = pixels.length / 4 / 50;
  const end = (from: number, step: number): number => {
    let v = from;
    for (let seen = count[v]; seen <= few && v + step >= 0 && v + step <= 255; seen += count[v]) v += step;
    return v;
  };
  const [low, high] = [end(0, 1), end(255, -1)];
  for (let i = 0; i < pixels.length; i += 4) pixels[i + 3] = high > low ? Math.round(clamp((brightness(pixels, i) - low) / (high - low), 0, 1) * 255) : 128;
}

/** How many times larger the mean step from one edge to the other is than that between pixels side by side inside; about 1 where a picture tiles. */
export function edgeSteps(pixels: ArrayLike<number>, side: number): number {
  const step = (a: number, b: number) => Math.abs(brightness(pixels, a * 4) - brightness(pixels, b * 4));
  let [edge, inside] = [0, 0];
  for (let k = 0; k < side; k++) {
    edge += step(k * side, k * side + side - 1) + step(k, (side - 1) * side + k);
    for (let j = 1; j < side; j++) inside += step(k * side + j - 1, k * side + j) + step((j - 1) * side + k, j * side + k);
  }
  return edge / (inside / (side - 1) + 0.02 * side);
}

/** Mixes each edge with the mirror image of the other side, half and half where they meet. */
export function mendEdges(pixels: Uint8Array, side: number): Uint8Array {
  const margin = Math.max(1, Math.round(side * MARGIN));
  const own = Float64Array.from({ length: side }, (_, k) => Math.min(1, 0.5 + (0.5 * Math.min(k, side - 1 - k)) / margin));
  const across = new Uint8Array(pixels.length);
  for (let y = 0; y < side; y++) for (let x = 0; x < side; x++) mixed(across, pixels, (y * side + x) * 4, (y * side + side - 1 - x) * 4, own[x]);
  const out = new Uint8Array(pixels.length);
  for (let y = 0; y < side; y++) for (let x = 0; x < side; x++) mixed(out, across, (y * side + x) * 4, ((side - 1 - y) * side + x) * 4, own[y]);
  return out;
}

function mixed(out: Uint8Array, from: Uint8Array, i: number, other: number, own: number): void {
  for (let c = 0; c < 4; c++) out[i + c] = Math.round(from[i + c] * own + from[other + c] * (1 - own));
}
