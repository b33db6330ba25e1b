import { blockBounds, type Bounds } from '../block/solid';
import { uniteRects, type Rect } from '../earth/rect';
import type { Block } from '../level/objects';
import type { Grid } from '../level/tiles';
import { hostRect } from './tops';

/**
 * Samples over which a top came, went or moved.
 *
 * @param before blocks, @param after the same later: one is another object once it is changed
 * @param meshes where meshes came, went or moved, see kit/placedScene
 */
export function movedHosts(grid: Grid, before: readonly Block[], after: readonly Block[], meshes: Iterable<Bounds>): Rect | undefined {
  let rect: Rect | undefined;
  const moved = ({ min, max }: Bounds) => {
    const at = hostRect(grid, min, max);
    if (at) rect = uniteRects(rect, at);
  };
  if (before !== after) {
    const [old, now] = [new Set(before), new Set(after)];
    for (const b of before) if (!now.has(b)) moved(blockBounds(b));
    for (const b of after) if (!old.has(b)) moved(blockBounds(b));
  }
  for (const bounds of meshes) moved(bounds);
  return rect;
}
