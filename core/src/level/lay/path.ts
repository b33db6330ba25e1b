import type { Vec3 } from '../../num/vec';
import type { LaidCorner, LaidLine } from '../kinds/laidLine';

/** A way from corner to corner: points of it and how far along it they are in plan, metres. */
export interface Path {
  /** number of the corner it starts at */
  n: number;
  /** y is the height of what it stands on */
  points: Vec3[];
  /** along the plan, from its first point */
  at: number[];
  length: number;
  /** one stretch in plan, so that what is along it is as long as it is apart */
  straight: boolean;
  /** lowest and highest of what it stands on */
  heights: [low: number, high: number];
  /** what a straight one was made from, for the next time */
  of?: { ground?: readonly number[]; from: Vec3; to: Vec3; ends: [number, number] };
}

/** Samples of each stretch of a curve. */
const SAMPLES = 16;

/** Height over a stretch from a corner at a share of it; straight between the two where none was taken. */
function heightAlong(a: LaidCorner, b: LaidCorner, share: number): number {
  if (!a.ground) return a.at[1] + (b.at[1] - a.at[1]) * share;
  const last = a.ground.length - 1;
  const i = Math.min(last - 1, Math.floor(share * last));
  return a.ground[i] + (a.ground[i + 1] - a.ground[i]) * (share * last - i);
}

function pathOf(n: number, points: Vec3[], straight: boolean): Path {
  const at = [0];
  for (let i = 1; i < points.length; i++) {
    const [dx, dz] = [points[i][0] - points[i - 1][0], points[i][2] - points[i - 1][2]];
    at.push(at[i - 1] + Math.sqrt(dx * dx + dz * dz));
  }
  const heights = points.reduce<[number, number]>(([low, high], p) => [Math.min(low, p[1]), Math.max(high, p[1])], [Infinity, -Infinity]);
  return { n, points, at, length: at[at.length - 1], straight, heights };
}

/**
 * The stretch from one corner to the next, as it is laid between two places.
 *
 * @param before the same where it was made from the same the last time: it is taken over
 */
export function straightPath([a, b]: readonly [LaidCorner, LaidCorner], from: Vec3, to: Vec3, before?: Path): Path {
  const of = { ground: a.ground, from, to, ends: [a.at[1], b.at[1]] as [number, number] };
  if (before?.of && sameSource(before.of, of)) return before;
  const steps = a.ground ? a.ground.length - 1 : 1;
  const points = Array.from({ length: steps + 1 }, (_, i): Vec3 => {
    const k = i / steps;
    return [from[0] + (to[0] - from[0]) * k, heightAlong(a, b, k), from[2] + (to[2] - from[2]) * k];
  });
  return { ...pathOf(a.n, points, true), of };
}

function sameSource(a: NonNullable<Path['of']>, b: NonNullable<Path['of']>): boolean {
  const same = (p: readonly number[], q: readonly number[]) => p.length === q.length && p.every((v, i) => v === q[i]);
  return (
    same(a.from, b.from) &&
    same(a.to, b.to) &&
    same(a.ends, b.ends) &&
    (a.ground === b.ground || (a.ground !== undefined && b.ground !== undefined && same(a.ground, b.ground)))
  );
}

/** The whole of a line as one smooth way through its corners (Catmull and Rom 1974). */
export function curvedPath({ corners, closed }: Pick<LaidLine, 'corners' | 'closed'>): Path {
  const count = corners.length;
  const corner = (i: number): LaidCorner => corners[closed ? (i + count) % count : Math.min(count - 1, Math.max(0, i))];
  const points: Vec3[] = [];
  const stretches = closed ? count : count - 1;
  for (let i = 0; i < stretches; i++) {
    const [p, a, b, q] = [corner(i - 1), corner(i), corner(i + 1), corner(i + 2)];
    for (let k = 0; k < SAMPLES + (i === stretches - 1 ? 1 : 0); k++) {
      const t = k / SAMPLES;
      const on = (axis: 0 | 2) => {
        const [u, v, w, x] = [p.at[axis], a.at[axis], b.at[axis], q.at[axis]];
        return 0.5 * (2 * v + (w - u) * t + (2 * u - 5 * v + 4 * w - x) * t * t + (3 * v - u - 3 * w + x) * t * t * t);
      };
      points.push([on(0), heightAlong(a, b, t), on(2)]);
    }
  }
  return pathOf(corners[0].n, points, false);
}

/** The place so far along a path, metres in plan. */
export function pointAlong(path: Path, s: number): Vec3 {
  const i = stretchAt(path, s);
  const span = path.at[i + 1] - path.at[i];
  const k = span > 0 ? (s - path.at[i]) / span : 0;
  const [a, b] = [path.points[i], path.points[i + 1]];
  return [a[0] + (b[0] - a[0]) * k, a[1] + (b[1] - a[1]) * k, a[2] + (b[2] - a[2]) * k];
}

function stretchAt({ at }: Path, s: number): number {
  let [low, high] = [0, at.length - 2];
  while (low < high) {
    const middle = (low + high + 1) >> 1;
    if (at[middle] <= s) low = middle;
    else high = middle - 1;
  }
  return low;
}

/** Lowest and highest of what a path stands on between two places of it. */
export function heightsBetween(path: Path, from: number, to: number): [low: number, high: number] {
  const [a, b] = [pointAlong(path, from)[1], pointAlong(path, to)[1]];
  let [low, high] = [Math.min(a, b), Math.max(a, b)];
  for (let i = stretchAt(path, from) + 1; i < path.at.length && path.at[i] < to; i++) {
    low = Math.min(low, path.points[i][1]);
    high = Math.max(high, path.points[i][1]);
  }
  return [low, high];
}

/**
 * How far along is the first place that lies so far from one of a path, as the crow flies: in plan, or up and down the
 * ground as well. Past the end its last stretch goes on.
 *
 * @param lean counts height
 */
export function reachFrom(path: Path, from: number, metres: number, lean: boolean): number {
  if (path.straight && !lean) return from + metres;
  const [px, py, pz] = pointAlong(path, from);
  const up = lean ? 1 : 0;
  for (let i = stretchAt(path, from); i < path.at.length - 1; i++) {
    const [a, b] = [path.points[i], path.points[i + 1]];
    const [ex, ey, ez] = [b[0] - px, (b[1] - py) * up, b[2] - pz];
    const last = i === path.at.length - 2;
    if (!last && ex * ex + ey * ey + ez * ez < metres * metres) continue;
    // |a + k (b - a) - p| = metres, the larger k.
    const [dx, dy, dz] = [b[0] - a[0], (b[1] - a[1]) * up, b[2] - a[2]];
    const [fx, fy, fz] = [a[0] - px, (a[1] - py) * up, a[2] - pz];
    const [qa, qb, qc] = [dx * dx + dy * dy + dz * dz, fx * dx + fy * dy + fz * dz, fx * fx + fy * fy + fz * fz - metres * metres];
    if (qa === 0) continue;
    const k = (-qb + Math.sqrt(Math.max(0, qb * qb - qa * qc))) / qa;
    return path.at[i] + k * (path.at[i + 1] - path.at[i]);
  }
  return from + metres;
}

/** How far apart two places of a path are, as `reachFrom` has it. */
export function apart(path: Path, from: number, to: number, lean: boolean): number {
  if (path.straight && !lean) return to - from;
  const [a, b] = [pointAlong(path, from), pointAlong(path, to)];
  const [dx, dy, dz] = [b[0] - a[0], lean ? b[1] - a[1] : 0, b[2] - a[2]];
  return Math.sqrt(dx * dx + dy * dy + dz * dz);
}
