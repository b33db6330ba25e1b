import type { Point2 } from './outline';

/**
 * Convex hull of points, the corner with the least x first, without points on its sides; fewer than
 * three points where they span no area. Andrew's monotone chain.
 */
export function hull(points: readonly Point2[]): Point2[] {
  const sorted = [...points].sort((a, b) => a[0] - b[0] || a[1] - b[1]);
  const chain = (list: readonly Point2[]): Point2[] => {
    const out: Point2[] = [];
    for (const p of list) {
      while (out.length > 1 && turn(out[out.length - 2], out[out.length - 1], p) <= 0) out.pop();
      out.push(p);
    }
    out.pop();
    return out;
  };
  return [...chain(sorted), ...chain([...sorted].reverse())];
}

const turn = (a: Point2, b: Point2, p: Point2): number => (b[0] - a[0]) * (p[1] - a[1]) - (b[1] - a[1]) * (p[0] - a[0]);
