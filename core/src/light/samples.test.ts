import { describe, expect, it } from 'vitest';
import { dot, length, type Vec3 } from '../num/vec';
import { discPoint, pixelJitter, skyDirection, SUN_RADIUS, withinSun } from './samples';

describe('samples of a picture that refines', () => {
  it('look at the middle of the pixel first, then all over it, on the mean at its middle', () => {
    expect(pixelJitter(0)).toEqual([0, 0]);
    let [x, y] = [0, 0];
    for (let i = 1; i <= 128; i++) {
      const [a, b] = pixelJitter(i);
      expect(Math.max(Math.abs(a), Math.abs(b))).toBeLessThanOrEqual(0.5);
      x += a / 128;
      y += b / 128;
    }
    expect(Math.hypot(x, y)).toBeLessThan(0.02);
  });

  it('cover a disc by equal areas', () => {
    let inner = 0;
    for (let i = 0; i < 256; i++) if (Math.hypot(...discPoint(i)) < Math.SQRT1_2) inner++;
    expect(inner / 256).toBeCloseTo(0.5, 1);
  });

  it('cover the upper half of the sky: level ground gets from an even sky what it is due, half of it for a wall', () => {
    // The mean of the cosine over the half sphere is 1/2; of the part of it that a wall sees, 1/4.
    let [ground, wall] = [0, 0];
    const n = 128;
    for (let i = 0; i < n; i++) {
      const d = skyDirection(i);
      expect(length(d)).toBeCloseTo(1, 9);
      expect(d[1]).toBeGreaterThan(0);
      ground += d[1] / n;
      wall += Math.max(0, d[0]) / n;
    }
    expect(ground).toBeCloseTo(0.5, 1.7);
    expect(wall).toBeCloseTo(0.25, 1.7);
  });

  it('move the sun within its disc and nowhere else', () => {
    for (const sun of [
      [0, 1, 0],
      [0.6, 0.8, 0],
      [0, 0.1, -0.99498743710662],
    ] as Vec3[]) {
      for (let i = 0; i < 32; i++) {
        const d = withinSun(sun, ...discPoint(i));
        expect((Math.acos(Math.min(1, dot(d, sun))) * 180) / Math.PI).toBeLessThanOrEqual(SUN_RADIUS + 1e-3);
      }
      expect(dot(withinSun(sun, 1, 0), sun)).toBeLessThan(1 - 1e-6);
    }
  });
});
