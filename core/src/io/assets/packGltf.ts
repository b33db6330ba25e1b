import { strToU8 } from 'fflate';
import type { Outcome } from '../fault';
import { openGltf, type Beside } from './gltfFile';
import { ASSET_LIMITS } from './limits';

/** glTF with its files, or one that is packed, as one file that holds all it needs; nothing in it is unpacked. */
export function packGltf(bytes: Uint8Array, name: string, beside?: Beside): Outcome<Uint8Array> {
  const opened = openGltf(bytes, name, ASSET_LIMITS, beside);
  if (!opened.ok) return opened;
  const { json, buffers, images } = opened.value;
  const made = JSON.parse(JSON.stringify(json)) as typeof json;
  const parts: Uint8Array[] = [];
  let length = 0;
  const lay = (part: Uint8Array): number => {
    const at = length;
    parts.push(part);
    length += Math.ceil(part.length / 4) * 4;
    return at;
  };
  const starts = buffers.map((b) => (b ? lay(b) : -1));
  const from = (buffer: number) => Math.max(0, starts[buffer] ?? 0);
  for (const view of made.bufferViews ?? []) {
    for (const key of ['EXT_meshopt_compression', 'KHR_meshopt_compression']) {
      const packed = view.extensions?.[key] as { buffer: number; byteOffset?: number } | undefined;
      if (packed) Object.assign(packed, { byteOffset: (packed.byteOffset ?? 0) + from(packed.buffer), buffer: 0 });
    }
    if (starts[view.buffer] < 0) view.buffer = 1;
    else Object.assign(view, { byteOffset: (view.byteOffset ?? 0) + from(view.buffer), buffer: 0 });
  }
  made.bufferViews ??= [];
  for (const [i, picture] of images) {
    const view = made.bufferViews.push({ buffer: 0, byteOffset: lay(picture), byteLength: picture.length }) - 1;
    const { uri: _, ...rest } = made.images![i];
    made.images![i] = { ...rest, bufferView: view, mimeType: rest.mimeType ?? 'image/png' };
  }
  const unpacked = (json.buffers ?? []).filter((_, i) => starts[i] < 0).reduce((most, b) => Math.max(most, b.byteLength), 0);
  const fallback = starts.includes(-1) ? [{ byteLength: unpacked, extensions: { EXT_meshopt_compression: { fallback: true } } }] : [];
  made.buffers = [{ byteLength: length }, ...fallback];
  return { ok: true, value: glbOf(made, parts, length) };
}

function glbOf(json: unknown, parts: readonly Uint8Array[], length: number): Uint8Array {
  const text = strToU8(JSON.stringify(json));
  const padded = Math.ceil(text.length / 4) * 4;
  const out = new Uint8Array(12 + 8 + padded + 8 + length);
  out.fill(0x20, 20, 20 + padded);
  const view = new DataView(out.buffer);
  [0x46546c67, 2, out.length, padded, 0x4e4f534a].forEach((v, i) => view.setUint32(i * 4, v, true));
  out.set(text, 20);
  view.setUint32(20 + padded, length, true);
  view.setUint32(24 + padded, 0x004e4942, true);
  let at = 28 + padded;
  for (const part of parts) {
    out.set(part, at);
    at += Math.ceil(part.length / 4) * 4;
  }
  return out;
}
