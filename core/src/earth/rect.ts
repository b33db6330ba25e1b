import { ownedRange, ownerTile, type Grid } from '../level/tiles';

/** A rectangle of samples, inclusive on all sides. */
export interface Rect {
  x0: number;
  z0: number;
  x1: number;
  z1: number;
}

/** The smallest rectangle that holds both; one alone where the other is not there. */
export const uniteRects = (a: Rect | undefined, b: Rect): Rect =>
  a ? { x0: Math.min(a.x0, b.x0), z0: Math.min(a.z0, b.z0), x1: Math.max(a.x1, b.x1), z1: Math.max(a.z1, b.z1) } : b;

/** All samples of a grid. */
export const wholeRect = (grid: Grid): Rect => ({ x0: 0, z0: 0, x1: grid.nx - 1, z1: grid.nz - 1 });

/** How many samples a rectangle holds. */
export const samplesIn = ({ x0, z0, x1, z1 }: Rect): number => (x1 - x0 + 1) * (z1 - z0 + 1);

/** What two rectangles share, or `undefined`. */
export function sharedRect(a: Rect, b: Rect): Rect | undefined {
  const r = { x0: Math.max(a.x0, b.x0), z0: Math.max(a.z0, b.z0), x1: Math.min(a.x1, b.x1), z1: Math.min(a.z1, b.z1) };
  return r.x0 > r.x1 || r.z0 > r.z1 ? undefined : r;
}

/** Grown by `by` samples on every side, inside the level. */
export const grownRect = (rect: Rect, by: number, grid: Grid): Rect => ({
  x0: Math.max(0, rect.x0 - by),
  z0: Math.max(0, rect.z0 - by),
  x1: Math.min(grid.nx - 1, rect.x1 + by),
  z1: Math.min(grid.nz - 1, rect.z1 + by),
});

/** Samples within `reach` metres of the bounds of some points in plan, or `undefined` outside the level. */
export function rectAround(points: readonly (readonly [number, number])[], reach: number, grid: Grid): Rect | undefined {
  let [x0, z0, x1, z1] = [Infinity, Infinity, -Infinity, -Infinity];
  for (const [x, z] of points) {
    x0 = Math.min(x0, x);
    z0 = Math.min(z0, z);
    x1 = Math.max(x1, x);
    z1 = Math.max(z1, z);
  }
  const rect = {
    x0: Math.ceil((x0 - reach) / grid.spacing),
    z0: Math.ceil((z0 - reach) / grid.spacing),
    x1: Math.floor((x1 + reach) / grid.spacing),
    z1: Math.floor((z1 + reach) / grid.spacing),
  };
  return sharedRect(rect, wholeRect(grid));
}

/** Calls `each` for every tile that owns samples of a rectangle, with those samples. */
export function overTiles(rect: Rect, each: (tx: number, tz: number, part: Rect) => void): void {
  for (let tz = ownerTile(rect.z0); tz <= ownerTile(rect.z1); tz++) {
    const rows = ownedRange(tz);
    for (let tx = ownerTile(rect.x0); tx <= ownerTile(rect.x1); tx++) {
      const cols = ownedRange(tx);
      each(tx, tz, {
        x0: Math.max(rect.x0, cols.first),
        z0: Math.max(rect.z0, rows.first),
        x1: Math.min(rect.x1, cols.last),
        z1: Math.min(rect.z1, rows.last),
      });
    }
  }
}
