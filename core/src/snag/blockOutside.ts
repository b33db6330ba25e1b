import { blockBounds } from '../block/solid';
import type { Grid } from '../level/tiles';
import type { Block } from '../level/objects';
import type { Snag } from './finding';

/** Blocks wholly outside the level's ground. */
export function blockOutside(grid: Grid, blocks: readonly Block[]): Snag[] {
  return blocks.flatMap((block): Snag[] => {
    const { min, max } = blockBounds(block);
    const outside = max[0] < 0 || max[2] < 0 || min[0] > grid.width || min[2] > grid.depth;
    return outside
      ? [
          {
            code: 'block-outside',
            severity: 'warning',
            message: `${block.name} stands outside the level`,
            mend: 'move it over the ground or remove it',
            at: block.at,
            object: block.id,
          },
        ]
      : [];
  });
}
