import type { Block } from '../level/objects';
import type { Mesh } from '../num/mesh';
import { cross, dot, length, normalize, sub, type Vec3 } from '../num/vec';
import { isPlain, shapeMesh } from './shapes';
import { blockSolid, blockToLevel } from './solid';

/** Edges where two triangles turn by less than this are no edges of a shape: the sides of what is round. Cosine. */
export const SMOOTH = 0.87;

/** A block's own shape in the level, before any void. */
export function ownMesh(block: Block): Mesh {
  const { positions, indices } = shapeMesh(block);
  const placed = new Float32Array(positions.length);
  for (let i = 0; i < positions.length; i += 3) placed.set(blockToLevel(block, positions[i], positions[i + 1], positions[i + 2]), i);
  return { positions: placed, indices };
}

/** Edges where a closed mesh turns, as pairs of points. */
export function meshEdges({ positions: p, indices }: Mesh): Vec3[] {
  const corner = (v: number): Vec3 => [p[v * 3], p[v * 3 + 1], p[v * 3 + 2]];
  const normals: Vec3[] = [];
  const across = new Map<string, number>();
  for (let i = 0; i < indices.length; i += 3) {
    const [a, b, c] = [corner(indices[i]), corner(indices[i + 1]), corner(indices[i + 2])];
    const n = cross(sub(b, a), sub(c, a));
    normals.push(length(n) > 1e-12 ? normalize(n) : [0, 1, 0]);
    for (let k = 0; k < 3; k++) across.set(`${indices[i + k]},${indices[i + ((k + 1) % 3)]}`, i / 3);
  }
  const out: Vec3[] = [];
  for (let i = 0; i < indices.length; i += 3) {
    for (let k = 0; k < 3; k++) {
      const [a, b] = [indices[i + k], indices[i + ((k + 1) % 3)]];
      const other = across.get(`${b},${a}`);
      // Each edge has two triangles; the one that runs it upwards gives it.
      if (other === undefined || (a < b && dot(normals[other], normals[i / 3]) <= SMOOTH)) out.push(corner(a), corner(b));
    }
  }
  return out;
}

/** The edges of a block's own shape as pairs of points, for outlines and for what snaps to them. */
export function blockEdges(block: Block): Vec3[] {
  if (!isPlain(block)) return meshEdges(ownMesh(block));
  const solid = blockSolid(block);
  const out: Vec3[] = [];
  const seen = new Set<string>();
  for (const f of solid.faces) {
    for (let i = 0; i < f.corners.length; i++) {
      const a = f.corners[i];
      const b = f.corners[(i + 1) % f.corners.length];
      const key = a < b ? `${a},${b}` : `${b},${a}`;
      if (seen.has(key)) continue;
      seen.add(key);
      if (length(sub(solid.corners[a], solid.corners[b])) > 0) out.push(solid.corners[a], solid.corners[b]);
    }
  }
  return out;
}
