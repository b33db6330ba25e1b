import { assetFacts, type Asset, type AssetFacts } from './asset';

/** What the library lists of an asset. */
export interface AssetSummary extends AssetFacts {
  hash: string;
  name: string;
  role: Asset['role'];
  collider: Asset['collider'];
  real?: [number, number];
  tags: string[];
  trunk: number;
}

/** What lists and libraries show of an asset: size in metres, triangles by LOD, materials. @param hash of its GLB */
export const summaryOf = (hash: string, asset: Asset): AssetSummary => ({
  hash,
  name: asset.name,
  role: asset.role,
  collider: asset.collider,
  real: asset.real,
  tags: asset.tags,
  trunk: asset.trunk,
  ...assetFacts(asset),
});
