import type { Vec3 } from './vec';

/**
 * Visits the cells of a square grid in plan that a ray passes, nearest first.
 *
 * @param d unit length
 * @param far metres along the ray
 * @param side of a cell, metres
 * @param visit told the cell and the distance at which the ray leaves it; true ends the walk
 *
 * Amanatides and Woo: the next border along x or along z, whichever comes first.
 */
export function cellsAlong(o: Vec3, d: Vec3, far: number, side: number, visit: (cx: number, cz: number, leaves: number) => boolean): void {
  let [cx, cz] = [Math.floor(o[0] / side), Math.floor(o[2] / side)];
  const [sx, sz] = [d[0] > 0 ? 1 : -1, d[2] > 0 ? 1 : -1];
  const border = (from: number, c: number, s: number, along: number) => (along === 0 ? Infinity : ((c + (s > 0 ? 1 : 0)) * side - from) / along);
  for (;;) {
    const [tx, tz] = [border(o[0], cx, sx, d[0]), border(o[2], cz, sz, d[2])];
    const leaves = Math.min(tx, tz);
    if (visit(cx, cz, leaves) || leaves >= far) return;
    if (tx <= tz) cx += sx;
    else cz += sz;
  }
}
