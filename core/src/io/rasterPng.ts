import { decode, encode } from 'fast-png';
import { Unzlib } from 'fflate';
import type { Picture } from '../surface/planPicture';
import { fault, type Outcome } from './fault';
import { crc32 } from './zip';

/**
 * Whole-level rasters as 16-bit greyscale PNGs. A value is offset + low + 65536 * high, where `low`
 * and `high` are two pictures; the high one is left out while the range fits 16 bits.
 */
export interface RasterFile {
  width: number;
  height: number;
  offset: number;
  low: Uint8Array;
  high?: Uint8Array;
}

/** A raster of whole numbers as 16-bit PNGs, one or two planes. @param values row by row, `width * height` of them */
export function rasterToPng(values: Int32Array, width: number, height: number): RasterFile {
  let min = values[0] ?? 0;
  let max = min;
  for (const v of values) {
    if (v < min) min = v;
    if (v > max) max = v;
  }
  const low = new Uint16Array(values.length);
  const high = new Uint16Array(values.length);
  for (let i = 0; i < values.length; i++) {
    const u = values[i] - min;
    low[i] = u & 0xffff;
    high[i] = u / 65536;
  }
  const png = (data: Uint16Array) => encode({ width, height, data, depth: 16, channels: 1 });
  return { width, height, offset: min, low: png(low), ...(max - min > 0xffff ? { high: png(high) } : {}) };
}

/** A picture of three bytes a pixel as a PNG. */
export const pictureToPng = ({ width, height, data }: Picture): Uint8Array => encode({ width, height, data, depth: 8, channels: 3 });

/** @param name of the file, for messages */
export function pngToRaster(
  name: string,
  { low, high, offset }: { low: Uint8Array; high?: Uint8Array; offset: number },
  { width, height }: { width: number; height: number },
): Outcome<Int32Array> {
  const lows = decodeGrey16(name, low, width, height);
  if (!lows.ok) return lows;
  const highs = high ? decodeGrey16(name, high, width, height) : undefined;
  if (highs && !highs.ok) return highs;
  const out = new Int32Array(width * height);
  for (let i = 0; i < out.length; i++) out[i] = offset + lows.value[i] + (highs ? highs.value[i] * 65536 : 0);
  return { ok: true, value: out };
}

/** Decodes a 16-bit greyscale PNG of a known size. The header and the size of the data are checked before any picture is made. */
export function decodeGrey16(name: string, bytes: Uint8Array, width: number, height: number): Outcome<Uint16Array> {
  const signature = [137, 80, 78, 71, 13, 10, 26, 10];
  if (bytes.length < 33 || signature.some((b, i) => bytes[i] !== b)) return fault('png-invalid', `${name} is not a PNG picture`);
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const w = view.getUint32(16);
  const h = view.getUint32(20);
  if (w !== width || h !== height) return fault('png-size', `${name} is ${w} x ${h} pixels, ${width} x ${height} expected`);
  if (bytes[24] !== 16 || bytes[25] !== 0 || bytes[28] !== 0) return fault('png-format', `${name} must be 16-bit greyscale, not interlaced`);
  try {
    const wrong = pngDataFault(name, bytes, height * (1 + width * 2));
    if (wrong) return wrong;
    const image = decode(plainPng(bytes), { checkCrc: true });
    return { ok: true, value: image.data as Uint16Array };
  } catch (error) {
    return fault('png-invalid', `${name} cannot be read: ${(error as Error).message}`);
  }
}

/** Chunks that make the picture; the rest (profiles, texts) may unpack to anything and is left out before it is decoded. */
const PICTURE_CHUNKS = new Set(['IHDR', 'PLTE', 'tRNS', 'IDAT', 'IEND']);

/** A PNG with nothing in it but its picture. */
export function plainPng(bytes: Uint8Array): Uint8Array {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const parts = [bytes.subarray(0, 8)];
  for (let at = 8; at + 12 <= bytes.length;) {
    const end = Math.min(bytes.length, at + 12 + view.getUint32(at));
    if (PICTURE_CHUNKS.has(String.fromCharCode(...bytes.subarray(at + 4, at + 8)))) parts.push(bytes.subarray(at, end));
    at = end;
  }
  const out = new Uint8Array(parts.reduce((sum, p) => sum + p.length, 0));
  let at = 0;
  for (const p of parts) {
    out.set(p, at);
    at += p.length;
  }
  return out;
}

const SAMPLES: Record<number, number> = { 0: 1, 2: 3, 3: 1, 4: 2, 6: 4 };
/** First column and row of each pass of an interlaced picture, and how far apart its columns and rows are (PNG, 8.2). */
const PASSES = [
  [0, 0, 8, 8],
  [4, 0, 8, 8],
  [0, 4, 4, 8],
  [2, 0, 4, 4],
  [0, 2, 2, 4],
  [1, 0, 2, 2],
  [0, 1, 1, 2],
] as const;

/** Bytes that a PNG's picture unpacks to by its header, each row with its filter byte; `undefined` where the header makes no sense. */
function pictureBytes(bytes: Uint8Array, width: number, height: number): number | undefined {
  const [depth, colour, interlace] = [bytes[24], bytes[25], bytes[28]];
  const samples = SAMPLES[colour];
  if (!samples || ![1, 2, 4, 8, 16].includes(depth) || interlace > 1) return undefined;
  const of = (w: number, h: number) => (w > 0 && h > 0 ? h * (1 + Math.ceil((w * samples * depth) / 8)) : 0);
  if (interlace === 0) return of(width, height);
  return PASSES.reduce((sum, [x, y, dx, dy]) => sum + of(Math.ceil((width - x) / dx), Math.ceil((height - y) / dy)), 0);
}

/**
 * Whether a PNG is what its header says, without making its picture: sizes, checksums, and that its data unpack to
 * just that many pixels.
 *
 * @param side the most pixels a side
 */
export function checkPng(bytes: Uint8Array, name: string, side: number): Outcome<{ width: number; height: number }> {
  const signature = [137, 80, 78, 71, 13, 10, 26, 10];
  if (bytes.length < 33 || signature.some((b, i) => bytes[i] !== b)) return fault('png-invalid', `${name} is not a PNG picture; only PNG is read`);
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const [width, height] = [view.getUint32(16), view.getUint32(20)];
  if (width === 0 || height === 0 || width > side || height > side)
    return fault('png-size', `${name} says it is ${width} x ${height} pixels; 1 to ${side} a side are read`);
  // Deflate packs a thousandfold at best: a tiny file that states a huge picture lies.
  if (width * height > bytes.length * 8400) return fault('png-lies', `${name} says it is ${width} x ${height} pixels but holds only ${bytes.length} bytes`);
  const expected = pictureBytes(bytes, width, height);
  if (expected === undefined) return fault('png-lies', `${name} cannot be read: its header makes no sense`);
  let ended = false;
  for (let at = 8; at + 12 <= bytes.length && !ended;) {
    const length = view.getUint32(at);
    if (at + 12 + length > bytes.length) return fault('png-lies', `${name} is cut off`);
    const type = String.fromCharCode(...bytes.subarray(at + 4, at + 8));
    if (PICTURE_CHUNKS.has(type) && crc32(bytes.subarray(at + 4, at + 8 + length)) !== view.getUint32(at + 8 + length))
      return fault('png-lies', `${name} is damaged: its part ${type} has another checksum than it states`);
    ended = type === 'IEND';
    at += 12 + length;
  }
  if (!ended) return fault('png-lies', `${name} is cut off`);
  try {
    const wrong = pngDataFault(name, bytes, expected);
    return wrong ? fault('png-lies', wrong.message) : { ok: true, value: { width, height } };
  } catch (error) {
    return fault('png-lies', `${name} does not hold the ${width} x ${height} pixels its header states: ${(error as Error).message}`);
  }
}

/**
 * What is wrong with the size of a PNG's data, found while it is unpacked in small pieces and before any
 * picture is made.
 *
 * @param expected bytes of all rows, each with its filter byte
 * @throws where the data does not unpack, or grows past what is expected
 */
export function pngDataFault(name: string, bytes: Uint8Array, expected: number): ReturnType<typeof fault> | undefined {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  let got = 0;
  const unzlib = new Unzlib((chunk) => {
    got += chunk.length;
    if (got > expected) throw new RangeError('too much');
  });
  for (let at = 8; at + 12 <= bytes.length;) {
    const length = view.getUint32(at);
    if (at + 12 + length > bytes.length) return fault('png-truncated', `${name} is cut off`);
    const type = String.fromCharCode(...bytes.subarray(at + 4, at + 8));
    if (type === 'IDAT') for (let i = 0; i < length; i += 1024) unzlib.push(bytes.subarray(at + 8 + i, at + 8 + Math.min(i + 1024, length)));
    at += 12 + length;
  }
  return got === expected ? undefined : fault('png-truncated', `${name} holds ${got} bytes of picture, ${expected} expected`);
}
