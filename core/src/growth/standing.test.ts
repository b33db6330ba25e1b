import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { candidates } from './candidates';
import { apart, room, standing, type Standing } from './standing';

const metres = (most: number) => fc.double({ min: -2, max: most, noNaN: true });
const points = fc.array(fc.tuple(metres(42), metres(32)), { maxLength: 60 });
const sorted = (at: readonly (readonly [number, number])[], cell: number, kept = room()) =>
  standing({ place: Float32Array.from(at.flatMap(([x, z]) => [x, 7, z])), stride: 3, count: at.length }, { width: 40, depth: 30, cell }, kept);

/** Which of the points asked are left. */
function left(s: Standing, asked: readonly (readonly [number, number])[], keep: number): number[] {
  const c = candidates(asked.length);
  asked.forEach(([x, z], i) => {
    c.live[i] = i;
    c.x[i] = x;
    c.z[i] = z;
  });
  c.count = asked.length;
  apart(c, s, keep);
  return Array.from(c.live.subarray(0, c.count));
}

describe('plants sorted by cell', () => {
  it('rule out whom one of all is near enough to, whatever the size of the cells, beside the level too', () => {
    fc.assert(
      fc.property(points, points, fc.constantFrom(0.5, 1.3, 4, 50), fc.double({ min: 0, max: 3, noNaN: true }), (at, asked, cell, keep) => {
        const s = sorted(at, cell);
        const far = asked.flatMap(([x, z], i) => (at.some(([px, pz]) => (Math.fround(px) - x) ** 2 + (Math.fround(pz) - z) ** 2 < keep * keep) ? [] : [i]));
        expect(left(s, asked, keep)).toEqual(far);
      }),
      { numRuns: 150 },
    );
  });

  it('are each in the run of their own cell, once', () => {
    fc.assert(
      fc.property(points, fc.constantFrom(0.7, 3), (at, cell) => {
        const s = sorted(at, cell);
        expect(s.start[0]).toBe(0);
        expect(s.start[s.start.length - 1]).toBe(at.length);
        const inCell = (v: number, cells: number) => Math.min(cells - 1, Math.max(0, Math.floor(v / cell)));
        for (let c = 0; c < s.across * s.down; c++) {
          for (let e = s.start[c]; e < s.start[c + 1]; e++) expect(inCell(s.at[e * 2 + 1], s.down) * s.across + inCell(s.at[e * 2], s.across)).toBe(c);
        }
        const pairs = (from: ArrayLike<number>) => Array.from({ length: from.length / 2 }, (_, i) => `${from[i * 2]} ${from[i * 2 + 1]}`).sort();
        expect(pairs(s.at)).toEqual(pairs(Float32Array.from(at.flat())));
      }),
    );
  });

  it('let equal distances stand; of nobody, nobody is near', () => {
    const s = sorted([[5, 5]], 1);
    expect([left(s, [[5.5, 5]], 0.5), left(s, [[5.5, 5]], 0.51), left(s, [[5, 8]], 2.9), left(s, [[5, 8]], 3.1)]).toEqual([[0], [], [0], []]);
    expect(left(sorted([], 1), [[5, 5]], 100)).toEqual([0]);
  });

  it('lie the same in a room that held others before, more or fewer, in other cells', () => {
    const kept = room();
    fc.assert(
      fc.property(points, fc.constantFrom(0.5, 1.3, 4, 50), (at, cell) => {
        expect(sorted(at, cell, kept)).toEqual(sorted(at, cell));
      }),
    );
  });
});
