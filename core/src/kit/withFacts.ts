import type { AssetObject } from '../level/objects';
import type { Asset } from './asset';

/** An asset as a level has it: what the level says of it instead of its file. The same asset for the same object. */
export function withFacts(asset: Asset, object: Pick<AssetObject, 'role' | 'facts'>): Asset {
  const { role, facts } = object;
  if (!facts && (role === asset.role || role === 'reference' || asset.role === 'reference')) return asset;
  return { ...asset, role, ...facts };
}
