import { readAsset } from '@rammer/core/io/assetGlb';
import type { Asset } from '@rammer/core/kit/asset';

/** Read meshes by content hash: the same file is fetched once a page. */
const files = new Map<string, Promise<Asset>>();

/** The mesh of a hash, fetched and read once. */
export function assetFile(hash: string): Promise<Asset> {
  let found = files.get(hash);
  if (!found) {
    found = fetch(`/api/assets/${hash}`).then(async (answer) => {
      if (!answer.ok) throw new Error(`asset ${hash.slice(0, 8)} is not there`);
      const read = await readAsset(new Uint8Array(await answer.arrayBuffer()));
      if (!read.ok) throw new Error(read.message);
      return read.value;
    });
    found.catch(() => files.delete(hash));
    files.set(hash, found);
  }
  return found;
}
