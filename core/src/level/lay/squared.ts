import type { Vec3 } from '../../num/vec';
import { inPlan, outlineOf } from './outline';

/**
 * Corners moved as little as may be so that every stretch lies along the first one or across it: what is drawn by hand as a house
 * has right angles.
 *
 * @param closed the last stretch leads back to the first corner
 * @returns as many corners, their heights as they were
 */
export function squared(corners: readonly Vec3[], closed: boolean): Vec3[] {
  const { points, ...frame } = outlineOf(corners, true);
  const out = points.map((p): [number, number] => [...p]);
  const count = closed ? points.length : points.length - 1;
  // Ends of a stretch along u have one v, the mean of theirs and of those beyond; of one across, one u.
  for (const axis of [0, 1] as const) {
    const set = points.map((_, i) => i);
    const root = (i: number): number => (set[i] === i ? i : root(set[i]));
    for (let i = 0; i < count; i++) {
      const j = (i + 1) % points.length;
      const along = Math.abs(points[j][0] - points[i][0]) >= Math.abs(points[j][1] - points[i][1]) ? 0 : 1;
      if (along !== axis) set[root(j)] = root(i);
    }
    const sums = new Map<number, [sum: number, n: number]>();
    points.forEach((p, i) => {
      const s = sums.get(root(i)) ?? [0, 0];
      sums.set(root(i), [s[0] + p[axis], s[1] + 1]);
    });
    points.forEach((_, i) => {
      const [sum, n] = sums.get(root(i))!;
      out[i][axis] = sum / n;
    });
  }
  return out.map(([a, b], i) => inPlan({ ...frame, points }, a, b, corners[i][1]));
}
