import type { Bounds } from '../block/solid';
import { uniteRects, type Rect } from '../earth/rect';
import type { Grid } from '../level/tiles';
import { hostRect } from './tops';

/** Samples over which a top came, went or moved. @param moved where hosts were or are now, see block/grid and kit/placedScene */
export function movedHosts(grid: Grid, moved: Iterable<Bounds>): Rect | undefined {
  let rect: Rect | undefined;
  for (const { min, max } of moved) {
    const at = hostRect(grid, min, max);
    if (at) rect = uniteRects(rect, at);
  }
  return rect;
}
