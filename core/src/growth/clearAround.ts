import { beginStroke, endStroke, workTile } from '../earth/brush';
import { overTiles, rectAround, uniteRects, type Rect } from '../earth/rect';
import { TILE_QUADS, TILE_SIDE, type Grid, type Tiles } from '../level/tiles';
import type { Point2 } from '../num/outline';
import { drawnOutlines } from './drawnOutlines';

/**
 * Clears what grows of some species inside outlines and so far about them: by what is sown, as a brush that clears does.
 *
 * @param outlines in plan, metres
 * @param margin metres
 * @returns what changes of the rasters `sown`, tile by tile; none where all of it was clear or the outlines lie outside the level
 */
export function clearAround(
  { grid, tiles }: { grid: Grid; tiles: Tiles },
  species: readonly string[],
  outlines: readonly (readonly Point2[])[],
  margin: number,
): ReturnType<typeof endStroke> {
  const reach = Math.max(margin, grid.spacing / 2);
  const drawn = drawnOutlines(outlines, reach + 1e-3);
  let rect: Rect | undefined;
  for (const o of outlines) {
    const own = rectAround([...o], reach, grid);
    if (own) rect = uniteRects(rect, own);
  }
  const stroke = beginStroke('', grid);
  if (!rect) return [];
  overTiles(rect, (tx, tz, part) => {
    const own = species.map((id) => workTile(stroke, tiles, 'sown', [tx, tz], id));
    for (let z = part.z0; z <= part.z1; z++)
      for (let x = part.x0; x <= part.x1; x++) {
        // A sample stands for half a step about it: rather wider than narrower.
        if (drawn.inside(x * grid.spacing, z * grid.spacing) < -reach) continue;
        for (const tile of own) tile[(z - tz * TILE_QUADS) * TILE_SIDE + x - tx * TILE_QUADS] = -1024;
      }
  });
  return endStroke(stroke);
}
