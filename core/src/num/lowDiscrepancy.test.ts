import { describe, expect, it } from 'vitest';
import { halton, radicalInverse } from './lowDiscrepancy';

describe('points that cover evenly', () => {
  it('mirrors the digits of a number about the point', () => {
    expect([0, 1, 2, 3, 4, 5, 6].map((i) => radicalInverse(i, 2))).toEqual([0, 0.5, 0.25, 0.75, 0.125, 0.625, 0.375]);
    expect(radicalInverse(5, 3)).toBeCloseTo(2 / 3 + 1 / 9, 12);
  });

  it('puts as many of a run into each part of the square as it is large', () => {
    for (const n of [32, 128]) {
      const parts = new Map<string, number>();
      for (let i = 1; i <= n; i++) {
        const [x, y] = halton(i);
        const key = `${Math.floor(x * 4)},${Math.floor(y * 2)}`;
        parts.set(key, (parts.get(key) ?? 0) + 1);
      }
      expect(parts.size).toBe(8);
      for (const count of parts.values()) expect(Math.abs(count - n / 8)).toBeLessThanOrEqual(2);
    }
  });
});
