import { insideOutline, type Point2 } from '../../num/outline';
import type { Vec3 } from '../../num/vec';

/** An outline in plan in axes of its own: u along its first stretch, v inwards from it; the first corner is 0, 0. */
export interface Outline {
  origin: Vec3;
  u: Point2;
  v: Point2;
  points: Point2[];
  /** all its angles are right ones */
  square: boolean;
}

/** A part of an outline with sides along u and v. */
export interface Rectangle {
  u: [number, number];
  v: [number, number];
}

/** @param counter runs counter-clockwise seen from above, so that its inside is left of its way */
export function outlineOf(corners: readonly Vec3[], counter: boolean): Outline {
  const [o] = corners;
  // Corners may lie on each other: the first stretch that has a length is meant, and east where none has.
  const next = corners.find((c) => Math.abs(c[0] - o[0]) + Math.abs(c[2] - o[2]) > 1e-6) ?? [o[0] + 1, 0, o[2]];
  const [dx, dz] = [next[0] - o[0], next[2] - o[2]];
  const l = Math.sqrt(dx * dx + dz * dz);
  const u: Point2 = [dx / l, dz / l];
  // Left of east is north, which is -z.
  const v: Point2 = counter ? [u[1], -u[0]] : [-u[1], u[0]];
  const points = corners.map((c): Point2 => {
    const [ex, ez] = [c[0] - o[0], c[2] - o[2]];
    return [clean(ex * u[0] + ez * u[1]), clean(ex * v[0] + ez * v[1])];
  });
  const square = points.every((p, i) => {
    const q = points[(i + 1) % points.length];
    return Math.abs(p[0] - q[0]) < 1e-3 || Math.abs(p[1] - q[1]) < 1e-3;
  });
  return { origin: o, u, v, points, square };
}

const clean = (v: number): number => Math.round(v * 1e6) / 1e6 + 0;

/** A place of an outline's own axes in those of its corners. */
export const inPlan = ({ origin, u, v }: Outline, a: number, b: number, y: number): Vec3 => [
  origin[0] + u[0] * a + v[0] * b,
  y,
  origin[2] + u[1] * a + v[1] * b,
];

/** Whether a place lies in an outline. */
export const holds = ({ points }: Outline, a: number, b: number): boolean => insideOutline([a, b], points);

/** Its corners moved so that each stretch is whole times a pitch long; of one that is not square, each by itself from the first. */
export function onPitch(corners: readonly Vec3[], closed: boolean, counter: boolean, pitch: number): Vec3[] {
  if (closed) {
    const outline = outlineOf(corners, counter);
    if (outline.square) {
      const whole = (x: number) => Math.round(x / pitch) * pitch;
      return outline.points.map(([a, b], i) => inPlan(outline, whole(a), whole(b), corners[i][1]));
    }
  }
  const out: Vec3[] = [corners[0]];
  for (let i = 1; i < corners.length; i++) {
    const [dx, dz] = [corners[i][0] - corners[i - 1][0], corners[i][2] - corners[i - 1][2]];
    const l = Math.sqrt(dx * dx + dz * dz);
    const k = l > 0 ? (Math.max(1, Math.round(l / pitch)) * pitch) / l : 0;
    const last = out[i - 1];
    out.push([last[0] + dx * k, corners[i][1], last[2] + dz * k]);
  }
  return out;
}

/** A square outline as rectangles, the largest first; those after it lie beside earlier ones. */
export function rectangles(outline: Outline): Rectangle[] {
  const cuts = (k: 0 | 1) => [...new Set(outline.points.map((p) => p[k]))].sort((a, b) => a - b).filter((x, i, all) => i === 0 || x - all[i - 1] > 1e-3);
  const [us, vs] = [cuts(0), cuts(1)];
  const free = us.slice(1).map((u, i) => vs.slice(1).map((v, j) => holds(outline, (us[i] + u) / 2, (vs[j] + v) / 2)));
  const out: Rectangle[] = [];
  for (;;) {
    let best: { area: number; at: [number, number, number, number] } | undefined;
    for (let i = 0; i < free.length; i++)
      for (let j = 0; j < free[i].length; j++)
        for (let k = i + 1; k <= free.length; k++)
          for (let l = j + 1; l <= free[i].length; l++) {
            const area = (us[k] - us[i]) * (vs[l] - vs[j]);
            if ((best && area <= best.area + 1e-9) || !allFree(free, i, k, j, l)) continue;
            best = { area, at: [i, k, j, l] };
          }
    if (!best) return out;
    const [i, k, j, l] = best.at;
    for (let a = i; a < k; a++) for (let b = j; b < l; b++) free[a][b] = false;
    out.push({ u: [us[i], us[k]], v: [vs[j], vs[l]] });
  }
}

const allFree = (free: boolean[][], ...[i, k, j, l]: [number, number, number, number]): boolean => {
  for (let a = i; a < k; a++) for (let b = j; b < l; b++) if (!free[a][b]) return false;
  return true;
};
