import type { Asset } from '../../kit/asset';
import { readAsset, writeAsset } from '../assetGlb';
import { fault, type Fault, type Outcome } from '../fault';
import { readZip } from '../zip';
import type { Beside } from './gltfFile';
import { ASSET_LIMITS } from './limits';
import { readObjAsset } from './objAsset';
import { packGltf } from './packGltf';
import { PICTURE_ENDINGS } from './pictureHead';

/** A file that somebody chose or dropped: its path within what was chosen, and its bytes. */
export interface GivenFile {
  path: string;
  bytes: Uint8Array;
}

/** A mesh that came in, before anything of it is kept. */
export interface Incoming {
  path: string;
  /** the asset as its file has it */
  asset: Asset;
  /** the file as one GLB that holds all it needs: what mends are made on, now and of a newer file */
  source: Uint8Array;
  /** which scene of it */
  scene?: number;
}

export interface ReadIncoming {
  meshes: Incoming[];
  faults: (Fault & { path: string })[];
  /** files that no mesh names */
  unused: string[];
}

/** Endings of meshes that are read, of packed ones that are opened, and of what belongs to them. */
const MESH = /\.(glb|gltf|obj)$/i;
const ZIP = /\.zip$/i;
const BESIDE = /\.(bin|mtl)$/i;
/** Sizes of a zip of meshes. */
const ZIP_LIMITS = { entries: 5000, entryBytes: ASSET_LIMITS.bytes, totalBytes: 512 << 20 };
/** Scenes of one file that are offered. */
const MOST_SCENES = 24;

/** Files with those of the zips among them, by their paths; a zip that cannot be opened is a fault. */
export function unzipped(files: readonly GivenFile[]): { files: GivenFile[]; faults: ReadIncoming['faults'] } {
  const out: GivenFile[] = [];
  const faults: ReadIncoming['faults'] = [];
  for (const file of files) {
    if (!ZIP.test(file.path)) {
      out.push(file);
      continue;
    }
    const zip = readZip(file.bytes, ZIP_LIMITS);
    if (!zip.ok) faults.push({ path: file.path, code: zip.code, message: `${file.path}: ${zip.message}` });
    else for (const [path, bytes] of zip.value) if (!/(^|\/)(\.|__MACOSX)/.test(path)) out.push({ path: `${file.path.replace(ZIP, '')}/${path}`, bytes });
  }
  return { files: out, faults };
}

/**
 * Reads all meshes among some files: each by itself, so that one that is broken keeps no other back.
 *
 * @param dracoWasm where Draco's WebAssembly lies, for a host that moves files
 * @param tell how many of how many are read; what it throws ends the reading
 */
export async function readIncoming(
  given: readonly GivenFile[],
  { dracoWasm, tell = () => {} }: { dracoWasm?: string; tell?: (done: number, of: number, path: string) => unknown } = {},
): Promise<ReadIncoming> {
  const { files, faults } = unzipped(given);
  const used = new Set<string>();
  const meshes: Incoming[] = [];
  const roots = files.filter((f) => MESH.test(f.path));
  for (const [i, file] of roots.entries()) {
    await tell(i, roots.length, file.path);
    used.add(file.path);
    const read = await readOne(file, besideOf(files, file.path, used), dracoWasm);
    if (read.ok) meshes.push(...read.value);
    else faults.push({ path: file.path, code: read.code, message: read.message });
  }
  const unused: string[] = [];
  for (const { path } of files) {
    if (used.has(path)) continue;
    if (PICTURE_ENDINGS.test(path) || BESIDE.test(path) || /\.(txt|md|pdf|html?|url|json)$/i.test(path)) unused.push(path);
    else faults.push({ path, code: 'mesh-unknown', message: `${nameOf(path)} is no mesh that is read: save it as glTF (.glb, .gltf) or OBJ` });
  }
  if (meshes.length === 0 && faults.length === 0)
    faults.push({ path: given[0]?.path ?? '', code: 'mesh-none', message: 'there is no mesh among these files: choose a .glb, .gltf or .obj with its files' });
  return { meshes, faults, unused };
}

const nameOf = (path: string): string => path.split('/').pop()!;
const titleOf = (path: string): string => nameOf(path).replace(MESH, '').replace(/[_-]+/g, ' ').trim() || 'mesh';

async function readOne(file: GivenFile, beside: Beside, dracoWasm?: string): Promise<Outcome<Incoming[]>> {
  const { path, bytes } = file;
  const title = titleOf(path);
  if (/\.obj$/i.test(path)) {
    const asset = readObjAsset(bytes, nameOf(path), beside);
    if (!asset.ok) return asset;
    const named = { ...asset.value, name: title };
    return { ok: true, value: [{ path, asset: named, source: await writeAsset(named) }] };
  }
  if (/\.gltf$/i.test(path) && bytes.length === 0) return fault('glb-invalid', `${nameOf(path)} is empty`);
  const packed = packGltf(bytes, nameOf(path), beside);
  if (!packed.ok) return packed;
  const source = packed.value;
  const first = await readAsset(source, title, { dracoWasm });
  if (!first.ok) return { ...first, message: first.message.replace(title, nameOf(path)) };
  const scenes = scenesOf(source);
  if (scenes.length < 2) return { ok: true, value: [{ path, asset: first.value, source }] };
  const out: Incoming[] = [];
  for (const [scene, name] of scenes.slice(0, MOST_SCENES).entries()) {
    const read = await readAsset(source, name || `${title} ${scene + 1}`, { dracoWasm, scene });
    // A scene of lights and cameras alone is no fault of the others.
    if (read.ok) out.push({ path, asset: read.value, source, scene });
  }
  return { ok: true, value: out };
}

/** Names of the scenes of a GLB. */
function scenesOf(glb: Uint8Array): string[] {
  const view = new DataView(glb.buffer, glb.byteOffset, glb.byteLength);
  let text = '';
  const end = 20 + view.getUint32(12, true);
  for (let at = 20; at < end; at += 8192) text += String.fromCharCode(...glb.subarray(at, Math.min(end, at + 8192)));
  const { scenes = [] } = JSON.parse(text) as { scenes?: { name?: string }[] };
  return scenes.map((s) => s.name ?? '');
}

/** Finds what a mesh names beside itself: by its path, else by its name alone, whatever its case or its slashes. */
function besideOf(files: readonly GivenFile[], root: string, used: Set<string>): Beside {
  const folder = root.includes('/') ? root.slice(0, root.lastIndexOf('/') + 1) : '';
  const plain = (path: string): string => {
    const out: string[] = [];
    for (const part of path.replace(/\\/g, '/').toLowerCase().split('/')) {
      if (part === '..') out.pop();
      else if (part !== '.' && part !== '') out.push(part);
    }
    return out.join('/');
  };
  const byPath = new Map(files.map((f) => [plain(f.path), f]));
  const byName = new Map(files.map((f) => [plain(nameOf(f.path)), f]));
  return (path) => {
    const found = byPath.get(plain(folder + path)) ?? byName.get(plain(nameOf(path.replace(/\\/g, '/'))));
    if (found) used.add(found.path);
    return found?.bytes;
  };
}
