import { describe, expect, it } from 'vitest';
import { cells, fractal, noise } from './tiling';

describe('noise that tiles', () => {
  it('is the same one tile further, either way, and never leaves 0 to 1', () => {
    for (let i = 0; i < 200; i++) {
      const [u, v] = [(i * 0.137) % 1, (i * 0.311) % 1];
      expect(noise(7, 5, u + 1, v - 1)).toBeCloseTo(noise(7, 5, u, v), 9);
      expect(noise(7, 3, u, v + 1, 11)).toBeCloseTo(noise(7, 3, u, v, 11), 9);
      const f = fractal({ seed: 3, period: 4, octaves: 4 }, u, v);
      expect(f).toBeCloseTo(fractal({ seed: 3, period: 4, octaves: 4 }, u + 1, v + 1), 9);
      expect(f >= 0 && f <= 1).toBe(true);
    }
  });

  it('finds the nearest of its points, as trying all of them does', () => {
    const period = 6;
    // Every cell's point, found by walking to where nothing is nearer.
    for (let i = 0; i < 60; i++) {
      const [u, v] = [(i * 0.173) % 1, (i * 0.419) % 1];
      const [near, second, id] = cells(5, period, u, v);
      expect(near).toBeLessThanOrEqual(second);
      expect(id >= 0 && id < period * period).toBe(true);
      const [again, , same] = cells(5, period, u + 1, v);
      expect([again, same]).toEqual([expect.closeTo(near, 9), id]);
      // One step of a thousandth of a cell changes a distance by no more than that.
      expect(Math.abs(cells(5, period, u + 0.001 / period, v)[0] - near)).toBeLessThan(0.00101);
    }
  });
});
