import { atan2Deg, sinCosDeg } from './trig';
import type { Vec3 } from './vec';

/** A rotation: a unit quaternion x, y, z, w, as glTF has it. */
export type Quaternion = [x: number, y: number, z: number, w: number];

/**
 * Where something stands, how it is turned and how large it is. A point of its own axes is scaled, then tilted, then
 * turned, then moved to `at`.
 */
export interface Pose {
  /** metres */
  at: Vec3;
  /** degrees about Y, counter-clockwise seen from above */
  turn: number;
  /** how it lies before it is turned; upright where absent. Need not be of unit length: its direction is what counts */
  tilt?: Quaternion;
  /** along its own x, y and z; its own size where absent */
  scale?: Vec3;
}

type Place = Pick<Pose, 'at' | 'turn' | 'tilt'>;

/** Columns of a rotation: where it takes x, y and z. */
export type Axes = readonly [x: Vec3, y: Vec3, z: Vec3];

/** A turn about Y as a rotation. @param deg degrees */
export function turnRotation(deg: number): Quaternion {
  const [s, c] = sinCosDeg(deg / 2);
  return [0, s, 0, c];
}

/** A rotation about an axis. @param axis of unit length @param deg degrees, counter-clockwise seen against the axis */
export function axisRotation(axis: Vec3, deg: number): Quaternion {
  const [s, c] = sinCosDeg(deg / 2);
  return [axis[0] * s, axis[1] * s, axis[2] * s, c];
}

/** One rotation after another: `a` after `b`. */
export const timesRotation = ([ax, ay, az, aw]: Quaternion, [bx, by, bz, bw]: Quaternion): Quaternion => [
  aw * bx + ax * bw + ay * bz - az * by,
  aw * by - ax * bz + ay * bw + az * bx,
  aw * bz + ax * by - ay * bx + az * bw,
  aw * bw - ax * bx - ay * by - az * bz,
];

/** The turn back. @param rotation a unit quaternion */
export const inverseRotation = ([x, y, z, w]: Quaternion): Quaternion => [-x, -y, -z, w];

/** The same rotation of unit length, its first part that is not nothing of w, y, x, z positive. */
export function unitRotation(q: Quaternion): Quaternion {
  const l = Math.sqrt(q[0] * q[0] + q[1] * q[1] + q[2] * q[2] + q[3] * q[3]);
  const lead = [q[3], q[1], q[0], q[2]].find((v) => Math.abs(v) > 1e-12 * l) ?? 1;
  const k = (lead < 0 ? -1 : 1) / (l || 1);
  return [q[0] * k + 0, q[1] * k + 0, q[2] * k + 0, q[3] * k + 0];
}

/** The whole rotation of a pose, of unit length. */
export const rotationOf = ({ turn, tilt }: Pick<Pose, 'turn' | 'tilt'>): Quaternion =>
  tilt ? unitRotation(timesRotation(turnRotation(turn), unitRotation(tilt))) : turnRotation(turn);

/** Where a rotation takes the axes. Its length does not matter. */
export function rotationAxes([x, y, z, w]: Quaternion): Axes {
  const k = 2 / (x * x + y * y + z * z + w * w);
  const [xx, yy, zz] = [x * x * k, y * y * k, z * z * k];
  const [xy, xz, yz] = [x * y * k, x * z * k, y * z * k];
  const [wx, wy, wz] = [w * x * k, w * y * k, w * z * k];
  return [
    [1 - yy - zz, xy + wz, xz - wy],
    [xy - wz, 1 - xx - zz, yz + wx],
    [xz + wy, yz - wx, 1 - xx - yy],
  ];
}

/** The axes of what stands at a pose, in the level; unit length. */
export function poseAxes({ turn, tilt }: Pick<Pose, 'turn' | 'tilt'>): Axes {
  const [s, c] = sinCosDeg(turn);
  if (!tilt)
    return [
      [c, 0, -s],
      [0, 1, 0],
      [s, 0, c],
    ];
  const turned = ([x, y, z]: Vec3): Vec3 => [c * x + s * z, y, -s * x + c * z];
  const [x, y, z] = rotationAxes(tilt);
  return [turned(x), turned(y), turned(z)];
}

/**
 * How points of a pose's own axes lie in the level.
 *
 * @returns a function of x, y, z, metres, of the thing's own size
 *
 * @example
 * const place = placer({ at: [10, 2, 5], turn: 90 });
 * place(1, 0, 0); // [10, 2, 4]: x looks north after a quarter turn
 */
export function placer({ at, turn, tilt, scale = [1, 1, 1] }: Pose): (x: number, y: number, z: number) => Vec3 {
  const [sx, sy, sz] = scale;
  if (!tilt) {
    const [s, c] = sinCosDeg(turn);
    return (x, y, z) => [at[0] + c * x * sx + s * z * sz, at[1] + y * sy, at[2] - s * x * sx + c * z * sz];
  }
  const [ax, ay, az] = poseAxes({ turn, tilt });
  return (x, y, z) => {
    const [u, v, w] = [x * sx, y * sy, z * sz];
    return [at[0] + ax[0] * u + ay[0] * v + az[0] * w, at[1] + ax[1] * u + ay[1] * v + az[1] * w, at[2] + ax[2] * u + ay[2] * v + az[2] * w];
  };
}

/** A point of the level in the axes of what stands at a pose, before its scale. */
export function toOwn({ at, turn, tilt }: Place, p: Vec3): Vec3 {
  const [dx, dy, dz] = [p[0] - at[0], p[1] - at[1], p[2] - at[2]];
  if (!tilt) {
    const [s, c] = sinCosDeg(turn);
    return [c * dx - s * dz, dy, s * dx + c * dz];
  }
  const [x, y, z] = poseAxes({ turn, tilt });
  return [x[0] * dx + x[1] * dy + x[2] * dz, y[0] * dx + y[1] * dy + y[2] * dz, z[0] * dx + z[1] * dy + z[2] * dz];
}

/** The same span of degrees as the document's: -180 to 180. */
export const wrapDeg = (deg: number): number => ((((deg + 180) % 360) + 360) % 360) - 180;

/** A rotation that turns no upright thing out of the upright: its axis is Y, within 0.00001 degrees. */
const isUpright = ([x, , z]: Quaternion): boolean => Math.abs(x) < 1e-7 && Math.abs(z) < 1e-7;

/** To a billionth: what is kept in documents, and far finer than can be seen. */
const fine = (v: number): number => Math.round(v * 1e9) / 1e9 + 0;

/**
 * A rotation as turn and tilt, where the tilt's axis is level: the turn is where it looks to, the tilt how it lies. What
 * stands on its head has no heading; its turn is 0.
 */
export function splitRotation(q: Quaternion): Pick<Pose, 'turn' | 'tilt'> {
  const u = unitRotation(q);
  const turn = wrapDeg(2 * atan2Deg(u[1], u[3]));
  const [x, , z, w] = unitRotation(timesRotation(inverseRotation(turnRotation(turn)), u));
  return isUpright([x, 0, z, w]) ? { turn } : { turn, tilt: [fine(x), 0, fine(z), fine(w)] };
}

/**
 * A tilt as two angles, about its own x and z, degrees: a single tilt about one of them is just that angle. Those of any
 * other tilt are the parts of its axis times its angle.
 */
export function tiltAngles(tilt: Quaternion | undefined): [x: number, z: number] {
  if (!tilt) return [0, 0];
  const [x, , z, w] = unitRotation(tilt);
  const s = Math.sqrt(x * x + z * z);
  if (s < 1e-12) return [0, 0];
  const deg = 2 * atan2Deg(s, w);
  return [(x / s) * deg, (z / s) * deg];
}

/** The tilt of two angles, see `tiltAngles`; `undefined` upright. */
export function tiltOf(x: number, z: number): Quaternion | undefined {
  const deg = Math.sqrt(x * x + z * z);
  if (deg < 1e-6) return undefined;
  const [qx, , qz, w] = axisRotation([x / deg, 0, z / deg], deg);
  return [fine(qx), 0, fine(qz), fine(w)];
}

/**
 * A pose rotated about an axis of the level through its own place. About Y only its turn changes.
 *
 * @param axis of unit length
 */
export function rotatedAbout({ turn, tilt }: Pick<Pose, 'turn' | 'tilt'>, axis: Vec3, deg: number): Pick<Pose, 'turn' | 'tilt'> {
  if (axis[0] === 0 && axis[2] === 0) return { turn: wrapDeg(turn + deg * axis[1]), ...(tilt ? { tilt } : {}) };
  return splitRotation(timesRotation(axisRotation(axis, deg), rotationOf({ turn, tilt })));
}

/**
 * The pose in the level of what stands at a pose of another's own axes.
 *
 * Where the outer is scaled unevenly and the inner is askew to its axes a shear would come out, which no pose has: the
 * inner's axes then keep their right angles and take the length each would have.
 *
 * @example
 * composed({ at: [10, 0, 0], turn: 90 }, { at: [1, 0, 0], turn: 0 }); // { at: [10, 0, -1], turn: 90 }
 */
export function composed(outer: Pose, inner: Pose): Pose {
  const at = placer(outer)(inner.at[0], inner.at[1], inner.at[2]);
  const turn = wrapDeg(inner.turn + outer.turn);
  // Ry(a) A Ry(b) B = Ry(a + b) (Ry(-b) A Ry(b)) B.
  let { tilt } = inner;
  if (outer.tilt) {
    const back = turnRotation(inner.turn);
    const lain = timesRotation(timesRotation(inverseRotation(back), unitRotation(outer.tilt)), back);
    tilt = unitRotation(tilt ? timesRotation(lain, unitRotation(tilt)) : lain);
  }
  const scale = composedScale(outer.scale, inner);
  return { at, turn, ...(tilt ? { tilt } : {}), ...(scale ? { scale } : {}) };
}

function composedScale(by: Vec3 | undefined, inner: Pose): Vec3 | undefined {
  if (!by) return inner.scale;
  const own = inner.scale ?? [1, 1, 1];
  if (by[0] === by[1] && by[1] === by[2]) return [own[0] * by[0], own[1] * by[0], own[2] * by[0]];
  return poseAxes(inner).map((axis, k) => own[k] * Math.sqrt((axis[0] * by[0]) ** 2 + (axis[1] * by[1]) ** 2 + (axis[2] * by[2]) ** 2)) as Vec3;
}

/**
 * The pose that `inner` has in the axes of `outer`: `composed(outer, relative(outer, inner))` is `inner`, where the outer
 * is not scaled unevenly.
 */
export function relative(outer: Pose, inner: Pose): Pose {
  const own = toOwn(outer, inner.at);
  const by = outer.scale ?? [1, 1, 1];
  const at: Vec3 = [own[0] / by[0], own[1] / by[1], own[2] / by[2]];
  const upright = !outer.tilt;
  const rotation = upright
    ? { turn: wrapDeg(inner.turn - outer.turn), ...(inner.tilt ? { tilt: inner.tilt } : {}) }
    : splitRotation(timesRotation(inverseRotation(rotationOf(outer)), rotationOf(inner)));
  const scale = outer.scale ? ([0, 1, 2].map((k) => (inner.scale?.[k] ?? 1) / by[k]) as Vec3) : inner.scale;
  return { at, ...rotation, ...(scale && scale.some((s) => Math.abs(s - 1) > 1e-9) ? { scale } : {}) };
}
