import { decode } from 'fast-png';
import { fault, type Outcome } from './fault';
import { plainPng, pngDataFault } from './rasterPng';

/**
 * A picture of heights from elsewhere: `values` 0 to 1 over the range of its numbers, one a pixel, row by
 * row, the top row in the north. Real size and heights are asked for when it is laid into a level.
 */
export interface Heightmap {
  width: number;
  height: number;
  values: Float32Array;
  /** bits a pixel; none of a mesh */
  depth?: number;
  /** heights of 0 and 1, metres, where the file says */
  range?: [low: number, high: number];
  /** metres between two pixels, where the file says */
  pixel?: number;
}

/** Pixels a side a heightmap may have at most; a level has 4097 samples. */
export const MOST_PIXELS = 8192;
/** And all in all. */
const MOST_AREA = 40_000_000;

/** The faults of a size, before anything is made of it. */
export function heightmapSizeFault(name: string, width: number, height: number) {
  if (width < 2 || height < 2) return fault('heightmap-size', `${name} is ${width} x ${height} pixels: ground needs at least 2 x 2`);
  if (width > MOST_PIXELS || height > MOST_PIXELS)
    return fault('heightmap-size', `${name} is ${width} x ${height} pixels: at most ${MOST_PIXELS} a side; scale it down first`);
  if (width * height > MOST_AREA)
    return fault('heightmap-size', `${name} is ${width} x ${height} pixels: at most ${MOST_AREA / 1e6} million; scale it down first`);
  return undefined;
}

/**
 * Reads a PNG of 8 or 16 bits as heights: grey as it is, of colours their mean. The header and the size of its
 * data are checked before a picture is made.
 */
export function readHeightPng(name: string, bytes: Uint8Array): Outcome<Heightmap> {
  const signature = [137, 80, 78, 71, 13, 10, 26, 10];
  if (bytes.length < 33 || signature.some((b, i) => bytes[i] !== b)) return fault('png-invalid', `${name} is not a PNG picture`);
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const [width, height] = [view.getUint32(16), view.getUint32(20)];
  const size = heightmapSizeFault(name, width, height);
  if (size) return size;
  const [depth, colour, interlace] = [bytes[24], bytes[25], bytes[28]];
  if (interlace !== 0) return fault('png-format', `${name} is interlaced: save it without interlacing`);
  if (depth !== 8 && depth !== 16) return fault('png-format', `${name} has ${depth} bits a pixel: heights are read from 8 or 16`);
  if (colour === 3) return fault('png-format', `${name} has a palette: save it as greyscale`);
  const channels = { 0: 1, 2: 3, 4: 2, 6: 4 }[colour];
  if (!channels) return fault('png-format', `${name} has an unknown colour type ${colour}`);
  try {
    const wrong = pngDataFault(name, bytes, height * (1 + (width * channels * depth) / 8));
    if (wrong) return wrong;
    const { data } = decode(plainPng(bytes), { checkCrc: true });
    const most = depth === 16 ? 65_535 : 255;
    // What is over the colours of an even count is opacity.
    const colours = channels > 2 ? 3 : 1;
    const values = new Float32Array(width * height);
    for (let i = 0; i < values.length; i++) {
      let sum = 0;
      for (let k = 0; k < colours; k++) sum += data[i * channels + k];
      values[i] = sum / colours / most;
    }
    return { ok: true, value: { width, height, values, depth } };
  } catch (error) {
    return fault('png-invalid', `${name} cannot be read: ${(error as Error).message}`);
  }
}

/** Sizes a RAW of 16 bits can have: it says nothing of itself. */
export function rawSizes(bytes: number): { width: number; height: number }[] {
  const count = bytes / 2;
  const sizes: { width: number; height: number }[] = [];
  for (let width = 2; width <= MOST_PIXELS && Number.isInteger(count); width++) {
    const height = count / width;
    if (Number.isInteger(height) && height >= 2 && height <= MOST_PIXELS) sizes.push({ width, height });
  }
  // The squarest first.
  return sizes.sort((a, b) => Math.abs(a.width - a.height) - Math.abs(b.width - b.height));
}

/** Reads bare 16-bit numbers as heights. @param bigEndian the higher byte comes first */
export function readHeightRaw(name: string, bytes: Uint8Array, width: number, height: number, bigEndian: boolean): Outcome<Heightmap> {
  const size = heightmapSizeFault(name, width, height);
  if (size) return size;
  if (bytes.length !== width * height * 2)
    return fault(
      'raw-size',
      `${name} holds ${bytes.length} bytes, ${width} x ${height} pixels of 16 bits are ${width * height * 2}: give the size it was saved with`,
    );
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const values = new Float32Array(width * height);
  for (let i = 0; i < values.length; i++) values[i] = view.getUint16(i * 2, !bigEndian) / 65_535;
  return { ok: true, value: { width, height, values, depth: 16 } };
}
