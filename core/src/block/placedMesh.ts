import type { Mesh } from '../num/mesh';
import { cellsAlong } from '../num/cellsAlong';
import { rayTree, triangleTree, type TriangleTree } from '../num/triangleTree';
import type { Vec3 } from '../num/vec';
import { CELL } from './grid';

/** A mesh where it stands in the level: what a piece is to picking, ground, walking and the section. */
export interface PlacedMesh extends Mesh {
  id: string;
  name: string;
  min: Vec3;
  max: Vec3;
  /** a block that its shape or a void made a mesh; else a piece or a trunk */
  of?: 'block';
  /** of such a block: for each triangle 0 for its own surface, else 1 + the place in `voids` of what cut it */
  cutBy?: Uint16Array;
  /** ids of the voids that cut it */
  voids?: string[];
}

/** Placed meshes by the 16 m cells their plan bounds touch, as blocks are. */
export type MeshGrid = ReadonlyMap<string, readonly PlacedMesh[]>;
export const NO_MESHES: MeshGrid = new Map();

/** Meshes by the cells of 16 m their bounds touch, those of a cell in the order they are given. A flat map from "cx,cz". */
export function meshGrid(meshes: Iterable<PlacedMesh>): MeshGrid {
  const grid = new Map<string, PlacedMesh[]>();
  for (const mesh of meshes) {
    for (let cx = Math.floor(mesh.min[0] / CELL); cx <= Math.floor(mesh.max[0] / CELL); cx++) {
      for (let cz = Math.floor(mesh.min[2] / CELL); cz <= Math.floor(mesh.max[2] / CELL); cz++) {
        const key = `${cx},${cz}`;
        const list = grid.get(key);
        if (list) list.push(mesh);
        else grid.set(key, [mesh]);
      }
    }
  }
  return grid;
}

/** Meshes of a grid whose bounds meet a box, each once. */
export function meshesWithin(grid: MeshGrid, { min, max }: Pick<PlacedMesh, 'min' | 'max'>): Set<PlacedMesh> {
  const out = new Set<PlacedMesh>();
  for (let cx = Math.floor(min[0] / CELL); cx <= Math.floor(max[0] / CELL); cx++)
    for (let cz = Math.floor(min[2] / CELL); cz <= Math.floor(max[2] / CELL); cz++)
      for (const mesh of grid.get(`${cx},${cz}`) ?? []) if ([0, 1, 2].every((k) => mesh.min[k] <= max[k] && mesh.max[k] >= min[k])) out.add(mesh);
  return out;
}

/** @param place writes one point (x, y, z of the mesh) to the level */
export function placeMesh(id: string, name: string, mesh: Mesh, place: (x: number, y: number, z: number) => Vec3): PlacedMesh {
  const positions = new Float32Array(mesh.positions.length);
  const min: Vec3 = [Infinity, Infinity, Infinity];
  const max: Vec3 = [-Infinity, -Infinity, -Infinity];
  for (let i = 0; i < positions.length; i += 3) {
    const p = place(mesh.positions[i], mesh.positions[i + 1], mesh.positions[i + 2]);
    for (let k = 0; k < 3; k++) {
      positions[i + k] = p[k];
      if (p[k] < min[k]) min[k] = p[k];
      if (p[k] > max[k]) max[k] = p[k];
    }
  }
  return { id, name, positions, indices: mesh.indices, min, max };
}

/** Highest upward face of a mesh over (x, z) that is not above `limit`: its height and normal. */
export function meshTopAt(mesh: PlacedMesh, x: number, z: number, limit: number): { height: number; normal: Vec3 } | undefined {
  if (x < mesh.min[0] || x > mesh.max[0] || z < mesh.min[2] || z > mesh.max[2]) return undefined;
  const { positions: p, indices } = mesh;
  let best: { height: number; normal: Vec3 } | undefined;
  for (let i = 0; i < indices.length; i += 3) {
    const [a, b, c] = [indices[i] * 3, indices[i + 1] * 3, indices[i + 2] * 3];
    const ux = p[b] - p[a],
      uz = p[b + 2] - p[a + 2],
      vx = p[c] - p[a],
      vz = p[c + 2] - p[a + 2];
    // Twice the area in plan, positive where the face looks up (z runs south).
    const area = uz * vx - ux * vz;
    if (area <= 1e-9) continue;
    const wx = x - p[a],
      wz = z - p[a + 2];
    const s = (wz * vx - wx * vz) / area;
    const t = (uz * wx - ux * wz) / area;
    if (s < -1e-6 || t < -1e-6 || s + t > 1 + 1e-6) continue;
    const height = p[a + 1] + s * (p[b + 1] - p[a + 1]) + t * (p[c + 1] - p[a + 1]);
    if (height > limit || (best && height <= best.height)) continue;
    const uy = p[b + 1] - p[a + 1],
      vy = p[c + 1] - p[a + 1];
    const n: Vec3 = [uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx];
    const l = Math.sqrt(n[0] * n[0] + n[1] * n[1] + n[2] * n[2]);
    best = { height, normal: [n[0] / l, n[1] / l, n[2] / l] };
  }
  return best;
}

export interface MeshHit {
  mesh: PlacedMesh;
  distance: number;
  triangle: number;
  normal: Vec3;
}

/** First front face of the meshes that a ray meets. @param direction unit length */
export function rayMeshes(meshes: Iterable<PlacedMesh>, o: Vec3, d: Vec3, far: number): MeshHit | undefined {
  let best: MeshHit | undefined;
  for (const mesh of meshes) best = nearer(mesh, o, d, far, best);
  return best;
}

/**
 * The same over a grid: only meshes of the cells the ray passes are looked at.
 *
 * @param skip those it goes through
 */
export function rayMeshGrid(grid: MeshGrid, o: Vec3, d: Vec3, far: number, skip?: (mesh: PlacedMesh) => boolean): MeshHit | undefined {
  let best: MeshHit | undefined;
  cellsAlong(o, d, far, CELL, (cx, cz, leaves) => {
    for (const mesh of grid.get(`${cx},${cz}`) ?? []) if (!skip?.(mesh)) best = nearer(mesh, o, d, far, best);
    return best !== undefined && best.distance <= leaves;
  });
  return best;
}

/** From this many triangles on a mesh that rays keep meeting gets a tree over them; one of more than the latter takes too long to get one. */
const TREE = { from: 192, to: 60_000 };
/** Rays that look at every triangle of a mesh before it gets its tree: one that is dragged is another mesh at each step. */
const RAYS_BEFORE = 3;
const trees = new WeakMap<PlacedMesh, { rays: number; tree?: TriangleTree }>();

function treeOf(mesh: PlacedMesh): TriangleTree | undefined {
  const triangles = mesh.indices.length / 3;
  if (triangles < TREE.from || triangles > TREE.to) return undefined;
  let known = trees.get(mesh);
  if (!known) trees.set(mesh, (known = { rays: 0 }));
  if (++known.rays > RAYS_BEFORE) known.tree ??= triangleTree(mesh);
  return known.tree;
}

function nearer(mesh: PlacedMesh, o: Vec3, d: Vec3, far: number, best: MeshHit | undefined): MeshHit | undefined {
  if (!rayMeetsBox(o, d, mesh.min, mesh.max)) return best;
  const tree = treeOf(mesh);
  let distance = Infinity;
  let triangle = -1;
  if (tree) {
    const met = rayTree(tree, o, d, best ? Math.min(far, best.distance) : far, (t) => meets(mesh, t, o, d));
    if (met) ({ distance, triangle } = met);
  } else
    for (let t = 0; t < mesh.indices.length / 3; t++) {
      const at = meets(mesh, t, o, d);
      if (at < distance) [distance, triangle] = [at, t];
    }
  if (triangle < 0 || distance > far || (best && (distance > best.distance || (distance === best.distance && best.mesh.id <= mesh.id)))) return best;
  return { mesh, distance, triangle, normal: normalOf(mesh, triangle) };
}

/** How far along a ray it meets the front of a triangle, infinity where it does not. */
function meets({ positions: p, indices }: Mesh, triangle: number, o: Vec3, d: Vec3): number {
  const [a, b, c] = [indices[triangle * 3] * 3, indices[triangle * 3 + 1] * 3, indices[triangle * 3 + 2] * 3];
  const ux = p[b] - p[a],
    uy = p[b + 1] - p[a + 1],
    uz = p[b + 2] - p[a + 2];
  const vx = p[c] - p[a],
    vy = p[c + 1] - p[a + 1],
    vz = p[c + 2] - p[a + 2];
  const nx = uy * vz - uz * vy,
    ny = uz * vx - ux * vz,
    nz = ux * vy - uy * vx;
  const facing = nx * d[0] + ny * d[1] + nz * d[2];
  if (facing >= -1e-12) return Infinity;
  const wx = o[0] - p[a],
    wy = o[1] - p[a + 1],
    wz = o[2] - p[a + 2];
  const t = -(nx * wx + ny * wy + nz * wz) / facing;
  if (t < 0) return Infinity;
  // Moeller and Trumbore: barycentric coordinates of the hit.
  const qx = wy * d[2] - wz * d[1],
    qy = wz * d[0] - wx * d[2],
    qz = wx * d[1] - wy * d[0];
  const s = (qx * vx + qy * vy + qz * vz) / -facing;
  const r = -(qx * ux + qy * uy + qz * uz) / -facing;
  return s < -1e-9 || r < -1e-9 || s + r > 1 + 1e-9 ? Infinity : t;
}

function normalOf({ positions: p, indices }: Mesh, triangle: number): Vec3 {
  const [a, b, c] = [indices[triangle * 3] * 3, indices[triangle * 3 + 1] * 3, indices[triangle * 3 + 2] * 3];
  const [ux, uy, uz] = [p[b] - p[a], p[b + 1] - p[a + 1], p[b + 2] - p[a + 2]];
  const [vx, vy, vz] = [p[c] - p[a], p[c + 1] - p[a + 1], p[c + 2] - p[a + 2]];
  const n: Vec3 = [uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx];
  const l = Math.sqrt(n[0] * n[0] + n[1] * n[1] + n[2] * n[2]);
  return [n[0] / l, n[1] / l, n[2] / l];
}

/** How far a ray that enters a mesh at a point goes until it first leaves it again: a wall's thickness. @param d unit length */
export function thicknessAt({ positions: p, indices }: PlacedMesh, at: Vec3, d: Vec3): number | undefined {
  // What leaves the mesh enters its reverse.
  const reverse = indices.slice();
  for (let i = 0; i < reverse.length; i += 3) [reverse[i], reverse[i + 1]] = [reverse[i + 1], reverse[i]];
  return rayMeshes(
    [{ id: '', name: '', positions: p, indices: reverse, min: [-Infinity, -Infinity, -Infinity], max: [Infinity, Infinity, Infinity] }],
    at,
    d,
    Infinity,
  )?.distance;
}

function rayMeetsBox(o: Vec3, d: Vec3, min: Vec3, max: Vec3): boolean {
  let enter = 0;
  let leave = Infinity;
  for (let k = 0; k < 3; k++) {
    if (Math.abs(d[k]) < 1e-12) {
      if (o[k] < min[k] || o[k] > max[k]) return false;
      continue;
    }
    const a = (min[k] - o[k]) / d[k];
    const b = (max[k] - o[k]) / d[k];
    enter = Math.max(enter, Math.min(a, b));
    leave = Math.min(leave, Math.max(a, b));
  }
  return enter <= leave;
}
