import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { cameraOf, type Camera } from '../cost/camera';
import { tanDeg } from '../num/trig';
import { add, normalize, scale, type Vec3 } from '../num/vec';
import { boxAbout, lightBoxes, lightMatrix, sidesOf, throwsInto, type Bounds } from './cascades';

const bounds: Bounds = { min: [0, -2, 0], max: [160, 30, 160] };
const ENDS = [9, 28, 85, 260];
const at = (m: readonly number[], p: Vec3): Vec3 => [0, 1, 2].map((row) => m[row] * p[0] + m[4 + row] * p[1] + m[8 + row] * p[2] + m[12 + row]) as Vec3;

const camera = (yaw: number, pitch: number, x = 80, z = 80): Camera => cameraOf({ view: 'stand', target: [x, 3, z], yaw, pitch, distance: 10 }, 16 / 9, 1.65);

/** A point of what a camera sees: share across, share up, -1 to 1, and metres before it. */
const seen = (c: Camera, across: number, up: number, z: number): Vec3 => {
  const t = tanDeg(c.fov / 2) * z;
  return add(add(add(c.eye, scale(c.forward, z)), scale(c.right, across * t * c.aspect)), scale(c.up, up * t));
};

describe('boxes of light', () => {
  it('hold all that is seen in their range, from any eye and sun', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 0, max: 359 }),
        fc.integer({ min: -60, max: 60 }),
        fc.tuple(fc.integer({ min: -9, max: 9 }), fc.integer({ min: 1, max: 9 }), fc.integer({ min: -9, max: 9 })),
        fc.tuple(fc.integer({ min: -10, max: 10 }), fc.integer({ min: -10, max: 10 }), fc.integer({ min: 0, max: 10 })),
        (yaw, pitch, sun, [across, up, share]) => {
          const c = camera(yaw, pitch);
          lightBoxes(c, normalize(sun as Vec3), ENDS, 1024, bounds).forEach((box, i) => {
            const near = i === 0 ? c.near : ENDS[i - 1];
            const p = seen(c, across / 10, up / 10, near + ((ENDS[i] - near) * share) / 10);
            const [x, y] = at(lightMatrix(box), p);
            // To a texel: the box lies on whole ones.
            const texel = 1 / 1024;
            for (const v of [x, y]) {
              expect(v).toBeGreaterThanOrEqual(-texel);
              expect(v).toBeLessThanOrEqual(1 + texel);
            }
          });
        },
      ),
    );
  });

  it('keep their size as the eye turns, and move by whole texels as it walks', () => {
    const sun = normalize([0.4, 0.7, 0.2]);
    const [a, b] = [lightBoxes(camera(10, 0), sun, ENDS, 1024, bounds), lightBoxes(camera(250, -30), sun, ENDS, 1024, bounds)];
    expect(a.map((box) => box.half)).toEqual(b.map((box) => box.half));
    const walked = lightBoxes(camera(10, 0, 80.37, 81.91), sun, ENDS, 1024, bounds);
    // The same place falls on the same part of a texel.
    walked.forEach((box, i) => {
      const p: Vec3 = [83.3, 4, 77.7];
      const [u, v] = [at(lightMatrix(box), p), at(lightMatrix(a[i]), p)];
      for (let k = 0; k < 2; k++) {
        const moved = (u[k] - v[k]) * 1024;
        expect(Math.abs(moved - Math.round(moved))).toBeLessThan(1e-6);
      }
    });
  });

  it('reach from behind the highest thing that throws shadows to the lowest', () => {
    const box = boxAbout([80, 3, 80], 20, normalize([0.2, 0.3, 0.9]), 512, bounds);
    for (let corner = 0; corner < 8; corner++) {
      const p: Vec3 = [corner & 1 ? 160 : 0, corner & 2 ? 30 : -2, corner & 4 ? 160 : 0];
      const z = at(lightMatrix(box), p)[2];
      expect(z).toBeGreaterThan(0);
      expect(z).toBeLessThan(1);
    }
  });

  it('take in what stands between them and the sun, and leave out what stands beside', () => {
    // A sun in the east: light goes to the west.
    const box = boxAbout([80, 3, 80], 10, normalize([1, 0.2, 0]), 512, bounds);
    const sides = sidesOf(box);
    const tree = (x: number, z: number): Bounds => ({ min: [x, 5, z], max: [x + 2, 25, z + 2] });
    expect(throwsInto(sides, tree(130, 80))).toBe(true);
    expect(throwsInto(sides, tree(80, 80))).toBe(true);
    expect(throwsInto(sides, tree(130, 95))).toBe(false);
  });
});
