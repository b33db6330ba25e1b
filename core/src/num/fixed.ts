import { deflateSync, Inflate, inflateSync } from 'fflate';

/**
 * Fixed-point rasters. A raster is an Int32Array; heights count 1/1024 m, weights 1/1024.
 *
 * Stored form ("packed"): the difference to the previous sample in row order, zigzag coded to
 * unsigned, split into four byte planes (lowest first, each `length` bytes), deflated. Integer
 * deltas add and subtract exactly, so strokes can be undone in any order.
 */
export const FIXED_ONE = 1024;

/**
 * What deflates and inflates (raw, RFC 1951). `inflate` throws where the data hold more than `size` bytes, before
 * it has made much more than that.
 */
export interface Deflater {
  /** base64 (RFC 4648); what does not belong makes the result shorter. A slow one of our own where absent */
  fromBase64?(text: string): Uint8Array;
  deflate(bytes: Uint8Array): Uint8Array;
  inflate(bytes: Uint8Array, size: number): Uint8Array;
}

let deflater: Deflater = { deflate: (bytes) => deflateSync(bytes, { level: 6 }), inflate: inflateInPieces };

/** Puts in another deflater, as the kernels are put in: Node's own is several times as quick. What one packs the other unpacks. */
export function setDeflater(other: Deflater): void {
  deflater = other;
}

/** Metres as whole units of 1/1024 m, the nearest. */
export const toFixed = (metres: number): number => Math.round(metres * FIXED_ONE);
/** Units of 1/1024 m as metres. */
export const fromFixed = (units: number): number => units / FIXED_ONE;

/** Packs a raster; the length is not stored and must be known to the reader. */
export const packRaster = (raster: Int32Array): Uint8Array => deflater.deflate(rasterPlanes(raster));

/** A raster as it is deflated: its differences in four planes of bytes. */
export function rasterPlanes(raster: Int32Array): Uint8Array {
  const n = raster.length;
  const planes = new Uint8Array(n * 4);
  let previous = 0;
  for (let i = 0; i < n; i++) {
    const d = (raster[i] - previous) | 0;
    previous = raster[i];
    const u = ((d << 1) ^ (d >> 31)) >>> 0;
    planes[i] = u & 0xff;
    planes[n + i] = (u >>> 8) & 0xff;
    planes[2 * n + i] = (u >>> 16) & 0xff;
    planes[3 * n + i] = u >>> 24;
  }
  return planes;
}

/**
 * Unpacks a raster of `length` samples.
 *
 * @throws RangeError when the bytes are not deflate data or do not hold exactly `length` samples;
 * never inflates more than the expected size
 */
export function unpackRaster(bytes: Uint8Array, length: number): Int32Array {
  const planes = inflateExactly(bytes, length * 4);
  const out = new Int32Array(length);
  let previous = 0;
  for (let i = 0; i < length; i++) {
    const u = (planes[i] | (planes[length + i] << 8) | (planes[2 * length + i] << 16) | (planes[3 * length + i] << 24)) >>> 0;
    const d = (u >>> 1) ^ -(u & 1);
    previous = (previous + d) | 0;
    out[i] = previous;
  }
  return out;
}

/** Deflates bytes; `inflateExactly` gives them back. */
export const packBytes = (bytes: Uint8Array): Uint8Array => deflater.deflate(bytes);

/** Inflates raw deflate data whose size is known; stops as soon as it grows past that. */
export function inflateExactly(bytes: Uint8Array, size: number): Uint8Array {
  let out: Uint8Array;
  try {
    out = deflater.inflate(bytes, size);
  } catch (error) {
    throw new RangeError(`packed raster cannot be read: ${error instanceof Error ? error.message : String(error)}`);
  }
  if (out.length !== size) throw new RangeError(`packed raster holds ${out.length} bytes, expected ${size}`);
  return out;
}

/** Deflate packs about a thousandfold at most: so few bytes can be unpacked in one go, into room for one byte too many. */
const SMALL = 1 << 16;

function inflateInPieces(bytes: Uint8Array, size: number): Uint8Array {
  if (bytes.length <= SMALL) {
    const all = inflateSync(bytes, { out: new Uint8Array(size + 1) });
    if (all.length > size) throw new RangeError(`packed raster holds more than ${size} bytes`);
    return all;
  }
  const out = new Uint8Array(size);
  let at = 0;
  const inflate = new Inflate((chunk) => {
    if (at + chunk.length > size) throw new RangeError(`packed raster holds more than ${size} bytes`);
    out.set(chunk, at);
    at += chunk.length;
  });
  // Small pieces bound what one push can produce before the size is checked.
  for (let i = 0; i < bytes.length; i += 1024) inflate.push(bytes.subarray(i, i + 1024), i + 1024 >= bytes.length);
  return at === size ? out : out.subarray(0, at);
}

/** Sum of two rasters of equal length as a new raster. */
export function addRasters(a: Int32Array, b: Int32Array): Int32Array {
  const out = new Int32Array(a.length);
  for (let i = 0; i < a.length; i++) out[i] = a[i] + b[i];
  return out;
}

/** The raster that undoes `a`. */
export function negateRaster(a: Int32Array): Int32Array {
  const out = new Int32Array(a.length);
  for (let i = 0; i < a.length; i++) out[i] = -a[i];
  return out;
}

const ALPHABET = 'ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz0123456789+/';

/** Base64 (RFC 4648) without the DOM's or Node's helpers, which core may not use. */
export function toBase64(bytes: Uint8Array): string {
  let out = '';
  for (let i = 0; i < bytes.length; i += 3) {
    const n = (bytes[i] << 16) | ((bytes[i + 1] ?? 0) << 8) | (bytes[i + 2] ?? 0);
    out += ALPHABET[n >> 18] + ALPHABET[(n >> 12) & 63];
    out += i + 1 < bytes.length ? ALPHABET[(n >> 6) & 63] : '=';
    out += i + 2 < bytes.length ? ALPHABET[n & 63] : '=';
  }
  return out;
}

const REVERSE = (() => {
  const table = new Int16Array(128).fill(-1);
  for (let i = 0; i < 64; i++) table[ALPHABET.charCodeAt(i)] = i;
  return table;
})();

/** @throws RangeError on a character outside the alphabet or a wrong length */
export function fromBase64(text: string): Uint8Array {
  if (text.length % 4 !== 0) throw new RangeError('base64 text has a wrong length');
  const pad = text.endsWith('==') ? 2 : text.endsWith('=') ? 1 : 0;
  const out = deflater.fromBase64?.(text) ?? new Uint8Array((text.length / 4) * 3 - pad);
  if (deflater.fromBase64) {
    if (out.length !== (text.length / 4) * 3 - pad) throw new RangeError('base64 text has a character that does not belong');
    return out;
  }
  for (let i = 0, at = 0; i < text.length; i += 4) {
    let n = 0;
    for (let k = 0; k < 4; k++) {
      const code = text.charCodeAt(i + k);
      const isPad = code === 61 && i + 4 === text.length && k >= 4 - pad;
      const value = isPad ? 0 : code < 128 ? REVERSE[code] : -1;
      if (value < 0) throw new RangeError('base64 text has a character that does not belong');
      n = (n << 6) | value;
    }
    for (let k = 16; k >= 0 && at < out.length; k -= 8) out[at++] = (n >> k) & 0xff;
  }
  return out;
}
