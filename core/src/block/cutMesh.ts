import type { CutLine } from './cut';
import type { PlacedMesh } from './placedMesh';

/**
 * Cuts a mesh with a vertical plane.
 *
 * @returns segments where the plane passes through its triangles: distance along the line and height of
 * either end, four numbers a segment
 */
export function cutMesh({ positions: p, indices, min, max }: PlacedMesh, line: CutLine): number[] {
  const side = (x: number, z: number) => (x - line.x0) * -line.dz + (z - line.z0) * line.dx;
  const corners = [side(min[0], min[2]), side(max[0], min[2]), side(max[0], max[2]), side(min[0], max[2])];
  if (corners.every((s) => s > 0) || corners.every((s) => s < 0)) return [];
  const out: number[] = [];
  for (let i = 0; i < indices.length; i += 3) {
    const ends: number[] = [];
    for (let k = 0; k < 3; k++) {
      const a = indices[i + k] * 3;
      const b = indices[i + ((k + 1) % 3)] * 3;
      const sa = side(p[a], p[a + 2]);
      const sb = side(p[b], p[b + 2]);
      if (sa > 0 === sb > 0) continue;
      const t = sa / (sa - sb);
      const x = p[a] + (p[b] - p[a]) * t;
      const z = p[a + 2] + (p[b + 2] - p[a + 2]) * t;
      ends.push((x - line.x0) * line.dx + (z - line.z0) * line.dz, p[a + 1] + (p[b + 1] - p[a + 1]) * t);
    }
    if (ends.length === 4) out.push(...ends);
  }
  return out;
}
