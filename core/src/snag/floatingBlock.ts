import { blockBounds, blockSolid, type Bounds } from '../block/solid';
import type { PlacedMesh } from '../block/placedMesh';
import type { Terrain } from '../earth/compose';
import { heightAt } from '../earth/sample';
import type { Block } from '../level/objects';
import type { Snag } from './finding';

/** Two things this near still touch, metres. */
const TOUCH = 0.05;

/**
 * Blocks that neither touch the ground nor, through others, something that does. Blocks touch where
 * their bounds do; a beam on two posts stands, a box hung in the air does not.
 */
export function floatingBlock(terrain: Terrain, blocks: readonly Block[], placed: readonly PlacedMesh[] = []): Snag[] {
  const bounds = [...blocks.map(blockBounds), ...placed.map(({ min, max }): Bounds => ({ min, max }))];
  const held = blocks.map((b) => [...blockSolid(b).corners.slice(0, 4), b.at].some((p) => p[1] <= heightAt(terrain, p[0], p[2]) + TOUCH));
  // Pieces hold blocks up too; whether they stand themselves is their own check.
  for (let i = blocks.length; i < bounds.length; i++) held.push(true);
  const queue = bounds.flatMap((_, i) => (held[i] ? [i] : []));
  while (queue.length > 0) {
    const from = bounds[queue.pop()!];
    for (let i = 0; i < blocks.length; i++) {
      if (!held[i] && touch(from, bounds[i])) {
        held[i] = true;
        queue.push(i);
      }
    }
  }
  return blocks.flatMap((block, i): Snag[] => {
    // A mover hangs on its way.
    if (held[i] || block.stops) return [];
    const gap = block.at[1] - heightAt(terrain, block.at[0], block.at[2]);
    return [
      {
        code: 'block-floating',
        severity: 'warning',
        message: `${block.name} floats ${gap.toFixed(2)} m above the ground`,
        mend: 'drop it to its host (J)',
        at: block.at,
        object: block.id,
      },
    ];
  });
}

const touch = (a: Bounds, b: Bounds): boolean => [0, 1, 2].every((k) => a.min[k] <= b.max[k] + TOUCH && b.min[k] <= a.max[k] + TOUCH);
