import type { Block } from '../level/objects';
import { blockBounds, blockSolid, raySolid } from './solid';
import type { Vec3 } from '../num/vec';

/** Side of a cell, metres: the grid of drawing, picking and culling. */
export const CELL = 16;

/** Blocks by the 16 m cells their plan bounds touch. A flat map from "cx,cz" to blocks. */
export type BlockGrid = Map<string, Block[]>;

export function blockGrid(blocks: Iterable<Block>): BlockGrid {
  const grid: BlockGrid = new Map();
  for (const block of blocks) {
    const { min, max } = blockBounds(block);
    for (let cx = Math.floor(min[0] / CELL); cx <= Math.floor(max[0] / CELL); cx++) {
      for (let cz = Math.floor(min[2] / CELL); cz <= Math.floor(max[2] / CELL); cz++) {
        const key = `${cx},${cz}`;
        const list = grid.get(key);
        if (list) list.push(block);
        else grid.set(key, [block]);
      }
    }
  }
  return grid;
}

export const blocksNear = (grid: BlockGrid, x: number, z: number): readonly Block[] => grid.get(`${Math.floor(x / CELL)},${Math.floor(z / CELL)}`) ?? [];

export interface BlockHit {
  block: Block;
  distance: number;
  face: string;
  normal: Vec3;
}

/** Nearest block a ray enters. Slow but exact: every block's faces. */
export function rayBlocks(blocks: Iterable<Block>, origin: Vec3, direction: Vec3, far: number): BlockHit | undefined {
  let best: BlockHit | undefined;
  for (const block of blocks) {
    // A sphere around the block turns most away before its faces are made.
    const cx = block.at[0] - origin[0];
    const cy = block.at[1] + block.size[1] / 2 - origin[1];
    const cz = block.at[2] - origin[2];
    const along = cx * direction[0] + cy * direction[1] + cz * direction[2];
    const r2 = (block.size[0] * block.size[0] + block.size[1] * block.size[1] + block.size[2] * block.size[2]) / 4;
    if (cx * cx + cy * cy + cz * cz - along * along > r2) continue;
    const solid = blockSolid(block);
    const hit = raySolid(solid, origin, direction);
    if (hit && hit.distance <= far && (!best || hit.distance < best.distance)) {
      best = { block, distance: hit.distance, face: solid.faces[hit.face].name, normal: hit.normal };
    }
  }
  return best;
}
