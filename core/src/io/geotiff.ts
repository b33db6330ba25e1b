import { inflateExactly } from '../num/fixed';
import { fault, type Outcome } from './fault';
import { heightmapSizeFault, type Heightmap } from './heightmap';
import { unpackLzw } from './lzw';

const BYTES: Record<number, number> = { 1: 1, 2: 1, 3: 2, 4: 4, 5: 8, 6: 1, 7: 1, 8: 2, 9: 4, 10: 8, 11: 4, 12: 8, 16: 8 };
const COMPRESSIONS: Record<number, string> = { 2: 'fax', 3: 'fax', 4: 'fax', 6: 'JPEG', 7: 'JPEG', 32_773: 'PackBits', 34_887: 'LERC', 50_000: 'Zstandard' };

/** compression and predictors by their numbers in the file */
const LZW = 5;
const DIFFERENCES = 2;
const FLOAT_DIFFERENCES = 3;

/** Tags that are read, and the most numbers each may have; the rest is passed over. */
const LISTS = new Set([273, 279, 324, 325]);
const WANTED = new Set([256, 257, 258, 259, 277, 278, 317, 322, 323, 339, 33_550, 34_735, 42_113, ...LISTS]);
const MOST_TAGS = 4096;
const MOST_IN_LIST = 1 << 20;
const MOST_IN_TAG = 1024;
/** No numbers of ground, in whatever unit, are larger. */
const MOST_HEIGHT = 1e12;

/** What is wrong with a file, thrown inside the reader and told at its door. */
class Wrong extends Error {
  constructor(
    readonly code: string,
    message: string,
  ) {
    super(message);
  }
}

/**
 * Reads heights from a TIFF (revision 6.0) of one channel: whole numbers of 8, 16 or 32 bits or floats of 32 or 64,
 * in strips or tiles, plain, deflated or by LZW, each number or its difference from the one before. A GeoTIFF's pixel scale is kept where it is in
 * metres, and its numbers are
 * metres. Every offset and size is checked before it is read.
 */
export function readGeoTiff(name: string, bytes: Uint8Array): Outcome<Heightmap> {
  try {
    return { ok: true, value: read(name, bytes) };
  } catch (error) {
    if (error instanceof Wrong) return fault(error.code, error.message);
    if (error instanceof RangeError) return fault('tiff-truncated', `${name} is cut off or its data does not unpack: ${error.message}`);
    throw error;
  }
}

function read(name: string, bytes: Uint8Array): Heightmap {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  if (bytes.length < 8 || (bytes[0] !== 0x49 && bytes[0] !== 0x4d) || bytes[0] !== bytes[1]) throw new Wrong('tiff-invalid', `${name} is not a TIFF picture`);
  const little = bytes[0] === 0x49;
  const magic = view.getUint16(2, little);
  if (magic === 43) throw new Wrong('tiff-format', `${name} is a BigTIFF: save it as a plain TIFF`);
  if (magic !== 42) throw new Wrong('tiff-invalid', `${name} is not a TIFF picture`);
  const tags = tagsOf(name, view, little, view.getUint32(4, little));
  const one = (tag: number, or?: number): number => {
    const v = tags.get(tag)?.[0] ?? or;
    if (v === undefined) throw new Wrong('tiff-invalid', `${name} lacks tag ${tag}`);
    if (!Number.isInteger(v) || v < 0) throw new Wrong('tiff-invalid', `${name} says ${v} in tag ${tag}, where a whole number belongs`);
    return v;
  };
  const [width, height] = [one(256), one(257)];
  const size = heightmapSizeFault(name, width, height);
  if (size) throw new Wrong(size.code, size.message);
  const [bits, compression, channels, predictor, format] = [one(258, 1), one(259, 1), one(277, 1), one(317, 1), one(339, 1)];
  if (channels !== 1) throw new Wrong('tiff-format', `${name} has ${channels} channels: heights are one`);
  if (![1, LZW, 8, 32_946].includes(compression))
    throw new Wrong('tiff-format', `${name} is compressed with ${COMPRESSIONS[compression] ?? `method ${compression}`}: save it plain, deflated or with LZW`);
  if (!(format === 3 ? [32, 64] : [8, 16, 32]).includes(bits) || format > 3)
    throw new Wrong('tiff-format', `${name} has ${bits} bits a pixel of format ${format}: whole numbers of 8, 16 or 32 bits or floats of 32 or 64 are read`);
  if (predictor !== 1 && predictor !== (format === 3 ? FLOAT_DIFFERENCES : DIFFERENCES))
    throw new Wrong('tiff-format', `${name} is saved with predictor ${predictor}: save it without`);

  const wide = bits / 8;
  const tiled = tags.has(322);
  const [w, h] = tiled ? [one(322), one(323)] : [width, Math.min(height, one(278, height))];
  const offsets = tags.get(tiled ? 324 : 273);
  const counts = tags.get(tiled ? 325 : 279);
  const across = Math.ceil(width / w);
  const parts = across * Math.ceil(height / h);
  if (
    !offsets ||
    !counts ||
    offsets.length < parts ||
    counts.length < parts ||
    w < 1 ||
    h < 1 ||
    w > 65_536 ||
    w * h * wide > 1 << 28 ||
    w * h > 4 * width * height + 1_000_000
  )
    throw new Wrong('tiff-invalid', `${name} does not say where its ${parts} parts lie`);
  const numbers = new Float64Array(width * height);
  for (let part = 0; part < parts; part++) {
    if (!Number.isInteger(offsets[part]) || !Number.isInteger(counts[part]) || offsets[part] < 0 || counts[part] < 0)
      throw new Wrong('tiff-invalid', `${name} does not say where part ${part + 1} of ${parts} lies`);
    if (offsets[part] + counts[part] > bytes.length)
      throw new Wrong('tiff-truncated', `${name} is cut off: part ${part + 1} of ${parts} ends at byte ${offsets[part] + counts[part]} of ${bytes.length}`);
    const rows = tiled ? h : Math.min(h, height - part * h);
    const packed = bytes.subarray(offsets[part], offsets[part] + counts[part]);
    const data = unpacked(packed, compression, w * rows * wide);
    if (data.length < w * rows * wide)
      throw new Wrong('tiff-truncated', `${name} is cut off: part ${part + 1} of ${parts} holds ${data.length} bytes, ${w * rows * wide} expected`);
    const from = new DataView(data.buffer, data.byteOffset, data.byteLength);
    const [x0, z0] = [(part % across) * w, Math.floor(part / across) * h];
    for (let z = 0; z < rows && z0 + z < height; z++) {
      let last = 0;
      const planes = predictor === FLOAT_DIFFERENCES ? floatsOf(data.subarray(z * w * wide, (z + 1) * w * wide), wide) : undefined;
      for (let x = 0; x < w; x++) {
        let v = planes ? numberAt(planes, x * wide, bits, format, false) : numberAt(from, (z * w + x) * wide, bits, format, little);
        if (predictor === DIFFERENCES) last = v = wrapped(last + v, bits, format);
        if (x0 + x < width) numbers[(z0 + z) * width + x0 + x] = v;
      }
    }
  }
  return heightmapOf(name, numbers, { width, height, bits }, tags);
}

function unpacked(packed: Uint8Array, compression: number, length: number): Uint8Array {
  if (compression === 1) return packed;
  if (compression === LZW) return unpackLzw(packed, length);
  // Deflate in TIFF has a zlib frame: two bytes before it, a checksum of four after.
  return inflateExactly(packed.subarray(2, packed.length - 4), length);
}

/**
 * A row of floats saved by differences (TIFF Technical Note 3): each byte less the one before it, all first bytes, then all
 * second ones; the highest byte is the first.
 */
function floatsOf(row: Uint8Array, wide: number): DataView {
  const out = new Uint8Array(row.length);
  const across = row.length / wide;
  let byte = 0;
  for (let i = 0; i < row.length; i++) {
    byte = (byte + row[i]) & 255;
    out[(i % across) * wide + Math.floor(i / across)] = byte;
  }
  return new DataView(out.buffer);
}

function numberAt(view: DataView, at: number, bits: number, format: number, little: boolean): number {
  if (format === 3) return bits === 32 ? view.getFloat32(at, little) : view.getFloat64(at, little);
  if (bits === 8) return format === 2 ? view.getInt8(at) : view.getUint8(at);
  if (bits === 16) return format === 2 ? view.getInt16(at, little) : view.getUint16(at, little);
  return format === 2 ? view.getInt32(at, little) : view.getUint32(at, little);
}

/** Differences are added within the width of the numbers. */
function wrapped(v: number, bits: number, format: number): number {
  const range = 2 ** bits;
  const u = ((v % range) + range) % range;
  return format === 2 && u >= range / 2 ? u - range : u;
}

/** Numbers of every tag of the first picture; texts as their bytes. */
function tagsOf(name: string, view: DataView, little: boolean, at: number): Map<number, number[]> {
  const tags = new Map<number, number[]>();
  const count = view.getUint16(at, little);
  if (count > MOST_TAGS) throw new Wrong('tiff-invalid', `${name} has ${count} tags: a picture has some twenty`);
  for (let i = 0; i < count; i++) {
    const entry = at + 2 + i * 12;
    const [tag, type, n] = [view.getUint16(entry, little), view.getUint16(entry + 2, little), view.getUint32(entry + 4, little)];
    const size = BYTES[type];
    if (!size || !WANTED.has(tag) || tags.has(tag)) continue;
    if (n > (LISTS.has(tag) ? MOST_IN_LIST : MOST_IN_TAG))
      throw new Wrong('tiff-invalid', `${name} has ${n} numbers in tag ${tag}: more than any picture needs`);
    if (n * size > view.byteLength) throw new Wrong('tiff-truncated', `${name} is cut off: tag ${tag} claims ${n} values`);
    const where = n * size <= 4 ? entry + 8 : view.getUint32(entry + 8, little);
    const values: number[] = [];
    for (let k = 0; k < n; k++) {
      const p = where + k * size;
      values.push(
        size === 1
          ? view.getUint8(p)
          : size === 2
            ? view.getUint16(p, little)
            : type === 12
              ? view.getFloat64(p, little)
              : type === 11
                ? view.getFloat32(p, little)
                : view.getUint32(p, little),
      );
    }
    tags.set(tag, values);
  }
  return tags;
}

/** Scales numbers to 0 to 1; what the file calls no data lies at the lowest. */
function heightmapOf(
  name: string,
  numbers: Float64Array,
  { width, height, bits }: { width: number; height: number; bits: number },
  tags: Map<number, number[]>,
): Heightmap {
  const text = String.fromCharCode(...(tags.get(42_113) ?? []))
    .replace(/\0.*$/s, '')
    .trim();
  const nothing = text === '' ? undefined : Number(text);
  const missing = (v: number) => nothing !== undefined && (v === nothing || (v !== v && nothing !== nothing));
  let [low, high, bad, first] = [Infinity, -Infinity, 0, -1];
  numbers.forEach((v, i) => {
    if (missing(v)) return;
    if (!Number.isFinite(v)) {
      if (bad++ === 0) first = i;
    } else {
      low = Math.min(low, v);
      high = Math.max(high, v);
    }
  });
  if (bad > 0)
    throw new Wrong(
      'heights-nan',
      `${name} holds ${bad} heights that are no numbers, the first at pixel ${first % width}, ${Math.floor(first / width)}: fill them first`,
    );
  if (Math.max(-low, high) > MOST_HEIGHT && low <= high)
    throw new Wrong(
      'heights-range',
      `${name} holds heights from ${low.toPrecision(3)} to ${high.toPrecision(3)}: that is no ground. Is what it calls no data a number?`,
    );
  if (low > high) throw new Wrong('heights-none', `${name} holds no heights at all`);
  const values = Float32Array.from(numbers, (v) => (missing(v) || high === low ? 0 : (v - low) / (high - low)));
  // Key 1024 of the geo keys says what the scale counts: 1 metres of a projection, 2 degrees.
  const keys = tags.get(34_735) ?? [];
  const model = keys.findIndex((k, i) => i >= 4 && i % 4 === 0 && k === 1024);
  const scale = tags.get(33_550)?.[0];
  const metres = scale !== undefined && scale > 0 && (model < 0 || keys[model + 3] === 1);
  return { width, height, values, depth: bits, range: [low, high], ...(metres ? { pixel: scale } : {}) };
}
