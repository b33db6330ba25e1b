import type { Lift, LiftMask } from '../level/objects';
import type { Grid, Tiles } from '../level/tiles';
import type { Point2 } from '../num/outline';
import { slopeDeg } from '../num/trig';
import { smoothstep } from '../num/vec';
import type { Window } from './lifts/pass';
import type { Rect } from './rect';
import { outlineRow, stretchesOf } from './stretches';
import { rasterReader, weatherMarks } from './weather/marks';

/** Share inside a band of values, 0 to 1, with an edge `soft` wide about either end. */
export function bandShare([low, high]: readonly [number, number], soft: number, value: number): number {
  if (soft <= 0) return value >= low && value <= high ? 1 : 0;
  return smoothstep(low - soft / 2, low + soft / 2, value) * (1 - smoothstep(high - soft / 2, high + soft / 2, value));
}

/** Whether a mask looks at the ground's neighbours. */
export const looksAround = (mask: LiftMask | undefined): boolean => mask?.slope !== undefined;

/**
 * Makes a mask ready: writes the share of each sample of a part, 0 to 1, laid out as the window.
 * Slope, height and weathering are those of the ground below the lift.
 *
 * @param below the lifts under it
 */
export function maskOf(mask: LiftMask, grid: Grid, tiles: Tiles, below: readonly Lift[]): (window: Window, part: Rect, out: Float32Array) => void {
  const { outline, slope, height, weathering, painted } = mask;
  const marked = weathering && weatherMarks(below, tiles, grid, weathering.mark);
  const paint = painted === undefined ? undefined : rasterReader(tiles, grid, painted, 'paint');
  const sides = outline && stretchesOf(outline.line as Point2[], true, Math.max(outline.soft / 2, 0.001));
  const row = new Float64Array(grid.nx);
  return (window, part, out) => {
    const count = part.x1 - part.x0 + 1;
    for (let z = part.z0; z <= part.z1; z++) {
      if (outline) outlineRow(outline.line as Point2[], sides!, { z: z * grid.spacing, x0: part.x0, count, spacing: grid.spacing }, row);
      let i = (z - window.z0) * window.w + part.x0 - window.x0;
      for (let k = 0; k < count; k++, i++) {
        let share = 1;
        if (outline) share = outline.soft <= 0 ? (row[k] >= 0 ? 1 : 0) : smoothstep(-outline.soft / 2, outline.soft / 2, row[k]);
        if (height && share > 0) share *= bandShare(height.band, height.soft, window.heights[i]);
        if (marked && share > 0) share *= bandShare(weathering!.band, weathering!.soft, marked(part.x0 + k, z));
        if (paint && share > 0) share *= Math.min(1, paint(part.x0 + k, z));
        if (slope && share > 0) share *= bandShare(slope.band, slope.soft, slopeIn(window, part.x0 + k, z, grid.spacing));
        out[i] = share;
      }
    }
  };
}

/** Slope of the window's ground at a sample, degrees, by central differences; one-sided at its rim. */
function slopeIn(window: Window, x: number, z: number, spacing: number): number {
  const { heights: h, w } = window;
  const [xa, xb] = [Math.max(window.x0, x - 1), Math.min(window.x1, x + 1)];
  const [za, zb] = [Math.max(window.z0, z - 1), Math.min(window.z1, z + 1)];
  const at = (sx: number, sz: number) => h[(sz - window.z0) * w + sx - window.x0];
  const gx = (at(xb, z) - at(xa, z)) / ((xb - xa) * spacing);
  const gz = (at(x, zb) - at(x, za)) / ((zb - za) * spacing);
  return slopeDeg(Math.sqrt(gx * gx + gz * gz));
}
