import type { Join, Part } from '@rammer/core/level/objects';
import { atan2Deg } from '@rammer/core/num/trig';
import type { Vec3 } from '@rammer/core/num/vec';

export type Project = (p: Vec3) => [number, number];

/** Steps a join is dragged by, metres, and turned by, degrees. */
const STEP = 0.05;
const TURN = 15;
/** So near to a side or the middle of the part's box it takes that, metres. */
const NEAR = 0.06;

/**
 * How far a place goes in a part's own axes when it is dragged over its picture.
 *
 * @param by pixels
 * @param up upright alone, else level alone
 * @returns metres; nothing where the picture does not show that way
 */
export function draggedBy(project: Project, at: Vec3, by: readonly [number, number], up: boolean): Vec3 {
  const [x0, y0] = project(at);
  const along = (axis: number): [number, number] => {
    const [x, y] = project(at.map((v, k) => v + (k === axis ? 0.01 : 0)) as Vec3);
    return [(x - x0) / 0.01, (y - y0) / 0.01];
  };
  if (up) {
    const [, v] = along(1);
    return [0, Math.abs(v) < 1 ? 0 : by[1] / v, 0];
  }
  const [a, b] = [along(0), along(2)];
  const det = a[0] * b[1] - a[1] * b[0];
  // Looked at from the side: the level plane is a line.
  if (Math.abs(det) < 1) return [0, 0, 0];
  return [(by[0] * b[1] - by[1] * b[0]) / det, 0, (by[1] * a[0] - by[0] * a[1]) / det];
}

/** A place as a drag leaves it: on a side or the middle of the part's box that is near, else in steps. */
export function snapped({ box: [low, high] }: Pick<Part, 'box'>, at: Vec3): Vec3 {
  return at.map((v, k) => {
    const near = [low[k], high[k], (low[k] + high[k]) / 2, 0].find((side) => Math.abs(side - v) < NEAR);
    return near ?? Math.round(v / STEP) * STEP;
  }) as Vec3;
}

/** The way a join looks whose arrow was dragged to somewhere, in steps unless it is to be exact. */
export function turnedTo({ at }: Pick<Join, 'at'>, to: Vec3, exact: boolean): number {
  const deg = atan2Deg(-(to[2] - at[2]), to[0] - at[0]);
  return exact ? Math.round(deg * 10) / 10 : Math.round(deg / TURN) * TURN + 0;
}
