import { sinCosDeg } from '@rammer/core/num/trig';
import type { Vec3 } from '@rammer/core/num/vec';

/** A place and a turning: columns x, y, z and where the origin goes. */
export type Frame = readonly [x: Vec3, y: Vec3, z: Vec3, at: Vec3];

export const HERE: Frame = [
  [1, 0, 0],
  [0, 1, 0],
  [0, 0, 1],
  [0, 0, 0],
];

export const turnBy = ([x, y, z]: Frame, [a, b, c]: Vec3): Vec3 => [
  x[0] * a + y[0] * b + z[0] * c,
  x[1] * a + y[1] * b + z[1] * c,
  x[2] * a + y[2] * b + z[2] * c,
];
export const placeBy = (f: Frame, p: Vec3): Vec3 => {
  const q = turnBy(f, p);
  return [q[0] + f[3][0], q[1] + f[3][1], q[2] + f[3][2]];
};
/** First `b`, then `a`. */
export const after = (a: Frame, b: Frame): Frame => [turnBy(a, b[0]), turnBy(a, b[1]), turnBy(a, b[2]), placeBy(a, b[3])];
export const moved = (x: number, y: number, z: number): Frame => [HERE[0], HERE[1], HERE[2], [x, y, z]];
/** Counter-clockwise seen from the end of the axis, degrees. */
export function turned(axis: 'x' | 'y' | 'z', deg: number): Frame {
  const [s, c] = sinCosDeg(deg);
  const at: Vec3 = [0, 0, 0];
  if (axis === 'x') return [[1, 0, 0], [0, c, s], [0, -s, c], at];
  if (axis === 'y') return [[c, 0, -s], [0, 1, 0], [s, 0, c], at];
  return [[c, s, 0], [-s, c, 0], [0, 0, 1], at];
}
/** Several, the last first. */
export const frames = (...list: Frame[]): Frame => list.reduce(after);
