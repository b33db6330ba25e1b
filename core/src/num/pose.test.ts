import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  axisRotation,
  composed,
  inverseRotation,
  placer,
  poseAxes,
  relative,
  rotatedAbout,
  rotationAxes,
  rotationOf,
  splitRotation,
  tiltAngles,
  tiltOf,
  timesRotation,
  toOwn,
  unitRotation,
  type Pose,
  type Quaternion,
} from './pose';
import { cross, dot, length, type Vec3 } from './vec';

/** Spread evenly: doubles of fast-check are mostly next to nothing, and turn nothing. */
const number = (min: number, max: number) => fc.integer({ min: 0, max: 1_000_000 }).map((n) => min + ((max - min) * n) / 1e6);
const coordinate = number(-500, 500);
const point = fc.tuple(coordinate, coordinate, coordinate);
const axis = fc
  .tuple(number(-1, 1), number(-1, 1), number(-1, 1))
  .filter((v) => length(v) > 0.1)
  .map((v) => v.map((x) => x / length(v)) as Vec3);
const rotation = fc.tuple(axis, number(-180, 180)).map(([a, deg]) => axisRotation(a, deg));
const deg = number(-180, 180);
const size = number(0.1, 10);
const pose = fc
  .record({ at: point, turn: deg, tilt: fc.option(rotation, { nil: undefined }) })
  .map(({ tilt, ...p }): Pose => ({ ...p, ...(tilt ? { tilt } : {}) }));

const near = (a: readonly number[], b: readonly number[], within: number) =>
  a.forEach((v, k) => expect(Math.abs(v - b[k]), `${a} and ${b}`).toBeLessThan(within));
/** A point turned by a quaternion as the sandwich product has it. */
const turned = (q: Quaternion, p: Vec3): Vec3 => timesRotation(timesRotation(q, [...p, 0]), inverseRotation(q)).slice(0, 3) as Vec3;

describe('a pose', () => {
  it('places points: a quarter turn, a quarter tilt, worked by hand', () => {
    near(placer({ at: [10, 2, 5], turn: 90 })(1, 0, 0), [10, 2, 4], 1e-12);
    // Tilted about its own x by a quarter, up goes to south (z); then turned by a quarter, south goes to east.
    const tilt = tiltOf(90, 0);
    near(placer({ at: [0, 0, 0], turn: 0, tilt })(0, 1, 0), [0, 0, 1], 1e-8);
    near(placer({ at: [0, 0, 0], turn: 90, tilt })(0, 1, 0), [1, 0, 0], 1e-8);
    near(placer({ at: [0, 0, 0], turn: 0, tilt, scale: [1, 3, 1] })(0, 1, 0), [0, 0, 3], 1e-8);
    expect(tiltAngles(tilt).map((v) => Math.round(v * 1e6) / 1e6)).toEqual([90, 0]);
    expect(tiltOf(0, 0)).toBeUndefined();
  });

  it('has the bits of a plain turn where nothing is tilted', () => {
    expect(poseAxes({ turn: 37 })).toEqual(
      [placer({ at: [0, 0, 0], turn: 37 })(1, 0, 0), [0, 1, 0], placer({ at: [0, 0, 0], turn: 37 })(0, 0, 1)].map((v) => v.map((x) => expect.closeTo(x, 15))),
    );
    expect(composed({ at: [1, 2, 3], turn: 170 }, { at: [0, 0, 0], turn: 30 })).toEqual({ at: [1, 2, 3], turn: -160 });
  });

  it('agrees with the sandwich product, keeps lengths and right angles, and comes back', () => {
    fc.assert(
      fc.property(pose, point, (p, q) => {
        const whole = rotationOf(p);
        near(
          placer(p)(...q),
          turned(whole, q).map((v, k) => v + p.at[k]),
          1e-9,
        );
        near(toOwn(p, placer(p)(...q)), q, 1e-9);
        const [x, y, z] = poseAxes(p);
        near([length(x), length(y), length(z), dot(x, y), dot(y, z)], [1, 1, 1, 0, 0], 1e-12);
        near(cross(x, y), z, 1e-12);
        rotationAxes(whole).forEach((v, k) => near(v, [x, y, z][k], 1e-9));
      }),
    );
  });

  it('splits any rotation into a heading and a level tilt, and joins it again', () => {
    fc.assert(
      fc.property(rotation, (q) => {
        const split = splitRotation(q);
        near(unitRotation(rotationOf(split)), unitRotation(q), 2e-6);
        if (split.tilt) expect(split.tilt[1]).toBe(0);
      }),
    );
    fc.assert(
      fc.property(number(-120, 120), number(-120, 120), (x, z) => {
        near(tiltAngles(tiltOf(x, z)), [x, z], 1e-5);
      }),
    );
  });

  it('turns about an upright axis by its turn alone, about any other as the axis says', () => {
    expect(rotatedAbout({ turn: 170, tilt: [0.6, 0, 0, 0.8] }, [0, 1, 0], 30)).toEqual({ turn: -160, tilt: [0.6, 0, 0, 0.8] });
    fc.assert(
      fc.property(pose, axis, deg, point, (p, a, by, q) => {
        const after = { ...rotatedAbout(p, a, by), at: [0, 0, 0] as Vec3 };
        near(placer(after)(...q), turned(axisRotation(a, by), placer({ ...p, at: [0, 0, 0] })(...q)), 5e-3);
      }),
    );
  });

  it('composes as its points do, where sizes are even; and is undone', () => {
    fc.assert(
      fc.property(pose, size, pose, fc.tuple(size, size, size), point, (outer, even, inner, scale, q) => {
        const a = { ...outer, scale: [even, even, even] as Vec3 };
        const b = { ...inner, scale };
        const both = composed(a, b);
        near(placer(both)(...q), placer(a)(...placer(b)(...q)), 1e-6);
        const back = composed(a, relative(a, both));
        near(placer(back)(...q), placer(both)(...q), 0.2);
      }),
    );
  });

  it('keeps right angles where an uneven size would shear: axes have the length each would have', () => {
    const made = composed({ at: [0, 0, 0], turn: 0, scale: [2, 1, 1] }, { at: [3, 0, 0], turn: 45 });
    near(made.at, [6, 0, 0], 1e-12);
    // Half of the square root of 2 along x, doubled; and the same along z as it was.
    near(made.scale!, [Math.sqrt(2 + 0.5), 1, Math.sqrt(2 + 0.5)], 1e-12);
    expect(composed({ at: [0, 0, 0], turn: 0, scale: [2, 1, 1] }, { at: [0, 0, 0], turn: 90 }).scale!.map((v) => Math.round(v * 1e9) / 1e9)).toEqual([1, 1, 2]);
  });
});
