import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { isDrawn } from '../level/drawn';
import { SHAPES, type Block } from '../level/objects';
import { testBlock } from '../testing/levels';
import { align, arrayArc, arrayGrid, arrayLine, distribute, middle, mirror } from './arrange';
import { shapeMesh } from './shapes';
import { blockBounds, blockToLevel } from './solid';

const post = testBlock('box', [1, 2, 1], [10, 0, 20], 30);
const round = (v: readonly number[]) => v.map((x) => Number(x.toFixed(6)) + 0);
const spot = fc.record({
  at: fc.tuple(...[0, 1, 2].map(() => fc.double({ min: -50, max: 50, noNaN: true }))),
  turn: fc.integer({ min: -180, max: 179 }),
  size: fc.tuple(...[0, 1, 2].map(() => fc.double({ min: 1.5, max: 9, noNaN: true }))),
  shape: fc.constantFrom(...SHAPES.filter((s) => !isDrawn(s))),
});
const made = (s: { at: number[]; turn: number; size: number[]; shape: Block['shape'] }): Block =>
  testBlock(s.shape, s.size as Block['size'], s.at as Block['at'], s.turn, { wall: 0.3 });

describe('an array', () => {
  it('along a line repeats one step', () => {
    expect(arrayLine(post, 4, [2, 0.5, -1]).map((p) => p.at)).toEqual([
      [12, 0.5, 19],
      [14, 1, 18],
      [16, 1.5, 17],
    ]);
    expect(arrayLine(post, 1, [2, 0, 0])).toEqual([]);
  });

  it('in a grid fills rows and leaves the block its own place', () => {
    expect(arrayGrid(post, [3, 2], [4, 5]).map((p) => [p.at[0], p.at[2]])).toEqual([
      [14, 20],
      [18, 20],
      [10, 25],
      [14, 25],
      [18, 25],
    ]);
  });

  it('on an arc keeps the radius and turns each with it', () => {
    const quarter = arrayArc(post, 3, [10, 10], 90);
    // From the south of the centre, counter-clockwise seen from above: to the east.
    expect(quarter.map((p) => round(p.at))).toEqual([round([10 + Math.SQRT1_2 * 10, 0, 10 + Math.SQRT1_2 * 10]), [20, 0, 10]]);
    expect(quarter.map((p) => p.turn)).toEqual([75, 120]);
    const circle = arrayArc(post, 8, [10, 10], 360);
    expect(circle).toHaveLength(7);
    for (const p of circle) expect(Math.hypot(p.at[0] - 10, p.at[2] - 10)).toBeCloseTo(10, 9);
    expect(round(circle[3].at)).toEqual([10, 0, 0]);
  });
});

describe('mirrored blocks', () => {
  it('are where the mirror image of their mesh is, whatever the shape', () => {
    fc.assert(
      fc.property(spot, fc.constantFrom(0 as const, 2 as const), fc.double({ min: -20, max: 20, noNaN: true }), (s, axis, at) => {
        const block = made(s);
        const [image] = mirror([block], axis, at);
        const points = (b: Block) => {
          const p = shapeMesh(b).positions;
          return Array.from({ length: p.length / 3 }, (_, i) => blockToLevel(b, p[i * 3], p[i * 3 + 1], p[i * 3 + 2]));
        };
        const theirs = points(image);
        for (const p of points(block)) {
          const wanted = [...p];
          wanted[axis] = 2 * at - wanted[axis];
          expect(Math.min(...theirs.map((q) => Math.hypot(q[0] - wanted[0], q[1] - wanted[1], q[2] - wanted[2])))).toBeLessThan(1e-4);
        }
      }),
      { numRuns: 60 },
    );
  });

  it('come back when mirrored again', () => {
    fc.assert(
      fc.property(spot, fc.constantFrom(0 as const, 2 as const), (s, axis) => {
        const block = made(s);
        const [back] = mirror(mirror([block], axis, 3), axis, 3);
        expect(round(back.at)).toEqual(round(block.at));
        expect(back.turn).toBe(block.turn);
      }),
    );
  });
});

describe('aligning and distributing', () => {
  it('puts sides and middles where the first has them', () => {
    fc.assert(
      fc.property(fc.array(spot, { minLength: 1, maxLength: 6 }), fc.constantFrom(0 as const, 1 as const, 2 as const), (list, axis) => {
        const blocks = list.map(made);
        const first = blockBounds(blocks[0]);
        for (const b of align(blocks, axis, 'low').map(blockBounds)) expect(b.min[axis]).toBeCloseTo(first.min[axis], 6);
        for (const b of align(blocks, axis, 'high').map(blockBounds)) expect(b.max[axis]).toBeCloseTo(first.max[axis], 6);
        for (const b of align(blocks, axis, 'middle')) expect(middle([b], axis)).toBeCloseTo(middle([blocks[0]], axis), 6);
      }),
    );
  });

  it('leaves equal gaps, and the outer two where they are', () => {
    const row = [
      [0, 2],
      [3, 1],
      [4.5, 3],
      [20, 2],
    ].map(([x, l]) => testBlock('box', [l, 1, 1], [x, 0, 0]));
    const spread = distribute(row, 0).map(blockBounds);
    // From 1 to 19 with blocks of 1 and 3 m between: 14 m over three gaps.
    for (let i = 1; i < 4; i++) expect(spread[i].min[0] - spread[i - 1].max[0]).toBeCloseTo(14 / 3, 9);
    expect([spread[0].min[0], spread[3].max[0]]).toEqual([-1, 21]);
    expect(distribute(row.slice(0, 2), 0)).toEqual(row.slice(0, 2));
  });
});
