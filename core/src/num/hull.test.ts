import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { hull } from './hull';
import type { Point2 } from './outline';

const point = fc.tuple(fc.integer({ min: -50, max: 50 }), fc.integer({ min: -50, max: 50 })) as fc.Arbitrary<Point2>;
const turn = (a: Point2, b: Point2, p: Point2) => (b[0] - a[0]) * (p[1] - a[1]) - (b[1] - a[1]) * (p[0] - a[0]);

describe('a convex hull', () => {
  it('holds every point, turns one way at every corner, and takes its corners from the points', () => {
    fc.assert(
      fc.property(fc.array(point, { minLength: 3, maxLength: 40 }), (points) => {
        const corners = hull(points);
        if (corners.length < 3) {
          // All on one line.
          for (const p of points) for (const q of points) expect(Math.abs(turn(points[0], p, q))).toBe(0);
          return;
        }
        corners.forEach((a, i) => {
          const b = corners[(i + 1) % corners.length];
          for (const p of points) expect(turn(a, b, p)).toBeGreaterThanOrEqual(0);
          expect(turn(a, b, corners[(i + 2) % corners.length])).toBeGreaterThan(0);
          expect(points).toContainEqual(a);
        });
      }),
      { numRuns: 200 },
    );
  });

  it('leaves out what lies on a side, and is nothing of a point, a line or none', () => {
    expect(
      hull([
        [0, 0],
        [2, 0],
        [4, 0],
        [4, 3],
        [0, 3],
        [2, 3],
        [1, 1],
      ]),
    ).toEqual([
      [0, 0],
      [4, 0],
      [4, 3],
      [0, 3],
    ]);
    for (const flat of [
      [],
      [[1, 1]],
      [
        [0, 0],
        [5, 5],
      ],
      [
        [0, 0],
        [1, 1],
        [2, 2],
        [3, 3],
      ],
    ] as Point2[][])
      expect(hull(flat).length).toBeLessThan(3);
  });
});
