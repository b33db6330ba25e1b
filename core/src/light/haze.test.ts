import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { meanThickness, through } from './haze';

describe('haze', () => {
  it('lets half through at its distance, a quarter at twice that, and all where there is none', () => {
    const even = { half: 100, height: 0, base: 0 };
    expect(through(even, 0, 50, 100)).toBeCloseTo(0.5, 12);
    expect(through(even, 3, 3, 200)).toBeCloseTo(0.25, 12);
    expect(through({ ...even, half: 0 }, 0, 0, 1e5)).toBe(1);
  });

  it('thins upwards: straight up from its base there is as much of it as one height of thick haze', () => {
    // The integral of e^(-y / 20) from 0 up is 20.
    expect(meanThickness(0, 2000, 0, 20) * 2000).toBeCloseTo(20, 6);
    expect(meanThickness(20, 20, 0, 20)).toBeCloseTo(Math.exp(-1), 9);
    // Below the base it is no thicker.
    expect(meanThickness(-30, -10, 0, 20)).toBeCloseTo(1, 12);
  });

  it('agrees with a sum over a thousand steps, wherever eye and place are', () => {
    fc.assert(
      fc.property(fc.integer({ min: -80, max: 300 }), fc.integer({ min: -80, max: 300 }), fc.integer({ min: 2, max: 120 }), (from, to, height) => {
        let sum = 0;
        for (let i = 0; i < 1000; i++) sum += Math.exp(-Math.max(0, (from + ((to - from) * (i + 0.5)) / 1000 - 5) / height)) / 1000;
        expect(meanThickness(from, to, 5, height)).toBeCloseTo(sum, 3);
      }),
    );
  });
});
