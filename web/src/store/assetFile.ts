import type { Asset } from '@rammer/core/kit/asset';
import { assetWorker } from '../workers/pool';

/** Bytes of meshes and packed pictures that are kept at hand; what no level holds goes first, and comes back when asked for. */
const MOST = 512 << 20;

interface Kept {
  asset: Promise<Asset>;
  bytes: number;
}

/** Read meshes by content hash, the one asked for last at the end: the same file is read once, in a worker. */
const files = new Map<string, Kept>();

/** The mesh of a hash, fetched and read off the main thread. */
export function assetFile(hash: string): Promise<Asset> {
  const known = files.get(hash);
  if (known) {
    files.delete(hash);
    files.set(hash, known);
    return known.asset;
  }
  const kept: Kept = { asset: assetWorker().read(hash), bytes: 0 };
  files.set(hash, kept);
  kept.asset.then(
    (asset) => {
      kept.bytes = bytesOf(asset);
      evict();
    },
    () => files.delete(hash),
  );
  return kept.asset;
}

/** Bytes of meshes at hand. */
export const assetBytes = (): number => [...files.values()].reduce((s, k) => s + k.bytes, 0);

function evict(): void {
  let over = assetBytes() - MOST;
  for (const [hash, kept] of files) {
    if (over <= 0) return;
    over -= kept.bytes;
    files.delete(hash);
  }
}

const bytesOf = ({ lods, textures }: Asset): number =>
  lods.flat().reduce((s, p) => s + [p.positions, p.normals, p.tangents, p.colours, p.uvs, p.uvs1, p.indices].reduce((n, a) => n + (a?.byteLength ?? 0), 0), 0) +
  (textures ?? []).reduce((s, t) => s + t.bytes.length, 0);
