import { Inflate, zipSync } from 'fflate';
import { fault, type Outcome } from './fault';

/**
 * Reading zips that nobody vouches for. The sizes a zip states are not believed: each entry is
 * inflated in small pieces, stopped when it grows past its stated size or the total past the cap,
 * and its CRC is checked.
 *
 * Layout: APPNOTE 6.3.x; stored and deflated entries, no encryption, no zip64, no multi-part.
 */
export interface ZipLimits {
  entries: number;
  /** bytes of one entry and of all together, inflated */
  entryBytes: number;
  totalBytes: number;
  /** bytes of entries of some names, where less is allowed */
  named?: Readonly<Record<string, number>>;
}

export const PACKAGE_LIMITS: Readonly<ZipLimits> = Object.freeze({
  entries: 2000,
  entryBytes: 256 << 20,
  totalBytes: 384 << 20,
  named: { 'level.json': 64 << 20 },
});

const EOCD = 0x06054b50;
const CENTRAL = 0x02014b50;
const LOCAL = 0x04034b50;

/** The files of a zip by name. Sizes it states are not trusted: counts, sums and checksums are held while it is unpacked; a fault is named. */
export function readZip(bytes: Uint8Array, limits: ZipLimits = PACKAGE_LIMITS): Outcome<Map<string, Uint8Array>> {
  if (bytes.length === 0) return fault('zip-empty', 'the file is empty');
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  if (bytes.length < 22 || (view.getUint32(0, true) !== LOCAL && view.getUint32(0, true) !== EOCD)) return fault('zip-invalid', 'this is not a zip file');
  let end = -1;
  for (let i = bytes.length - 22; i >= Math.max(0, bytes.length - 22 - 65535); i--) {
    if (view.getUint32(i, true) === EOCD) {
      end = i;
      break;
    }
  }
  if (end < 0) return fault('zip-truncated', 'the zip file has no end: it was cut off. Copy or download it again.');
  const count = view.getUint16(end + 10, true);
  let at = view.getUint32(end + 16, true);
  if (count === 0xffff || at === 0xffffffff) return fault('zip-unsupported', 'zip64 files are not read; save the package as a plain zip');
  if (count > limits.entries) return fault('zip-too-many', `the zip file has ${count} entries; at most ${limits.entries} are read`);
  const out = new Map<string, Uint8Array>();
  let total = 0;
  for (let n = 0; n < count; n++) {
    if (at + 46 > bytes.length || view.getUint32(at, true) !== CENTRAL)
      return fault('zip-truncated', 'the zip file is cut off or damaged: its list of entries cannot be read');
    const flags = view.getUint16(at + 8, true);
    const method = view.getUint16(at + 10, true);
    const crc = view.getUint32(at + 16, true);
    const packed = view.getUint32(at + 20, true);
    const size = view.getUint32(at + 24, true);
    const nameLength = view.getUint16(at + 28, true);
    const local = view.getUint32(at + 42, true);
    const name = ascii(bytes.subarray(at + 46, at + 46 + nameLength));
    at += 46 + nameLength + view.getUint16(at + 30, true) + view.getUint16(at + 32, true);
    if (name === undefined || /^[/\\]|(^|[/\\])\.\.([/\\]|$)|\\|:|\0/.test(name))
      return fault('zip-path', `the zip file holds an entry that climbs out of it or has an unusual name (entry ${n + 1})`);
    if (name.endsWith('/')) continue;
    if (out.has(name)) return fault('zip-duplicate', `the zip file holds ${name} twice`);
    if (flags & 1) return fault('zip-unsupported', `${name} is encrypted`);
    if (method !== 0 && method !== 8) return fault('zip-unsupported', `${name} is packed by a method that is not read (${method})`);
    const most = limits.named?.[name] ?? limits.entryBytes;
    if (size > most) return fault('zip-too-large', `${name} would be ${size} bytes; at most ${most} are read`);
    total += size;
    if (total > limits.totalBytes) return fault('zip-too-large', `the zip file would unpack to more than ${limits.totalBytes} bytes`);
    if (local + 30 > bytes.length || view.getUint32(local, true) !== LOCAL) return fault('zip-truncated', `${name} cannot be found in the zip file`);
    const start = local + 30 + view.getUint16(local + 26, true) + view.getUint16(local + 28, true);
    if (start + packed > bytes.length) return fault('zip-truncated', `${name} is cut off`);
    const data = bytes.subarray(start, start + packed);
    const content = method === 0 ? (packed === size ? data.slice() : undefined) : inflateTo(data, size);
    if (!content || crc32(content) !== crc)
      return fault('zip-lies', `${name} does not hold what the zip file states (size or checksum differ): it is damaged or made to mislead`);
    out.set(name, content);
  }
  return { ok: true, value: out };
}

/** Bytes inflated before it is looked how many came: they cannot become more than about a thousand times as many. */
const AT_ONCE = 2 << 10;

/** Inflates to exactly `size` bytes, or `undefined`; the buffer grows only as data really comes. */
function inflateTo(data: Uint8Array, size: number): Uint8Array | undefined {
  const chunks: Uint8Array[] = [];
  let got = 0;
  const inflate = new Inflate((chunk) => {
    got += chunk.length;
    if (got > size) throw new RangeError('more than stated');
    chunks.push(chunk);
  });
  try {
    for (let i = 0; i < data.length; i += AT_ONCE) inflate.push(data.subarray(i, i + AT_ONCE), i + AT_ONCE >= data.length);
  } catch {
    return undefined;
  }
  if (got !== size) return undefined;
  const out = new Uint8Array(size);
  let at = 0;
  for (const c of chunks) {
    out.set(c, at);
    at += c.length;
  }
  return out;
}

/** Writes a zip; entries in the order given, with a fixed date, so that equal contents give equal bytes. */
export function writeZip(entries: Iterable<[string, Uint8Array]>): Uint8Array {
  return zipSync(Object.fromEntries(entries), { level: 6, mtime: new Date(1980, 0, 2) });
}

function ascii(bytes: Uint8Array): string | undefined {
  let out = '';
  for (const b of bytes) {
    if (b < 0x20 || b > 0x7e) return undefined;
    out += String.fromCharCode(b);
  }
  return out;
}

const CRC_TABLE = (() => {
  const table = new Uint32Array(256);
  for (let n = 0; n < 256; n++) {
    let c = n;
    for (let k = 0; k < 8; k++) c = c & 1 ? 0xedb88320 ^ (c >>> 1) : c >>> 1;
    table[n] = c >>> 0;
  }
  return table;
})();

/** CRC-32 of IEEE 802.3, as zip and PNG use it. */
export function crc32(bytes: Uint8Array): number {
  let c = 0xffffffff;
  for (let i = 0; i < bytes.length; i++) c = CRC_TABLE[(c ^ bytes[i]) & 0xff] ^ (c >>> 8);
  return (c ^ 0xffffffff) >>> 0;
}
