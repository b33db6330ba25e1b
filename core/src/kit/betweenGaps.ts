import type { Vec3 } from '../num/vec';

/** A stretch of a seam that is left free: so far to either side of a place beside it, metres. */
export interface Gap {
  at: Vec3;
  half: number;
}

/** A gap farther from a line than this is none of its own, metres in plan. */
const BESIDE = 1;

/** The nearest place of a line to a point: how far along it in plan, and how far off. */
function nearestAlong(points: readonly Vec3[], sums: readonly number[], [x, , z]: Vec3): { along: number; off: number } {
  let best = { along: 0, off: Infinity };
  for (let i = 0; i + 1 < points.length; i++) {
    const [a, b] = [points[i], points[i + 1]];
    const [dx, dz] = [b[0] - a[0], b[2] - a[2]];
    const l2 = dx * dx + dz * dz;
    const t = l2 > 0 ? Math.min(1, Math.max(0, ((x - a[0]) * dx + (z - a[2]) * dz) / l2)) : 0;
    const off = Math.sqrt((a[0] + dx * t - x) ** 2 + (a[2] + dz * t - z) ** 2);
    if (off < best.off) best = { along: sums[i] + Math.sqrt(l2) * t, off };
  }
  return best;
}

/**
 * A line in the stretches that are left of it where doors and the like are kept free.
 *
 * @param places of the line, each different from the one before
 * @returns the line itself where no gap is beside it
 */
export function betweenGaps(places: readonly Vec3[], closed: boolean, gaps: readonly Gap[]): { places: Vec3[]; closed: boolean }[] {
  const points = closed ? [...places, places[0]] : [...places];
  const sums = [0];
  for (let i = 1; i < points.length; i++) sums.push(sums[i - 1] + Math.sqrt((points[i][0] - points[i - 1][0]) ** 2 + (points[i][2] - points[i - 1][2]) ** 2));
  const length = sums[sums.length - 1];
  const free = gaps.flatMap(({ at, half }): [number, number][] => {
    const { along, off } = nearestAlong(points, sums, at);
    if (off > BESIDE) return [];
    const [from, to] = [along - half, along + half];
    if (!closed) return [[from, to]];
    // Over the place where the line closes a gap is two.
    return [[from, to], ...(from < 0 ? [[from + length, length] as [number, number]] : []), ...(to > length ? [[0, to - length] as [number, number]] : [])];
  });
  if (free.length === 0) return [{ places: [...places], closed }];
  free.sort((a, b) => a[0] - b[0]);
  const left: [number, number][] = [];
  let at = 0;
  for (const [from, to] of free) {
    if (from > at) left.push([at, Math.min(from, length)]);
    at = Math.max(at, to);
  }
  if (at < length) left.push([at, length]);
  const cut = left.filter(([from, to]) => to - from > 0.05).map(([from, to]) => between(points, sums, from, to));
  const [first, last] = [left[0], left[left.length - 1]];
  // What ends where the line closes goes on at its beginning.
  if (closed && cut.length > 1 && first[0] === 0 && last[1] === length) {
    const end = cut.pop()!;
    cut[0] = [...end, ...cut[0].slice(1)];
  }
  return cut.map((p) => ({ places: p, closed: false }));
}

function between(points: readonly Vec3[], sums: readonly number[], from: number, to: number): Vec3[] {
  const at = (s: number): Vec3 => {
    let i = 0;
    while (i + 2 < points.length && sums[i + 1] <= s) i++;
    const span = sums[i + 1] - sums[i];
    const t = span > 0 ? (s - sums[i]) / span : 0;
    return [0, 1, 2].map((k) => points[i][k] + (points[i + 1][k] - points[i][k]) * t) as Vec3;
  };
  return [at(from), ...points.filter((_, i) => sums[i] > from + 1e-6 && sums[i] < to - 1e-6), at(to)];
}
