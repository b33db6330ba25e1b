import { blockBounds, blockSolid } from '../block/solid';
import type { Terrain } from '../earth/compose';
import { heightAt } from '../earth/sample';
import type { Block } from '../level/objects';
import type { Snag } from './finding';

/** Blocks whose every corner and middle lie under the ground: nobody will ever see them. */
export function buriedBlock(terrain: Terrain, blocks: readonly Block[]): Snag[] {
  return blocks.flatMap((block): Snag[] => {
    const { min, max } = blockBounds(block);
    const top = block.tilt ? max[1] : block.at[1] + block.size[1];
    // Outside the ground there is nothing to be buried in.
    if (min[0] < 0 || min[2] < 0 || max[0] > terrain.grid.width || max[2] > terrain.grid.depth) return [];
    const depths = [...blockSolid(block).corners, block.at].map((p) => heightAt(terrain, p[0], p[2]) - top);
    const depth = Math.min(...depths);
    return depth > 0
      ? [
          {
            code: 'block-buried',
            severity: 'warning',
            message: `${block.name} lies ${depth.toFixed(2)} m under the ground`,
            mend: 'raise it, or take it out of the level',
            at: block.at,
            object: block.id,
          },
        ]
      : [];
  });
}
