import type Rapier from '@dimforge/rapier3d-compat';
import { CELL, type BlockGrid } from '../block/grid';
import type { MeshGrid } from '../block/placedMesh';
import { blockSolid } from '../block/solid';
import type { Terrain } from '../earth/compose';
import { terrainMesh } from '../earth/mesh';

/** What stops a body in a level, by cells of 16 m. */
export interface Stopping {
  terrain: Terrain;
  blocks: BlockGrid;
  meshes: MeshGrid;
}

/**
 * Colliders of what stops a body in one cell: ground, blocks and shapes. Walking and throwing stand on the same ones.
 *
 * @param cx place of the cell along x, in cells of 16 m; cz along z
 */
export function cellColliders(rapier: typeof Rapier, world: Rapier.World, { terrain, blocks, meshes }: Stopping, cx: number, cz: number): Rapier.Collider[] {
  const made: Rapier.Collider[] = [];
  const quads = CELL / terrain.grid.spacing;
  const ground = terrainMesh(terrain, cx * quads, cz * quads, (cx + 1) * quads, (cz + 1) * quads);
  if (ground.indices.length > 0)
    made.push(world.createCollider(rapier.ColliderDesc.trimesh(ground.positions, ground.indices, rapier.TriMeshFlags.FIX_INTERNAL_EDGES)));
  for (const block of blocks.get(`${cx},${cz}`) ?? []) {
    const hull = rapier.ColliderDesc.convexHull(Float32Array.from(blockSolid(block).corners.flat()));
    if (hull) made.push(world.createCollider(hull));
  }
  for (const mesh of meshes.get(`${cx},${cz}`) ?? []) made.push(world.createCollider(rapier.ColliderDesc.trimesh(mesh.positions, mesh.indices)));
  return made;
}
