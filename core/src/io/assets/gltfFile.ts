import { fault, type Outcome } from '../fault';
import { parseJson } from '../json';
import { gltfForm, type Gltf } from './gltfForm';
import type { AssetLimits } from './limits';

/** A glTF with all it needs beside it: the bytes of each buffer and of each picture, wherever they lay. */
export interface GltfFile {
  json: Gltf;
  /** one a buffer; `undefined` where a buffer is only what compressed views unpack to */
  buffers: (Uint8Array | undefined)[];
  /** one a picture that lies outside the buffers, by its place among the pictures */
  images: Map<number, Uint8Array>;
}

/** Finds a file that a glTF names beside itself, by the path it gives. */
export type Beside = (path: string) => Uint8Array | undefined;

/** Depth and number of values of a glTF's JSON. */
const JSON_PART = { bytes: 32 << 20, depth: 64, values: 3_000_000 };
const GLB_MAGIC = 0x46546c67;

/** Whether bytes begin as binary glTF does. */
export const isGlb = (bytes: Uint8Array): boolean =>
  bytes.length >= 4 && new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength).getUint32(0, true) === GLB_MAGIC;

/**
 * Opens binary glTF, or glTF as JSON with its files. Nothing is decoded; `checkGltf` says whether it may be.
 *
 * @returns `glb-invalid`, `glb-truncated`, `glb-too-large`, or `glb-outside` where a file it names is not there
 */
export function openGltf(bytes: Uint8Array, name: string, limits: AssetLimits, beside?: Beside): Outcome<GltfFile> {
  if (bytes.length === 0) return fault('glb-invalid', `${name} is empty`);
  if (bytes.length > limits.bytes) return fault('glb-too-large', `${name} is larger than ${limits.bytes >> 20} MB`);
  if (isGlb(bytes)) {
    const parts = chunksOf(bytes, name);
    return parts.ok ? gathered(parts.value.json, name, { binary: parts.value.binary, beside, limits }) : parts;
  }
  const first = bytes.find((b) => b > 0x20 && b !== 0xef && b !== 0xbb && b !== 0xbf);
  if (!beside || first !== 0x7b) return fault('glb-invalid', `${name} is not a binary glTF file (.glb)`);
  const start = bytes[0] === 0xef ? 3 : 0;
  return gathered(bytes.subarray(start), name, { beside, limits });
}

/** The two chunks of a GLB; lengths are those of the file, not what it says of itself. */
function chunksOf(bytes: Uint8Array, name: string): Outcome<{ json: Uint8Array; binary: Uint8Array }> {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  if (bytes.length < 20) return fault('glb-invalid', `${name} is not a binary glTF file (.glb)`);
  if (view.getUint32(4, true) !== 2) return fault('glb-invalid', `${name} is glTF ${view.getUint32(4, true)}; version 2 is read`);
  const stated = view.getUint32(8, true);
  // Some writers pad the file behind its end; what is missing is another matter.
  if (stated > bytes.length) return fault('glb-truncated', `${name} says it is ${stated} bytes and is ${bytes.length}: it was cut off`);
  const length = view.getUint32(12, true);
  if (view.getUint32(16, true) !== 0x4e4f534a || 20 + length > bytes.length) return fault('glb-truncated', `${name} has no whole JSON part`);
  const at = 20 + length;
  const size = at + 8 <= bytes.length ? view.getUint32(at, true) : 0;
  if (at + 8 + size > bytes.length && size > 0) return fault('glb-truncated', `${name} has a cut binary part`);
  return { ok: true, value: { json: bytes.subarray(20, at), binary: bytes.subarray(at + 8, at + 8 + size) } };
}

interface Sources {
  binary?: Uint8Array;
  beside?: Beside;
  limits: AssetLimits;
}

function gathered(text: Uint8Array, name: string, { binary, beside, limits }: Sources): Outcome<GltfFile> {
  const read = parseJson(name, text, JSON_PART);
  if (!read.ok)
    return read.code === 'json-invalid'
      ? fault('glb-invalid', `${name} holds JSON that cannot be read: ${read.message}`)
      : fault('glb-too-large', read.message);
  const form = gltfForm.safeParse(read.value);
  if (!form.success) return fault('glb-invalid', `${name}: ${form.error.issues[0].path.join('.') || 'its JSON'}: ${form.error.issues[0].message}`);
  const json = form.data;
  let held = 0;
  const missing: string[] = [];
  const fetched = (uri: string, what: string): Outcome<Uint8Array | undefined> => {
    const bytes = uri.startsWith('data:') ? dataOf(uri) : beside?.(pathOf(uri));
    if (!bytes && uri.startsWith('data:')) return fault('glb-invalid', `${name}: ${what} holds data that cannot be read`);
    if (!bytes) missing.push(pathOf(uri));
    held += bytes?.length ?? 0;
    return held > limits.bytes ? fault('glb-too-large', `${name} and its files are larger than ${limits.bytes >> 20} MB`) : { ok: true, value: bytes };
  };
  const buffers: (Uint8Array | undefined)[] = [];
  for (const [i, b] of (json.buffers ?? []).entries()) {
    if (b.uri === undefined) {
      // A second buffer without a place is what compressed views unpack to.
      buffers.push(i === 0 ? binary : undefined);
      continue;
    }
    const got = fetched(b.uri, `buffer ${i}`);
    if (!got.ok) return got;
    buffers.push(got.value);
  }
  const images = new Map<number, Uint8Array>();
  for (const [i, image] of (json.images ?? []).entries()) {
    if (image.uri === undefined) continue;
    const got = fetched(image.uri, `picture ${i}`);
    if (!got.ok) return got;
    if (got.value) images.set(i, got.value);
  }
  if (missing.length > 0) {
    const named = [...new Set(missing)];
    return fault(
      'glb-outside',
      `${name} names ${named.length === 1 ? 'a file that is' : `${named.length} files that are`} not with it: ${named.slice(0, 6).join(', ')}` +
        `${named.length > 6 ? ', ...' : ''}. Choose ${named.length === 1 ? 'it' : 'them'} together with it, or pack everything into one .glb`,
    );
  }
  return { ok: true, value: { json, buffers, images } };
}

function pathOf(uri: string): string {
  try {
    return decodeURIComponent(uri);
  } catch {
    return uri;
  }
}

const BASE64 = 'ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz0123456789+/';
const VALUES = new Int8Array(128).fill(-1);
for (let i = 0; i < 64; i++) VALUES[BASE64.charCodeAt(i)] = i;
VALUES['-'.charCodeAt(0)] = 62;
VALUES['_'.charCodeAt(0)] = 63;

/** Bytes of a `data:` address, RFC 2397; `undefined` where it is none that is read. */
function dataOf(uri: string): Uint8Array | undefined {
  const comma = uri.indexOf(',');
  if (comma < 0 || !/;base64$/i.test(uri.slice(0, comma))) return undefined;
  const out = new Uint8Array(Math.ceil(((uri.length - comma) * 3) / 4));
  let [n, bits, held] = [0, 0, 0];
  for (let i = comma + 1; i < uri.length; i++) {
    const code = uri.charCodeAt(i);
    const value = code < 128 ? VALUES[code] : -1;
    if (value < 0) continue;
    held = ((held << 6) | value) & 0xffffff;
    bits += 6;
    if (bits >= 8) {
      bits -= 8;
      out[n++] = (held >> bits) & 0xff;
    }
  }
  return out.subarray(0, n);
}
