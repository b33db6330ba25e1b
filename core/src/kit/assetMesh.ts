import type { Mesh } from '../num/mesh';
import type { Vec3 } from '../num/vec';
import type { Asset } from './asset';

/** The finest LOD of an asset as one mesh. */
export function assetMesh(asset: Pick<Asset, 'lods'>): Mesh {
  const parts = asset.lods[0];
  if (parts.length === 1) return parts[0];
  const positions = new Float32Array(parts.reduce((s, p) => s + p.positions.length, 0));
  const indices = new Uint32Array(parts.reduce((s, p) => s + p.indices.length, 0));
  let v = 0;
  let o = 0;
  for (const p of parts) {
    positions.set(p.positions, v * 3);
    for (const i of p.indices) indices[o++] = v + i;
    v += p.positions.length / 3;
  }
  return { positions, indices };
}

/** A box as 12 triangles. */
export function boxMesh(min: Vec3, max: Vec3): Mesh {
  const positions = new Float32Array(24);
  for (let i = 0; i < 8; i++) positions.set([i & 1 ? max[0] : min[0], i & 2 ? max[1] : min[1], i & 4 ? max[2] : min[2]], i * 3);
  return { positions, indices: Uint32Array.from([0, 1, 5, 0, 5, 4, 2, 6, 7, 2, 7, 3, 0, 2, 3, 0, 3, 1, 4, 5, 7, 4, 7, 6, 0, 4, 6, 0, 6, 2, 1, 3, 7, 1, 7, 5]) };
}
