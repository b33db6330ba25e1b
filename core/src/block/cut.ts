import type { Vec3 } from '../num/vec';
import type { Solid } from './solid';

/** A vertical plane through (x0, z0) along the unit direction (dx, dz). */
export interface CutLine {
  x0: number;
  z0: number;
  dx: number;
  dz: number;
}

/**
 * Cuts a convex solid with a vertical plane.
 *
 * @returns the cut's outline as [distance along the line, height] pairs in order around it, or an
 * empty list where the plane misses
 */
export function cutSolid(solid: Solid, line: CutLine): [along: number, height: number][] {
  const side = (p: Vec3) => (p[0] - line.x0) * -line.dz + (p[2] - line.z0) * line.dx;
  const along = (p: Vec3) => (p[0] - line.x0) * line.dx + (p[2] - line.z0) * line.dz;
  const points: [number, number][] = [];
  const seen = new Set<string>();
  for (const { corners } of solid.faces) {
    for (let i = 0; i < corners.length; i++) {
      const ia = corners[i];
      const ib = corners[(i + 1) % corners.length];
      const key = ia < ib ? `${ia},${ib}` : `${ib},${ia}`;
      if (seen.has(key)) continue;
      seen.add(key);
      const a = solid.corners[ia];
      const b = solid.corners[ib];
      const sa = side(a);
      const sb = side(b);
      if (sa === sb || sa > 0 === sb > 0) continue;
      const t = sa / (sa - sb);
      points.push([along(a) + (along(b) - along(a)) * t, a[1] + (b[1] - a[1]) * t]);
    }
  }
  return convexOrder(points);
}

/** Orders points of a convex outline around it (Andrew's monotone chain). */
function convexOrder(points: [number, number][]): [number, number][] {
  if (points.length < 3) return [];
  const sorted = [...points].sort((a, b) => a[0] - b[0] || a[1] - b[1]);
  const turn = (o: [number, number], a: [number, number], b: [number, number]) => (a[0] - o[0]) * (b[1] - o[1]) - (a[1] - o[1]) * (b[0] - o[0]);
  const half = (list: [number, number][]) => {
    const chain: [number, number][] = [];
    for (const p of list) {
      while (chain.length >= 2 && turn(chain[chain.length - 2], chain[chain.length - 1], p) <= 1e-12) chain.pop();
      chain.push(p);
    }
    chain.pop();
    return chain;
  };
  const hull = [...half(sorted), ...half(sorted.reverse())];
  return hull.length >= 3 ? hull : [];
}
