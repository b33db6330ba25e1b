import type { Asset } from '../kit/asset';
import { withFacts } from '../kit/withFacts';
import { ofKind, type Level } from '../level/level';
import { readAsset } from './assetGlb';
import type { Outcome } from './fault';

/** The meshes of a level by asset object; a GLB that several name is read once. */
export async function readAssets(level: Level): Promise<Outcome<Map<string, Asset>>> {
  const byHash = new Map<string, Asset>();
  const out = new Map<string, Asset>();
  for (const object of ofKind(level, 'asset')) {
    const bytes = level.assets.get(object.hash);
    let asset = byHash.get(object.hash);
    if (!asset && bytes) {
      const read = await readAsset(bytes, object.name);
      if (!read.ok) return read;
      asset = read.value;
      byHash.set(object.hash, asset);
    }
    if (asset) out.set(object.id, withFacts(asset, object));
  }
  return { ok: true, value: out };
}
