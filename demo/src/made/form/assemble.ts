import type { Asset, Primitive } from '@rammer/core/kit/asset';
import type { AssetTexture } from '@rammer/core/kit/material';
import type { Mesh } from '@rammer/core/num/mesh';
import { distanceTo, triangleTree } from '@rammer/core/num/triangleTree';
import { bakeOcclusion, meshOf } from './bake';
import type { Form } from './form';
import { materialOf } from './stuffs';

export const LICENCE = 'made by the scripts of this project, under its licence';
export const KIT = 'Harrow Ledge';

export interface Made {
  name: string;
  role: Asset['role'];
  collider: Asset['collider'];
  tags: string[];
  real: [number, number];
  /** finest first */
  lods: readonly Form[];
  /** side of its picture of occlusion, pixels; 128 */
  baked?: number;
  colliders?: Mesh[];
  grounds?: string[];
}

/** How far the corners of a shape lie from another at most, metres. */
export function farthest(from: Mesh, to: Mesh): number {
  const tree = triangleTree(to);
  let most = 0;
  const p = from.positions;
  for (let i = 0; i < p.length; i += 3) most = Math.max(most, distanceTo(tree, p[i], p[i + 1], p[i + 2]));
  return most;
}

/** Forms as an asset: one primitive a stuff, occlusion baked, every face on its stuff's tile. */
export async function assemble({ lods, baked = 128, ...said }: Made): Promise<Asset> {
  const { charts, picture } = await bakeOcclusion(said.name, lods, baked);
  const stuffs = [...new Set(lods.flatMap((f) => f.patches.map((p) => p.stuff)))];
  const textures: AssetTexture[] = [];
  const materials = [];
  for (const s of stuffs) materials.push(await materialOf(s, textures, picture));
  const meshes = lods.map(meshOf);
  return {
    ...said,
    trunk: 0,
    kit: KIT,
    licence: LICENCE,
    materials,
    textures,
    textureBytes: textures.reduce((s, t) => s + t.gpuBytes, 0),
    lods: lods.map((form) => stuffs.flatMap((stuff, look) => primitive(form, stuff, look, charts))),
    errors: meshes.slice(1).map((m) => Math.round(Math.max(farthest(meshes[0], m), farthest(m, meshes[0])) * 1000) / 1000),
  };
}

function primitive(form: Form, stuff: string, look: number, charts: Awaited<ReturnType<typeof bakeOcclusion>>['charts']): Primitive[] {
  const patches = form.patches.filter((p) => p.stuff === stuff);
  if (patches.length === 0) return [];
  const [positions, normals, uvs, uvs1, indices]: number[][] = [[], [], [], [], []];
  // No minus zero: it would not come back from a file that another program wrote again.
  const put = (to: number[], values: readonly number[]) => to.push(...values.map((v) => v + 0));
  for (const p of patches) {
    const on = charts.get(p)!;
    const known = new Map<string, number>();
    const at = p.points.map((q, i) => {
      const all = [...q, ...p.normals[i], ...p.uvs[i], ...on[i]];
      const key = all.map((v) => v.toFixed(6)).join();
      const same = known.get(key);
      if (same !== undefined) return same;
      put(positions, q);
      put(normals, p.normals[i]);
      put(uvs, p.uvs[i]);
      put(uvs1, on[i]);
      known.set(key, positions.length / 3 - 1);
      return positions.length / 3 - 1;
    });
    for (const i of p.indices) indices.push(at[i]);
  }
  return [
    {
      positions: Float32Array.from(positions),
      normals: Float32Array.from(normals),
      uvs: Float32Array.from(uvs),
      uvs1: Float32Array.from(uvs1),
      indices: Uint32Array.from(indices),
      material: stuff,
      look,
      alphaTested: false,
    },
  ];
}
