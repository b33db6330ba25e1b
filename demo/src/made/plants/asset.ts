import { makeDistant } from '@rammer/core/kit/mend/distant';
import { PLAIN_MATERIAL, textureBytes, type AssetMaterial, type AssetTexture } from '@rammer/core/kit/material';
import type { Asset } from '@rammer/core/kit/asset';
import type { Mesh } from '@rammer/core/num/mesh';
import type { PictureTools } from '@rammer/core/kit/mend/tools';
import sharp from 'sharp';
import { packed } from '../paint/sheet';
import { farthest, KIT, LICENCE } from '../form/assemble';
import { materialOf } from '../form/stuffs';
import type { Atlas } from './atlas';
import type { Leafy } from './leafy';

/** Pictures by sharp: the demo's own are WebP and JPEG. */
export const SHARP: PictureTools = {
  async unpack({ bytes }) {
    const { data, info } = await sharp(bytes).ensureAlpha().raw().toBuffer({ resolveWithObject: true });
    return { width: info.width, height: info.height, data: new Uint8Array(data) };
  },
  async pack({ width, height, data }) {
    const bytes = await sharp(data, { raw: { width, height, channels: 4 } })
      .webp({ quality: 80, alphaQuality: 90, exact: true, effort: 6 })
      .toBuffer();
    return { bytes: new Uint8Array(bytes), mime: 'image/webp' };
  },
};

export interface Plant {
  name: string;
  tags: string[];
  real: [number, number];
  /** radius of what stops a body, metres */
  trunk: number;
  grounds: string[];
  atlas: Atlas;
  /** finest first, without the distant picture */
  lods: readonly Leafy[];
  bark?: 'birch bark' | 'bark';
  /** pixels of the height of its distant picture; 0 for none */
  distant: number;
}

const meshOf = (lod: Asset['lods'][number]): Mesh => {
  const positions: number[] = [];
  const indices: number[] = [];
  for (const p of lod) {
    const first = positions.length / 3;
    for (const v of p.positions) positions.push(v);
    for (const i of p.indices) indices.push(first + i);
  }
  return { positions: Float32Array.from(positions), indices: Uint32Array.from(indices) };
};

/** A plant as an asset: its picture, its bark, its LODs, and a picture of it for far away. */
export async function plantAsset({ name, tags, real, trunk, grounds, atlas, lods, bark, distant }: Plant): Promise<Asset> {
  const { canvas } = atlas;
  const picture = await packed(`${name} foliage`, canvas.bytes(), [canvas.width, canvas.height], 'clear');
  const textures: AssetTexture[] = [{ ...picture, gpuBytes: textureBytes(canvas.width, canvas.height) }];
  const foliage: AssetMaterial = {
    ...PLAIN_MATERIAL,
    name: 'foliage',
    baseColour: [1, 1, 1, 1],
    metalness: 0,
    roughness: 0.72,
    alpha: 'mask',
    cutoff: 0.45,
    doubleSided: true,
    textures: { baseColour: { texture: 0, uv: 0, offset: [0, 0], rotation: 0, scale: [1, 1], wrap: ['clamp', 'clamp'] } },
  };
  const materials = [foliage];
  if (bark) {
    const m = await materialOf(bark, textures);
    // Stems are drawn in shares of their tile.
    for (const use of Object.values(m.textures)) use.scale = [1, 1];
    materials.push(m);
  }
  const drawn = lods.map((l) => l.primitives({ leaf: 0, bark: 1 }));
  const meshes = drawn.map(meshOf);
  const asset: Asset = {
    name,
    role: 'plant',
    collider: trunk > 0 ? 'mesh' : 'none',
    tags,
    real,
    trunk,
    grounds,
    kit: KIT,
    licence: LICENCE,
    materials,
    textures,
    textureBytes: textures.reduce((s, t) => s + t.gpuBytes, 0),
    lods: drawn,
    errors: meshes.slice(1).map((m) => Math.round(farthest(m, meshes[0]) * 1000) / 1000),
  };
  return distant > 0 ? makeDistant(asset, distant, SHARP) : asset;
}
