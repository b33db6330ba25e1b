import { BufferAttribute, BufferGeometry } from 'three';
import { blockSolid, faceNormal, levelToBlock } from '@rammer/core/block/solid';
import type { Block } from '@rammer/core/level/objects';
import { cross, dot, length, normalize, sub, type Vec3 } from '@rammer/core/num/vec';

/**
 * Blocks as one flat-shaded geometry. Beside position and normal each vertex has `face`, its distance
 * in metres from up to four edges of its face (a large number where there are fewer), and `course`,
 * its height over its own block's base.
 */
export function blockGeometry(blocks: readonly Block[]): BufferGeometry {
  const position: number[] = [];
  const normal: number[] = [];
  const face: number[] = [];
  const course: number[] = [];
  for (const block of blocks) {
    const solid = blockSolid(block);
    for (const f of solid.faces) {
      const n = faceNormal(solid, f);
      const corners = f.corners.map((i) => solid.corners[i]);
      const edges = corners.map((c, i): [Vec3, Vec3] => [c, normalize(cross(n, sub(corners[(i + 1) % corners.length], c)))]);
      for (let i = 2; i < corners.length; i++) {
        for (const p of [corners[0], corners[i - 1], corners[i]]) {
          position.push(p[0], p[1], p[2]);
          normal.push(n[0], n[1], n[2]);
          for (let e = 0; e < 4; e++) face.push(e < edges.length ? Math.max(0, dot(edges[e][1], sub(p, edges[e][0]))) : 1e3);
          course.push(levelToBlock(block, p)[1]);
        }
      }
    }
  }
  const geometry = new BufferGeometry();
  const add = (name: string, values: number[], size: number) => geometry.setAttribute(name, new BufferAttribute(Float32Array.from(values), size));
  add('position', position, 3);
  add('normal', normal, 3);
  add('face', face, 4);
  add('course', course, 1);
  return geometry;
}

/** The twelve (or nine) edges of a block as line segments, for outlines. */
export function blockEdges(block: Block): Vec3[] {
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
