import type { CutLine } from './cut';
import type { PlacedMesh } from './placedMesh';

/**
 * Cuts a closed mesh with a vertical plane into closed outlines: what lies inside an odd number of them
 * is solid. Points are known by the mesh edge they lie on, so that no rounding can part them.
 *
 * @returns outlines as along, height pairs in order; empty where the plane misses
 */
export function cutLoops({ positions: p, indices, min, max }: PlacedMesh, line: CutLine): [along: number, height: number][][] {
  const side = (x: number, z: number) => (x - line.x0) * -line.dz + (z - line.z0) * line.dx;
  const corners = [side(min[0], min[2]), side(max[0], min[2]), side(max[0], max[2]), side(min[0], max[2])];
  if (corners.every((s) => s > 0) || corners.every((s) => s < 0)) return [];
  const count = p.length / 3;
  /** a cut edge, as one number, to the two it is joined to by a triangle */
  const joined = new Map<number, number[]>();
  const join = (a: number, b: number) => {
    const list = joined.get(a);
    if (list) list.push(b);
    else joined.set(a, [b]);
  };
  for (let i = 0; i < indices.length; i += 3) {
    const ends: number[] = [];
    for (let k = 0; k < 3; k++) {
      const a = indices[i + k];
      const b = indices[i + ((k + 1) % 3)];
      if (side(p[a * 3], p[a * 3 + 2]) > 0 !== side(p[b * 3], p[b * 3 + 2]) > 0) ends.push(Math.min(a, b) * count + Math.max(a, b));
    }
    if (ends.length === 2) {
      join(ends[0], ends[1]);
      join(ends[1], ends[0]);
    }
  }
  const point = (edge: number): [number, number] => {
    const [a, b] = [Math.floor(edge / count) * 3, (edge % count) * 3];
    const sa = side(p[a], p[a + 2]);
    const t = sa / (sa - side(p[b], p[b + 2]));
    return [(p[a] + (p[b] - p[a]) * t - line.x0) * line.dx + (p[a + 2] + (p[b + 2] - p[a + 2]) * t - line.z0) * line.dz, p[a + 1] + (p[b + 1] - p[a + 1]) * t];
  };
  const loops: [number, number][][] = [];
  const seen = new Set<number>();
  for (const first of joined.keys()) {
    if (seen.has(first)) continue;
    const loop: [number, number][] = [];
    for (let at: number | undefined = first; at !== undefined; at = joined.get(at)!.find((next) => !seen.has(next))) {
      seen.add(at);
      loop.push(point(at));
    }
    if (loop.length >= 3) loops.push(loop);
  }
  return loops;
}
