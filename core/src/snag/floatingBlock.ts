import { blockGrid } from '../block/grid';
import { blockSolid } from '../block/solid';
import type { Terrain } from '../earth/compose';
import type { Block } from '../level/objects';
import { groundAt } from '../surface/groundAt';
import type { Snag } from './finding';

/** A block may stand this far above its host before it floats, metres. */
const GAP = 0.05;

/** Blocks of which no corner, nor the centre, touches or enters what is below. */
export function floatingBlock(terrain: Terrain, blocks: readonly Block[]): Snag[] {
  const snags: Snag[] = [];
  const grid = blockGrid(blocks);
  for (const block of blocks) {
    const others = new Map([...grid].map(([cell, list]) => [cell, list.filter((b) => b.id !== block.id)]));
    const feet = [...blockSolid(block).corners.slice(0, 4), block.at];
    const gap = Math.min(...feet.map((p) => p[1] - groundAt(terrain, others, [p[0], p[1], p[2]]).height));
    if (gap > GAP) snags.push({ code: 'block-floating', severity: 'warning', message: `${block.name} floats ${gap.toFixed(2)} m above what is below it`, mend: 'drop it to its host (J)', at: block.at, object: block.id });
  }
  return snags;
}
