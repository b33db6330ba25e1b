import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Pose } from '../level/objects';
import { fitCamera, type FitInput, type PictureLine } from './cameraFit';
import { dot, length, sub, type Vec3 } from '../num/vec';
import { cameraOf, type Camera } from './camera';

const W = 1600;
const H = 900;

/** A point of the level on the picture a camera of the view takes, leant by `roll` degrees. */
function seen(camera: Camera, p: Vec3, roll: number): [number, number] {
  const d = sub(p, camera.eye);
  const k = H / 2 / (dot(d, camera.forward) * Math.tan((camera.fov * Math.PI) / 360));
  const [x, y] = [dot(d, camera.right) * k, dot(d, camera.up) * k];
  const a = (roll * Math.PI) / 180;
  return [W / 2 + x * Math.cos(a) + y * Math.sin(a), H / 2 + x * Math.sin(a) - y * Math.cos(a)];
}

/** Lines along the edges of a box of the level turned by `heading`, as a hand would draw them, each end off by up to `off` pixels. */
function drawn(pose: Pose, heading: number, roll: number, off: number, noise: () => number): FitInput {
  const camera = cameraOf(pose, W / H, 1.65);
  const h = (heading * Math.PI) / 180;
  const a: Vec3 = [Math.sin(h), 0, -Math.cos(h)];
  const s: Vec3 = [Math.cos(h), 0, Math.sin(h)];
  const corner = (i: number, j: number, y: number): Vec3 => [80 + a[0] * i + s[0] * j, y, 80 + a[2] * i + s[2] * j];
  const line = (p: Vec3, q: Vec3): PictureLine => [...seen(camera, p, roll), ...seen(camera, q, roll)].map((v) => v + (noise() * 2 - 1) * off) as PictureLine;
  return {
    width: W,
    height: H,
    heading,
    first: [0, 5].flatMap((j) => [1, 4].map((y) => line(corner(0, j, y), corner(7, j, y)))),
    second: [0, 7].flatMap((i) => [1, 4].map((y) => line(corner(i, 0, y), corner(i, 5, y)))),
    upright: [
      [0, 0],
      [7, 0],
      [0, 5],
      [7, 5],
    ].map(([i, j]) => line(corner(i, j, 1), corner(i, j, 4))),
    known: { line: line(corner(0, 0, 1), corner(0, 0, 4)), along: 'upright', metres: 3, at: corner(0, 0, 1) },
  };
}

const pose = (yaw: number, pitch: number, fov: number): Pose => ({ view: 'orbit', target: [80, 2, 80], yaw, pitch, distance: 16, fov });
const turnOff = (a: number, b: number) => Math.abs(((a - b + 540) % 360) - 180);

describe('a camera fitted to lines on a picture', () => {
  it('is the one the picture was taken with, to rounding, where the lines are exact', () => {
    for (const [yaw, pitch, fov, heading, roll] of [
      [40, -12, 55, 0, 0],
      [215, 6, 35, 20, 0],
      [130, -25, 70, -35, 3],
      [301, -8, 48, 90, -2],
    ]) {
      const input = drawn(pose(yaw, pitch, fov), heading, roll, 0, () => 0.5);
      const fit = fitCamera(input);
      expect(fit.ok).toBe(true);
      if (!fit.ok) continue;
      const { camera } = fit;
      expect(turnOff(camera.yaw, yaw)).toBeLessThan(1e-3);
      expect(camera.pitch).toBeCloseTo(pitch, 3);
      expect(camera.roll).toBeCloseTo(roll, 3);
      expect(camera.fov).toBeCloseTo(fov, 3);
      expect(length(sub(camera.eye, cameraOf(pose(yaw, pitch, fov), W / H, 1.65).eye))).toBeLessThan(1e-3);
      expect(camera.error).toBeLessThan(1e-6);
    }
  });

  it(
    'is within half a degree and two per cent where both directions are seen at ' + '30 degrees or more and each end is drawn up to a quarter of a pixel off',
    () => {
      fc.assert(
        fc.property(
          fc.integer({ min: 30, max: 60 }),
          fc.integer({ min: 0, max: 3 }),
          fc.integer({ min: -25, max: 8 }),
          fc.integer({ min: 40, max: 70 }),
          fc.integer({ min: 0, max: 2 ** 31 - 1 }),
          (angle, quarter, pitch, fov, seed) => {
            let state = seed;
            const noise = () => {
              state = (Math.imul(state, 1664525) + 1013904223) >>> 0;
              return state / 2 ** 32;
            };
            const yaw = angle + quarter * 90;
            const fit = fitCamera(drawn(pose(yaw, pitch, fov), 0, 0, 0.25, noise));
            expect(fit.ok).toBe(true);
            if (!fit.ok) return;
            expect(turnOff(fit.camera.yaw, yaw)).toBeLessThan(0.5);
            expect(Math.abs(fit.camera.pitch - pitch)).toBeLessThan(0.5);
            expect(Math.abs(fit.camera.roll)).toBeLessThan(0.5);
            const eye = cameraOf(pose(yaw, pitch, fov), W / H, 1.65).eye;
            expect(length(sub(fit.camera.eye, eye)) / length(sub(eye, [80, 2, 80]))).toBeLessThan(0.02);
            expect(Math.abs(Math.tan((fit.camera.fov * Math.PI) / 360) / Math.tan((fov * Math.PI) / 360) - 1)).toBeLessThan(0.02);
          },
        ),
        { numRuns: 200 },
      );
    },
  );

  it('does without upright lines, and says what is wrong where it cannot be', () => {
    const input = drawn(pose(40, -12, 55), 0, 0, 0, () => 0.5);
    const plain = fitCamera({ ...input, upright: [] });
    expect(plain.ok && plain.camera.fov).toBeCloseTo(55, 3);
    const message = (more: Partial<FitInput>) => {
      const r = fitCamera({ ...input, ...more });
      return r.ok ? '' : r.message;
    };
    expect(message({ first: input.first.slice(0, 1) })).toMatch(/at least two lines along each/);
    expect(message({ second: [[10, 10, 11, 11], ...input.second] })).toMatch(/shorter than 4 pixels/);
    expect(message({ known: { ...input.known, metres: 0 } })).toMatch(/type it in metres/);
    expect(message({ second: input.first, upright: [] })).toMatch(/no lens sees these lines so/);
    expect(
      message({
        first: [
          [100, 100, 500, 100],
          [100, 300, 500, 300],
        ],
        second: [
          [100, 100, 100, 400],
          [300, 100, 300, 400],
        ],
        upright: [],
      }),
    ).toMatch(/do not run together/);
  });
});
