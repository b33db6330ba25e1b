import { beginStroke, endStroke, workTile } from '../earth/brush';
import { TILE_QUADS, TILE_SIDE, type Grid, type Tiles } from '../level/tiles';
import { clamp } from '../num/vec';

/** A picture of how much of a habitat there is: one byte a pixel, 0 none and 255 all, row by row, the top row in the north. */
export interface GreyPicture {
  width: number;
  height: number;
  grey: Uint8Array;
}

/** A picture may be so much wider or higher for its other side than the level is. */
const OFF = 0.02;

/**
 * A habitat painted as a picture has it, over the whole level: bright is of it, dark is not, with what lies between pixels mixed.
 *
 * @returns what changes of its raster `area`, tile by tile; or in words what is wrong where the picture is of another shape than the level
 */
export function areaOfPicture(picture: GreyPicture, grid: Grid, tiles: Tiles, habitat: string): ReturnType<typeof endStroke> | string {
  const { width: w, height: h, grey } = picture;
  const off = (w / h) * (grid.depth / grid.width) - 1;
  if (Math.abs(off) > OFF) {
    // The largest part of it that has the level's shape.
    const wanted = off > 0 ? `${Math.round((h * grid.width) / grid.depth)} x ${h}` : `${w} x ${Math.round((w * grid.depth) / grid.width)}`;
    return `the picture is ${w} x ${h} pixels, the level ${grid.width} x ${grid.depth} m: crop it to ${wanted}, so that it lies over the whole level`;
  }
  const at = (x: number, y: number) => grey[clamp(y, 0, h - 1) * w + clamp(x, 0, w - 1)];
  const stroke = beginStroke('', grid);
  for (let tz = 0; tz < grid.tilesZ; tz++) {
    for (let tx = 0; tx < grid.tilesX; tx++) {
      const tile = workTile(stroke, tiles, 'area', [tx, tz], habitat);
      // Edges that two tiles share are of the lower one alone.
      for (let z = tz === 0 ? 0 : 1; z <= TILE_QUADS; z++) {
        for (let x = tx === 0 ? 0 : 1; x <= TILE_QUADS; x++) {
          const px = ((tx * TILE_QUADS + x) / (grid.nx - 1)) * w - 0.5;
          const py = ((tz * TILE_QUADS + z) / (grid.nz - 1)) * h - 0.5;
          const [x0, y0] = [Math.floor(px), Math.floor(py)];
          const [fx, fy] = [px - x0, py - y0];
          const top = at(x0, y0) * (1 - fx) + at(x0 + 1, y0) * fx;
          const low = at(x0, y0 + 1) * (1 - fx) + at(x0 + 1, y0 + 1) * fx;
          tile[z * TILE_SIDE + x] = Math.round(((top * (1 - fy) + low * fy) / 255) * 1024);
        }
      }
    }
  }
  return endStroke(stroke);
}
