import { fault, type Outcome } from '../fault';
import { checkPng } from '../rasterPng';

/** What a picture says of itself before it is unpacked. */
export interface PictureHead {
  mime: 'image/png' | 'image/jpeg' | 'image/webp' | 'image/ktx2' | 'image/avif';
  width: number;
  height: number;
}

/** Endings of files of pictures that are read, with what they are. */
export const PICTURE_ENDINGS = /\.(png|jpe?g|webp|ktx2|avif)$/i;

const ascii = (b: Uint8Array, at: number, n: number): string => String.fromCharCode(...b.subarray(at, at + n));

/**
 * Size and kind of a picture by its bytes, whatever its file is called. A PNG is held to what its header says by its data;
 * of the others the header is read, and the browser that unpacks them holds them to it.
 *
 * @param side the most pixels a side
 * @returns `picture-unknown`, `picture-size`, or a fault of `checkPng`
 */
export function pictureHead(bytes: Uint8Array, name: string, side: number): Outcome<PictureHead> {
  if (bytes[0] === 0x89 && ascii(bytes, 1, 3) === 'PNG') {
    const png = checkPng(bytes, name, side);
    return png.ok ? { ok: true, value: { mime: 'image/png', ...png.value } } : png;
  }
  const head = jpeg(bytes) ?? webp(bytes) ?? ktx2(bytes) ?? avif(bytes);
  if (!head) return fault('picture-unknown', `${name} is no picture that is read: PNG, JPEG, WebP, AVIF or KTX2. Save it as one of these`);
  if (!(head.width > 0 && head.height > 0 && head.width <= side && head.height <= side))
    return fault('picture-size', `${name} says it is ${head.width} x ${head.height} pixels; 1 to ${side} a side are read`);
  return { ok: true, value: head };
}

/** The frame header of JPEG, T.81 B.2.2. */
function jpeg(b: Uint8Array): PictureHead | undefined {
  if (b[0] !== 0xff || b[1] !== 0xd8) return undefined;
  for (let at = 2; at + 9 < b.length;) {
    if (b[at] !== 0xff) return undefined;
    const marker = b[at + 1];
    if (marker === 0xff) {
      at++;
      continue;
    }
    if (marker >= 0xc0 && marker <= 0xcf && marker !== 0xc4 && marker !== 0xc8 && marker !== 0xcc)
      return { mime: 'image/jpeg', height: (b[at + 5] << 8) | b[at + 6], width: (b[at + 7] << 8) | b[at + 8] };
    if (marker === 0xd9 || marker === 0xda) return undefined;
    at += marker === 0x01 || (marker >= 0xd0 && marker <= 0xd7) ? 2 : 2 + Math.max(2, (b[at + 2] << 8) | b[at + 3]);
  }
  return undefined;
}

/** RIFF container of WebP: lossy, lossless and extended. */
function webp(b: Uint8Array): PictureHead | undefined {
  if (b.length < 30 || ascii(b, 0, 4) !== 'RIFF' || ascii(b, 8, 4) !== 'WEBP') return undefined;
  const u24 = (at: number) => b[at] | (b[at + 1] << 8) | (b[at + 2] << 16);
  const form = ascii(b, 12, 4);
  if (form === 'VP8X') return { mime: 'image/webp', width: u24(24) + 1, height: u24(27) + 1 };
  if (form === 'VP8L') return { mime: 'image/webp', width: 1 + (u24(21) & 0x3fff), height: 1 + ((b[22] >> 6) | (b[23] << 2) | ((b[24] & 0x0f) << 10)) };
  return form === 'VP8 ' ? { mime: 'image/webp', width: u24(26) & 0x3fff, height: u24(28) & 0x3fff } : undefined;
}

/** Header of KTX 2.0: pixelWidth and pixelHeight. */
function ktx2(b: Uint8Array): PictureHead | undefined {
  if (b.length < 80 || b[0] !== 0xab || ascii(b, 1, 6) !== 'KTX 20') return undefined;
  const view = new DataView(b.buffer, b.byteOffset, b.byteLength);
  return { mime: 'image/ktx2', width: view.getUint32(20, true), height: view.getUint32(24, true) };
}

/** The first image spatial extents box of an AVIF (ISO/IEC 23008-12). */
function avif(b: Uint8Array): PictureHead | undefined {
  if (b.length < 40 || ascii(b, 4, 4) !== 'ftyp' || !/avi[fs]/.test(ascii(b, 8, 24))) return undefined;
  for (let at = 12; at + 16 < Math.min(b.length, 65_536); at++) {
    if (b[at] !== 0x69 || ascii(b, at, 4) !== 'ispe') continue;
    const view = new DataView(b.buffer, b.byteOffset, b.byteLength);
    return { mime: 'image/avif', width: view.getUint32(at + 8), height: view.getUint32(at + 12) };
  }
  return undefined;
}
