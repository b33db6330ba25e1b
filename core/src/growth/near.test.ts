import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { NearPoints } from './near';

interface Point { x: number; z: number; radius: number; owner: number }
const metres = (most: number) => fc.double({ min: 0, max: most, noNaN: true });
const point = fc.record({ x: metres(40), z: metres(30), radius: metres(2), owner: fc.nat(2) });

/** By looking at every point. */
const slow = (points: readonly Point[], p: Point, own: number): boolean => points.some((q) => {
  const keep = q.owner === p.owner ? own : Math.max(p.radius, q.radius);
  return (q.x - p.x) ** 2 + (q.z - p.z) ** 2 < keep * keep;
});

describe('points found by cell', () => {
  it('clash where one of all would, whatever the size of the cells', () => {
    fc.assert(fc.property(fc.array(point, { maxLength: 60 }), fc.array(point, { minLength: 1, maxLength: 30 }), fc.constantFrom(0.5, 1.3, 4, 50), metres(3), (points, asked, cell, own) => {
      const near = new NearPoints(40, 30, cell, 1);
      for (const p of points) near.add(p.x, p.z, p.radius, p.owner);
      for (const p of asked) expect(near.clash(p.x, p.z, p.radius, p.owner, own) >= 0).toBe(slow(points, p, own));
    }), { numRuns: 120 });
  });

  it('tell whose the point is that is too near, keep their own distance apart, and let equal distances stand', () => {
    const near = new NearPoints(20, 20, 1);
    expect(near.clash(5, 5, 9, 0, 9)).toBe(-1);
    near.add(5, 5, 0.5, 3);
    expect([near.clash(5.4, 5, 0.2, 1, 0), near.clash(5.6, 5, 0.2, 1, 0), near.clash(6, 5, 1.2, 1, 0)]).toEqual([3, -1, 3]);
    // Of the same owner its own distance alone counts.
    expect([near.clash(5.4, 5, 9, 3, 0), near.clash(6.9, 5, 9, 3, 2)]).toEqual([-1, 3]);
    expect(near.clash(7, 5, 0.2, 3, 2)).toBe(-1);
  });

  it('take more than they were made for, and places beside the level', () => {
    const near = new NearPoints(8, 8, 1, 1);
    for (let i = 0; i < 1000; i++) near.add((i % 40) * 0.2, Math.floor(i / 40) * 0.3, 0.05, i);
    expect(near.clash(0.2 * 17, 0.3 * 20, 0.01, -1, 0)).toBe(20 * 40 + 17);
    near.add(-3, 12, 1, 5000);
    expect(near.clash(-3.5, 12, 0.1, 1, 0)).toBe(5000);
  });
});
