import { BufferAttribute, BufferGeometry } from 'three';
import type { BuiltBlock } from '@rammer/core/block/build';
import { blockEdges, ownMesh, SMOOTH } from '@rammer/core/block/edges';
import { isPlain } from '@rammer/core/block/shapes';
import { blockSolid, faceNormal, levelToBlock } from '@rammer/core/block/solid';
import type { Block } from '@rammer/core/level/objects';
import type { Mesh } from '@rammer/core/num/mesh';
import { cross, dot, length, normalize, sub, type Vec3 } from '@rammer/core/num/vec';

/** A large distance: no edge of the face is near. */
const FAR = 1e3;
/**
 * Blocks as one flat-shaded geometry. Beside position and normal each vertex has `face`, its distance
 * in metres from up to four edges of its face (a large number where there are fewer; the fourth is -1 on
 * faces that a void cut), and `course`, its height over its own block's base.
 *
 * @param built blocks that are meshes, by id
 */
export function blockGeometry(blocks: readonly Block[], built: Pick<ReadonlyMap<string, BuiltBlock>, 'get'> = new Map()): BufferGeometry {
  const position: number[] = [];
  const normal: number[] = [];
  const face: number[] = [];
  const course: number[] = [];
  for (const block of blocks) {
    const mesh = built.get(block.id);
    if (mesh || !isPlain(block)) {
      addMesh(mesh ?? ownMesh(block), block.at[1], { position, normal, face, course }, mesh?.cutBy);
      continue;
    }
    const solid = blockSolid(block);
    for (const f of solid.faces) {
      const n = faceNormal(solid, f);
      const corners = f.corners.map((i) => solid.corners[i]);
      const edges = corners.map((c, i): [Vec3, Vec3] => [c, normalize(cross(n, sub(corners[(i + 1) % corners.length], c)))]);
      for (let i = 2; i < corners.length; i++) {
        for (const p of [corners[0], corners[i - 1], corners[i]]) {
          position.push(p[0], p[1], p[2]);
          normal.push(n[0], n[1], n[2]);
          for (let e = 0; e < 4; e++) face.push(e < edges.length ? Math.max(0, dot(edges[e][1], sub(p, edges[e][0]))) : FAR);
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

interface Lists {
  position: number[];
  normal: number[];
  face: number[];
  course: number[];
}

function addMesh({ positions: p, indices }: Mesh, base: number, out: Lists, cutBy?: Uint16Array): void {
  const corner = (i: number): Vec3 => [p[indices[i] * 3], p[indices[i] * 3 + 1], p[indices[i] * 3 + 2]];
  const normals: Vec3[] = [];
  const across = new Map<string, number>();
  for (let i = 0; i < indices.length; i += 3) {
    const n = cross(sub(corner(i + 1), corner(i)), sub(corner(i + 2), corner(i)));
    normals.push(length(n) > 1e-12 ? normalize(n) : [0, 1, 0]);
    for (let k = 0; k < 3; k++) across.set(`${indices[i + k]},${indices[i + ((k + 1) % 3)]}`, i / 3);
  }
  for (let i = 0; i < indices.length; i += 3) {
    const t = i / 3;
    const n = normals[t];
    const corners = [corner(i), corner(i + 1), corner(i + 2)];
    const edges = corners.map((c, k): [Vec3, Vec3] | undefined => {
      const other = across.get(`${indices[i + ((k + 1) % 3)]},${indices[i + k]}`);
      if (other !== undefined && dot(normals[other], n) > SMOOTH && (!cutBy || cutBy[other] === cutBy[t])) return undefined;
      return [c, normalize(cross(n, sub(corners[(k + 1) % 3], c)))];
    });
    for (const c of corners) {
      out.position.push(c[0], c[1], c[2]);
      out.normal.push(n[0], n[1], n[2]);
      for (const e of edges) out.face.push(e ? Math.max(0, dot(e[1], sub(c, e[0]))) : FAR);
      out.face.push(cutBy && cutBy[t] > 0 ? -1 : FAR);
      out.course.push(c[1] - base);
    }
  }
}

/** A block's edges on the screen, as an SVG path. */
export function edgePath(view: { project(p: Vec3): { x: number; y: number } | undefined }, block: Block): string {
  const edges = blockEdges(block);
  let d = '';
  for (let i = 0; i < edges.length; i += 2) {
    const a = view.project(edges[i]);
    const b = view.project(edges[i + 1]);
    if (a && b) d += `M${a.x.toFixed(1)} ${a.y.toFixed(1)}L${b.x.toFixed(1)} ${b.y.toFixed(1)}`;
  }
  return d;
}
