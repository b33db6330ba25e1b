import { blockBounds, blockSolid, blockToLevel, solidTriangles } from '../block/solid';
import type { PlacedMesh } from '../block/placedMesh';
import { terrainMesh, type Mesh } from '../earth/mesh';
import { OPEN, type Terrain } from '../earth/compose';
import type { Block } from '../level/objects';
import { openFaces } from './openFaces';

/** Plan rectangle in metres. */
export interface PlanRect {
  x0: number;
  z0: number;
  x1: number;
  z1: number;
}

/** Distance between the sheets that fill a block, metres; less than any body's headroom. */
const FILL = 0.4;

/**
 * Terrain, block, piece and trunk triangles that meet a plan rectangle.
 *
 * The walk area is made from surfaces, not solids, so a tall block would leave a walkable floor
 * inside it. Sheets `FILL` apart inside each block leave no headroom there.
 */
export function navGeometry(terrain: Terrain, blocks: readonly Block[], rect: PlanRect, meshes: readonly PlacedMesh[] = []): Mesh {
  const { spacing } = terrain.grid;
  const ground = openGround(terrain, Math.floor(rect.x0 / spacing), Math.floor(rect.z0 / spacing), Math.ceil(rect.x1 / spacing), Math.ceil(rect.z1 / spacing));
  const near = blocksIn(blocks, rect);
  const standing = meshesIn(meshes, rect);
  if (near.length === 0 && standing.length === 0) return ground;
  const positions: number[] = [];
  const indices: number[] = [];
  const base = ground.positions.length / 3;
  for (const block of near) {
    const solid = blockSolid(block);
    const at = base + positions.length / 3;
    for (const c of solid.corners) positions.push(c[0], c[1], c[2]);
    for (const i of solidTriangles(solid)) indices.push(at + i);
    fill(block, base, positions, indices);
  }
  for (const mesh of standing) {
    const at = base + positions.length / 3;
    for (const v of mesh.positions) positions.push(v);
    for (const i of mesh.indices) indices.push(at + i);
  }
  if (terrain.barred) openFaces(terrain, rect, base, positions, indices);
  const all: Mesh = { positions: new Float32Array(ground.positions.length + positions.length), indices: new Uint32Array(ground.indices.length + indices.length) };
  all.positions.set(ground.positions);
  all.positions.set(positions, ground.positions.length);
  all.indices.set(ground.indices);
  all.indices.set(indices, ground.indices.length);
  return all;
}

/** Terrain triangles a body may stand on: none with a barred corner. */
function openGround(terrain: Terrain, qx0: number, qz0: number, qx1: number, qz1: number): Mesh {
  const mesh = terrainMesh(terrain, qx0, qz0, qx1, qz1);
  const { barred, grid } = terrain;
  if (!barred) return mesh;
  const [x0, z0] = [Math.max(0, qx0), Math.max(0, qz0)];
  const w = Math.min(grid.nx - 1, qx1) - x0 + 1;
  const shut = (v: number): boolean => barred[(z0 + Math.floor(v / w)) * grid.nx + x0 + (v % w)] !== OPEN;
  const open: number[] = [];
  for (let i = 0; i < mesh.indices.length; i += 3) {
    const [a, b, c] = [mesh.indices[i], mesh.indices[i + 1], mesh.indices[i + 2]];
    if (!shut(a) && !shut(b) && !shut(c)) open.push(a, b, c);
  }
  return { positions: mesh.positions, indices: Uint32Array.from(open) };
}

function fill(block: Block, base: number, positions: number[], indices: number[]): void {
  const [l, h, w] = block.size;
  for (let y = FILL; y < h - 0.05; y += FILL) {
    const x0 = block.shape === 'ramp' ? -l / 2 + (l * y) / h : -l / 2;
    const at = base + positions.length / 3;
    for (const [x, z] of [[x0, -w / 2], [l / 2, -w / 2], [l / 2, w / 2], [x0, w / 2]]) positions.push(...blockToLevel(block, x, y, z));
    indices.push(at, at + 3, at + 2, at, at + 2, at + 1);
  }
}

/** Blocks whose plan bounds meet the rectangle, in the order given. */
export function blocksIn(blocks: readonly Block[], rect: PlanRect): Block[] {
  return blocks.filter((b) => {
    const { min, max } = blockBounds(b);
    return max[0] >= rect.x0 && min[0] <= rect.x1 && max[2] >= rect.z0 && min[2] <= rect.z1;
  });
}

/** Placed meshes whose plan bounds meet the rectangle, in the order given. */
export const meshesIn = (meshes: readonly PlacedMesh[], rect: PlanRect): PlacedMesh[] =>
  meshes.filter(({ min, max }) => max[0] >= rect.x0 && min[0] <= rect.x1 && max[2] >= rect.z0 && min[2] <= rect.z1);
