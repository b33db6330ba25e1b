import type { Vec3 } from '../num/vec';
import { assetBounds, assetFacts, type Asset } from './asset';
import { TEXTURE_SLOTS, type TextureSlot } from './material';
import { pivotOf, type PivotPlace } from './mend/move';
import { openness, type Openness } from './openSides';
import { assetTexelDensity } from './texelDensity';

/** All that is said of a mesh before it is kept, and after. */
export interface AssetCard extends Openness {
  name: string;
  size: Vec3;
  min: Vec3;
  max: Vec3;
  pivot: PivotPlace | [number, number, number];
  /** by LOD */
  triangles: number[];
  vertices: number[];
  /** of each LOD but the finest, metres */
  errors: number[];
  materials: { name: string; triangles: number; wears: TextureSlot[]; alpha: string; doubleSided: boolean }[];
  textures: { name: string; mime: string; width: number; height: number; bytes: number; gpuBytes: number; as: TextureSlot[] }[];
  /** pixels a metre */
  texel?: { mean: number; least: number; most: number };
  /** shapes of its own that stop a body, and their triangles */
  collider: { kind: Asset['collider']; shapes: number; triangles: number };
  trunk: number;
  /** on the GPU, meshes and pictures */
  bytes: number;
  notes: string[];
}

/** Gathers all that is said of an asset. */
export function cardOf(asset: Asset): AssetCard {
  const { min, max } = assetBounds(asset);
  const facts = assetFacts(asset);
  const worn = new Map<number, number>();
  for (const p of asset.lods[0]) if (p.look !== undefined) worn.set(p.look, (worn.get(p.look) ?? 0) + p.indices.length / 3);
  const uses = (texture: number): TextureSlot[] => TEXTURE_SLOTS.filter((slot) => asset.materials?.some((m) => m.textures[slot]?.texture === texture));
  return {
    name: asset.name,
    size: facts.size,
    min,
    max,
    pivot: pivotOf(asset),
    triangles: facts.triangles,
    vertices: facts.vertices,
    errors: asset.errors ?? [],
    materials: asset.materials
      ? asset.materials.map((m, i) => ({
          name: m.name,
          triangles: worn.get(i) ?? 0,
          wears: TEXTURE_SLOTS.filter((slot) => m.textures[slot]),
          alpha: m.alpha,
          doubleSided: m.doubleSided,
        }))
      : facts.materials.map((name) => ({ name, triangles: 0, wears: [], alpha: 'opaque', doubleSided: false })),
    textures: (asset.textures ?? []).map(({ name, mime, width, height, bytes, gpuBytes }, i) => ({
      name,
      mime,
      width,
      height,
      bytes: bytes.length,
      gpuBytes,
      as: uses(i),
    })),
    texel: assetTexelDensity(asset),
    collider: {
      kind: asset.collider,
      shapes: asset.colliders?.length ?? 0,
      triangles: asset.colliders?.reduce((s, c) => s + c.indices.length / 3, 0) ?? 0,
    },
    trunk: asset.trunk,
    bytes: facts.bytes,
    notes: asset.notes ?? [],
    ...openness(asset),
  };
}
