import type { Bounds } from '../block/solid';
import { COLLIDER_NAMES, type ROLE_NAMES } from '../level/fields';
import type { Mesh } from '../num/mesh';
import type { Vec3 } from '../num/vec';
import type { AssetMaterial, AssetTexture } from './material';

/**
 * One draw of an asset: a triangle mesh with one material.
 *
 * `positions` and `normals` are x, y, z; all float32, one entry a vertex. `colours` are red, green, blue (linear, 0 to 1)
 * and, of Rammer's own kit, how far the instance's tint applies (0 or 1); of a mesh with materials of its own they are
 * what its base colour is multiplied by, alpha too, and may be left out.
 */
export interface Primitive extends Mesh {
  normals: Float32Array;
  colours?: Float32Array;
  /** x, y, z and the side the other one lies on, 1 or -1 */
  tangents?: Float32Array;
  /** texture coordinates, u and v; left out where it has none */
  uvs?: Float32Array;
  /** the second set of them */
  uvs1?: Float32Array;
  material: string;
  /** place in the asset's materials; left out where its colours say all, as of Rammer's own kit */
  look?: number;
  /** pixels may be left out by an alpha test; such areas count as overdraw */
  alphaTested: boolean;
}

export const COLLIDERS = COLLIDER_NAMES;
export type Collider = (typeof COLLIDERS)[number];
export type Role = (typeof ROLE_NAMES)[number];

/** The last LOD as pictures from eight sides, see `kit/mend/distant`. */
export interface DistantPicture {
  /** half of the card's width, and its foot and top, metres */
  half: number;
  low: number;
  high: number;
  /** how the sides lie in each picture, the front first, counter-clockwise from above */
  columns: number;
  rows: number;
  /** how much wider the card is half way between each side and the next, as a share */
  between: number[];
  /** place of the picture of directions and depth in the asset's textures */
  normals: number;
}

/** What a mesh asset is: a part of a kit or a plant, in metres, its pivot at the origin. */
export interface Asset {
  name: string;
  role: Role;
  collider: Collider;
  /** range of real heights its file says it stands for, metres; absent where it says none, see `realHeights` */
  real?: [number, number];
  tags: string[];
  /** radius of what stops a body, metres at the asset's own size; 0 is walked through (plants) */
  trunk: number;
  /** finest first; of a plant the last is the billboard, which turns about Y to face the eye */
  lods: Primitive[][];
  /** pictures in it, bytes on the GPU with their mip levels */
  textureBytes: number;
  /** as their author made them; left out of Rammer's own kit, whose colours say all */
  materials?: AssetMaterial[];
  textures?: AssetTexture[];
  /** its last LOD is a card that turns to the eye, with pictures from eight sides */
  distant?: DistantPicture;
  /** shapes of its own that stop a body: the hull, or the parts */
  colliders?: Mesh[];
  /** of each LOD but the finest, how far it lies from the finest at most, metres */
  errors?: number[];
  /** whether it throws a shadow where it is placed; it does */
  shadows?: boolean;
  /** its LODs take over at so many times the distance they would; 1 */
  detail?: number;
  /** how far it is let into what it stands on where it is placed, metres; 0 */
  sink?: number;
  /** not drawn beyond this distance where it is placed, metres; 0 always */
  cutoff?: number;
  /** where it came from and under which terms */
  licence?: string;
  /** the kit it belongs to */
  kit?: string;
  /** names of surfaces it belongs on */
  grounds?: string[];
  /** what of its file is not drawn or read otherwise than one may think, in words */
  notes?: string[];
}

/** Whether the last LOD is a card that turns to the eye: of a plant of Rammer's own kit. */
export const hasBillboard = (asset: Pick<Asset, 'role' | 'lods' | 'materials'>): boolean => asset.role === 'plant' && asset.lods.length > 1 && !asset.materials;

/** What the library and the checks say of an asset. */
export interface AssetFacts {
  size: Vec3;
  triangles: number[];
  vertices: number[];
  /** those of its mesh: its distant picture has one of its own */
  materials: string[];
  /** area that is alpha tested at the finest LOD, m2 */
  alphaArea: number;
  /** bytes on the GPU of all LODs: `VERTEX_BYTES` a vertex, or what its own streams take, 4 an index, and pictures */
  bytes: number;
}

/** Bytes of a vertex: position and normal 12 each, colour 16. */
export const VERTEX_BYTES = 40;

const boundsCache = new WeakMap<object, Bounds>();
const factsCache = new WeakMap<Asset, AssetFacts>();

/**
 * Bounds of the finest LOD about its pivot; worked out once an asset.
 *
 * @example
 * const [width, height, depth] = sub(assetBounds(asset).max, assetBounds(asset).min); // metres
 */
export function assetBounds(asset: Pick<Asset, 'lods'>): Bounds {
  const known = boundsCache.get(asset);
  if (known) return known;
  const min: Vec3 = [Infinity, Infinity, Infinity];
  const max: Vec3 = [-Infinity, -Infinity, -Infinity];
  for (const { positions } of asset.lods[0]) {
    for (let i = 0; i < positions.length; i++) {
      const k = i % 3;
      if (positions[i] < min[k]) min[k] = positions[i];
      if (positions[i] > max[k]) max[k] = positions[i];
    }
  }
  const bounds = { min, max };
  boundsCache.set(asset, bounds);
  return bounds;
}

/** Size, counts and bytes of an asset; worked out once. */
export function assetFacts(asset: Asset): AssetFacts {
  const known = factsCache.get(asset);
  if (known) return known;
  const { min, max } = assetBounds(asset);
  const sum = (of: (p: Primitive) => number) => asset.lods.map((lod) => lod.reduce((s, p) => s + of(p), 0));
  const triangles = sum((p) => p.indices.length / 3);
  const vertices = sum((p) => p.positions.length / 3);
  const total = (list: number[]) => list.reduce((a, b) => a + b, 0);
  const facts: AssetFacts = {
    size: [max[0] - min[0], max[1] - min[1], max[2] - min[2]],
    triangles,
    vertices,
    materials: [...new Set((asset.distant ? asset.lods.slice(0, -1) : asset.lods).flat().map((p) => p.material))],
    alphaArea: asset.lods[0].reduce((s, p) => s + (p.alphaTested ? meshArea(p) : 0), 0),
    bytes: vertexBytes(asset) + total(triangles) * 3 * 4 + asset.textureBytes,
  };
  factsCache.set(asset, facts);
  return facts;
}

/** Bytes of all vertices: of a mesh with materials of its own, those of the streams it has. */
function vertexBytes({ lods, materials }: Asset): number {
  const streams = (p: Primitive) => [p.positions, p.normals, p.colours, p.tangents, p.uvs, p.uvs1].reduce((s, a) => s + (a?.byteLength ?? 0), 0);
  return lods.flat().reduce((s, p) => s + (materials ? streams(p) : (p.positions.length / 3) * VERTEX_BYTES), 0);
}

/** Sum of the areas of a mesh's triangles, m2. */
export function meshArea({ positions: p, indices }: Mesh): number {
  let sum = 0;
  for (let i = 0; i < indices.length; i += 3) {
    const [a, b, c] = [indices[i] * 3, indices[i + 1] * 3, indices[i + 2] * 3];
    const ux = p[b] - p[a],
      uy = p[b + 1] - p[a + 1],
      uz = p[b + 2] - p[a + 2];
    const vx = p[c] - p[a],
      vy = p[c + 1] - p[a + 1],
      vz = p[c + 2] - p[a + 2];
    const nx = uy * vz - uz * vy,
      ny = uz * vx - ux * vz,
      nz = ux * vy - uy * vx;
    sum += Math.sqrt(nx * nx + ny * ny + nz * nz) / 2;
  }
  return sum;
}
