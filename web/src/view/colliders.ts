import { BufferAttribute, BufferGeometry, EdgesGeometry, Group, LineBasicMaterial, LineSegments, Mesh, MeshBasicMaterial } from 'three';
import type { PlacedMesh } from '@rammer/core/block/placedMesh';
import type { Vec3 } from '@rammer/core/num/vec';

/** So many shapes are drawn at most, those nearest to what is looked at first. */
export const MOST_COLLIDERS = 3000;
/** An edge is drawn where two faces meet at more than this, degrees. */
const CREASE = 12;

const far = ({ min, max }: PlacedMesh, [x, y, z]: Vec3): number =>
  Math.max(min[0] - x, 0, x - max[0]) ** 2 + Math.max(min[1] - y, 0, y - max[1]) ** 2 + Math.max(min[2] - z, 0, z - max[2]) ** 2;

/** Those of some shapes that are drawn. */
export function nearestColliders(meshes: readonly PlacedMesh[], to: Vec3): readonly PlacedMesh[] {
  return meshes.length <= MOST_COLLIDERS ? meshes : [...meshes].sort((a, b) => far(a, to) - far(b, to)).slice(0, MOST_COLLIDERS);
}

/** Shapes that stop a body as a veil of chalk with ink along their edges: all in two draws. Belongs to no level and is not counted. */
export function colliderMarks(meshes: readonly PlacedMesh[]): Group {
  const positions = new Float32Array(meshes.reduce((n, m) => n + m.positions.length, 0));
  const indices = new Uint32Array(meshes.reduce((n, m) => n + m.indices.length, 0));
  const edges: number[] = [];
  let [at, from] = [0, 0];
  for (const m of meshes) {
    positions.set(m.positions, at * 3);
    for (let i = 0; i < m.indices.length; i++) indices[from + i] = m.indices[i] + at;
    at += m.positions.length / 3;
    from += m.indices.length;
    const own = new BufferGeometry();
    own.setAttribute('position', new BufferAttribute(m.positions, 3));
    own.setIndex(new BufferAttribute(m.indices, 1));
    const lines = new EdgesGeometry(own, CREASE);
    const list = lines.getAttribute('position').array;
    for (let i = 0; i < list.length; i++) edges.push(list[i]);
    lines.dispose();
  }
  const veil = new BufferGeometry();
  veil.setAttribute('position', new BufferAttribute(positions, 3));
  veil.setIndex(new BufferAttribute(indices, 1));
  const ink = new BufferGeometry();
  ink.setAttribute('position', new BufferAttribute(new Float32Array(edges), 3));
  const group = new Group();
  const surface = new Mesh(
    veil,
    new MeshBasicMaterial({
      color: '#f6f7f4',
      transparent: true,
      opacity: 0.42,
      depthWrite: false,
      polygonOffset: true,
      polygonOffsetFactor: -2,
      polygonOffsetUnits: -2,
    }),
  );
  // Edges are seen through what stands before them, faintly: what stops a body is often within what is seen.
  const behind = new LineSegments(ink, new LineBasicMaterial({ color: '#17211f', transparent: true, opacity: 0.3, depthTest: false }));
  const before = new LineSegments(ink, new LineBasicMaterial({ color: '#17211f' }));
  for (const part of [surface, behind, before]) {
    part.frustumCulled = false;
    group.add(part);
  }
  return group;
}

/** Frees what a group of marks holds. */
export function disposeMarks(group: Group): void {
  for (const part of group.children as (Mesh | LineSegments)[]) {
    part.geometry.dispose();
    (part.material as LineBasicMaterial).dispose();
  }
}
