import { openness } from './openSides';
import { assetTexelDensity } from './texelDensity';
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
  licence?: string;
  /** it is only what another came from: in no library */
  source?: boolean;
  /** whether its surface is closed, and the sides it is hollow from */
  closed: boolean;
  hollow: string[];
  /** pictures, on the GPU */
  textureBytes: number;
  /** pixels a metre of its pictures */
  texel?: number;
  /** its materials are its author's */
  authored: boolean;
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
  ...(asset.licence ? { licence: asset.licence } : {}),
  closed: openness(asset).closed,
  hollow: openness(asset).hollow,
  textureBytes: asset.textureBytes,
  texel: assetTexelDensity(asset)?.mean,
  authored: asset.materials !== undefined,
  ...assetFacts(asset),
});
