import { expose, transfer } from 'comlink';
import dracoWasm from 'draco3dgltf/draco_decoder_gltf.wasm?url';
import solidWasm from 'manifold-3d/manifold.wasm?url';
import type { BodyFigures } from '@rammer/core/body/bodies';
import { lodSwaps, type LodSwap } from '@rammer/core/cost/lodPixels';
import { readAsset, writeAsset } from '@rammer/core/io/assetGlb';
import { readIncoming, type GivenFile, type Incoming } from '@rammer/core/io/assets/incoming';
import { loadMendTools } from '@rammer/core/io/assets/loadMendTools';
import type { Asset } from '@rammer/core/kit/asset';
import { cardOf, type AssetCard } from '@rammer/core/kit/card';
import { findingsOf, type Finding } from '@rammer/core/kit/findings';
import { applyMend } from '@rammer/core/kit/mend/applyMends';
import type { MendTools } from '@rammer/core/kit/mend/tools';
import type { Mend } from '@rammer/core/level/mend';
import { readPanorama, unpackPanorama } from './panorama';
import { BROWSER_PICTURES } from './pictures';

/** What the person says of a mesh: it is written into its file. */
export type SaidOfAsset = Pick<Asset, 'name' | 'role' | 'tags' | 'real' | 'licence'>;

/** A mesh that came in, as it is listed. */
export interface IncomingRow {
  key: string;
  path: string;
  name: string;
  triangles: number;
  scene?: number;
}

/** A mesh with its mends done. */
export interface MendedMesh {
  asset: Asset;
  card: AssetCard;
  findings: Finding[];
  swaps: LodSwap[];
}

/** Meshes that came in, as their files have them, and what was last made of each. */
const held = new Map<string, Incoming>();
const steps = new Map<string, { mends: string[]; assets: Asset[] }>();
let tools: Promise<MendTools> | undefined;
let count = 0;

/** A mesh with its mends; those it was made with before are not done again. */
async function mended(key: string, mends: readonly Mend[], tell: (share: number) => unknown): Promise<Asset> {
  const { asset } = held.get(key)!;
  const before = steps.get(key) ?? { mends: [], assets: [asset] };
  const asked = mends.map((m) => JSON.stringify(m));
  let same = 0;
  while (same < asked.length && asked[same] === before.mends[same]) same++;
  const assets = before.assets.slice(0, same + 1);
  for (let i = same; i < mends.length; i++) {
    tell(i / mends.length);
    assets.push(await applyMend(assets[i], mends[i], await (tools ??= loadMendTools(solidWasm, BROWSER_PICTURES))));
  }
  steps.set(key, { mends: asked, assets });
  return assets[mends.length];
}

const said = (asset: Asset, by: SaidOfAsset): Asset => ({ ...asset, ...by });

const rowOf = ({ path, asset, scene }: Incoming): IncomingRow => {
  const key = `mesh${++count}`;
  return { key, path, name: asset.name, triangles: asset.lods[0].reduce((s, p) => s + p.indices.length / 3, 0), scene };
};

const buffersOf = (asset: Asset): ArrayBuffer[] => {
  const out = new Set<ArrayBuffer>();
  const add = (a?: Float32Array | Uint32Array | Uint8Array) => a && out.add(a.buffer as ArrayBuffer);
  for (const p of asset.lods.flat()) for (const a of [p.positions, p.normals, p.tangents, p.colours, p.uvs, p.uvs1, p.indices]) add(a);
  for (const t of asset.textures ?? []) add(t.bytes);
  for (const c of asset.colliders ?? []) {
    add(c.positions);
    add(c.indices);
  }
  return [...out];
};

const api = {
  /** A picture of the sky, packed as it is kept; see `panorama`. */
  readPanorama,
  unpackPanorama,
  /** A mesh of the server by its hash. */
  async read(hash: string): Promise<Asset> {
    const answer = await fetch(`/api/assets/${hash}`);
    if (!answer.ok) throw new Error(`asset ${hash.slice(0, 8)} is not there`);
    const read = await readAsset(new Uint8Array(await answer.arrayBuffer()), 'asset', { dracoWasm });
    if (!read.ok) throw new Error(read.message);
    // Pictures are views of one file: each takes bytes of its own, so that one can go without the others.
    const asset = { ...read.value, textures: read.value.textures?.map((t) => ({ ...t, bytes: t.bytes.slice() })) };
    return transfer(asset, buffersOf(asset));
  },

  /** Opens files that somebody chose; what is read of them stays here under a key each. */
  async open(files: { path: string; file: Blob }[], tell: (share: number) => unknown) {
    const given: GivenFile[] = [];
    for (const [i, { path, file }] of files.entries()) {
      tell((i / files.length) * 0.5);
      given.push({ path, bytes: new Uint8Array(await file.arrayBuffer()) });
    }
    const read = await readIncoming(given, { dracoWasm, tell: (done, of) => tell(0.5 + (done / of) * 0.5) });
    const rows = read.meshes.map((mesh) => {
      const row = rowOf(mesh);
      held.set(row.key, mesh);
      return row;
    });
    return { rows, faults: read.faults, unused: read.unused };
  },

  /** Opens a mesh of the server to be mended: what it came from, or itself. */
  async openHash(hash: string, path: string, scene?: number): Promise<IncomingRow> {
    const source = new Uint8Array(await (await fetch(`/api/assets/${hash}`)).arrayBuffer());
    const read = await readAsset(source, path, { dracoWasm, scene });
    if (!read.ok) throw new Error(read.message);
    const mesh: Incoming = { path, asset: read.value, source, scene };
    const row = rowOf(mesh);
    held.set(row.key, mesh);
    return row;
  },

  /** A mesh with its mends done, and all that is said of it. */
  async look(key: string, mends: Mend[], by: SaidOfAsset, body: Pick<BodyFigures, 'height'>, tell: (share: number) => unknown): Promise<MendedMesh> {
    const asset = said(await mended(key, mends, tell), by);
    return { asset, card: cardOf(asset), findings: findingsOf(asset, body), swaps: lodSwaps(asset) };
  },

  /** The files of a mesh to be kept: as it is now, and as it came. */
  async files(key: string, mends: Mend[], by: SaidOfAsset, tell: (share: number) => unknown): Promise<{ glb: Uint8Array; source: Uint8Array }> {
    const glb = await writeAsset(said(await mended(key, mends, tell), by));
    return transfer({ glb, source: held.get(key)!.source }, [glb.buffer as ArrayBuffer]);
  },

  close(keys: string[]): void {
    for (const key of keys) {
      held.delete(key);
      steps.delete(key);
    }
  },
};

export type AssetWorker = typeof api;
expose(api);
