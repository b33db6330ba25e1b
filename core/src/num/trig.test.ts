import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { atan2Deg, cosDeg, DEG, sinCosDeg, sinDeg, slopeDeg, tanDeg } from './trig';

describe('trigonometry in degrees', () => {
  it('is exact at quarter turns', () => {
    expect([0, 90, 180, 270, 360, -90, 450].map(sinDeg)).toEqual([0, 1, 0, -1, 0, -1, 1].map((v, i) => (v === 0 && i === 2 ? -0 : v)));
    expect([0, 90, 180, 270].map((d) => Math.abs(cosDeg(d)))).toEqual([1, 0, 1, 0]);
    expect(tanDeg(45)).toBeCloseTo(1, 15);
    expect(slopeDeg(1)).toBe(45);
  });

  it('agrees with the engine to 1e-14', () => {
    fc.assert(
      fc.property(fc.double({ min: -720, max: 720, noNaN: true }), (d) => {
        const [s, c] = sinCosDeg(d);
        expect(Math.abs(s - Math.sin(d * DEG))).toBeLessThan(1e-14);
        expect(Math.abs(c - Math.cos(d * DEG))).toBeLessThan(1e-14);
        expect(Math.abs(s * s + c * c - 1)).toBeLessThan(1e-15 * 4);
      }),
    );
    fc.assert(
      fc.property(fc.double({ min: -1e6, max: 1e6, noNaN: true }), fc.double({ min: -1e6, max: 1e6, noNaN: true }), (y, x) => {
        fc.pre(x !== 0 || y !== 0);
        const want = Math.atan2(y === 0 ? 0 : y, x === 0 ? 0 : x) / DEG;
        expect(Math.abs(atan2Deg(y, x) - want)).toBeLessThan(1e-12);
      }),
    );
  });
});
