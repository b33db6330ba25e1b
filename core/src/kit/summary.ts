import { openness } from './openSides';
import { assetTexelDensity } from './texelDensity';
import { strToU8 } from 'fflate';
import { sha256 } from '../num/sha256';
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
  kit?: string;
  grounds?: string[];
  /** equal where two files hold the same triangles and pictures, whatever they are called */
  content?: string;
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
  ...(asset.kit ? { kit: asset.kit } : {}),
  ...(asset.grounds ? { grounds: asset.grounds } : {}),
  content: contentOf(asset),
  closed: openness(asset).closed,
  hollow: openness(asset).hollow,
  textureBytes: asset.textureBytes,
  texel: assetTexelDensity(asset)?.mean,
  authored: asset.materials !== undefined,
  ...assetFacts(asset),
});

/** Tells what an asset is made of, whatever it is called and whatever is said of it. */
function contentOf({ lods, textures = [] }: Asset): string {
  const parts = [...lods[0].flatMap((p) => [p.positions, p.indices]), ...textures.map((t) => t.bytes)];
  return sha256(strToU8(parts.map((a) => sha256(new Uint8Array(a.buffer, a.byteOffset, a.byteLength))).join()));
}
