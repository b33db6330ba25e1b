import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { crossing, insideOutline, mitres, offsetLine, outlineDistance, signedArea, toStretch, type Point2 } from './outline';

const square = (x: number, y: number, s: number): Point2[] => [
  [x, y],
  [x + s, y],
  [x + s, y + s],
  [x, y + s],
];

describe('an outline', () => {
  it('has an area with the sign of its sense', () => {
    expect(signedArea(square(2, 3, 4))).toBe(16);
    expect(signedArea(square(2, 3, 4).reverse())).toBe(-16);
    expect(
      signedArea([
        [0, 0],
        [4, 0],
        [0, 3],
      ]),
    ).toBe(6);
  });

  it('says which of its sides cross', () => {
    expect(crossing(square(0, 0, 1))).toBeUndefined();
    expect(
      crossing([
        [0, 0],
        [2, 2],
        [2, 0],
        [0, 2],
      ]),
    ).toEqual([0, 2]);
    // A corner that touches another side is no simple outline either.
    expect(
      crossing([
        [0, 0],
        [4, 0],
        [4, 2],
        [2, 0],
        [0, 2],
      ]),
    ).toEqual([0, 2]);
  });

  it('knows what is inside it and how far another is', () => {
    const bent: Point2[] = [
      [0, 0],
      [4, 0],
      [4, 4],
      [3, 4],
      [3, 1],
      [0, 1],
    ];
    expect([insideOutline([1, 0.5], bent), insideOutline([1, 2], bent), insideOutline([3.5, 3], bent)]).toEqual([true, false, true]);
    expect(outlineDistance(bent, square(0.5, 2, 1))).toBe(1);
    expect(outlineDistance(bent, square(3.2, 2, 0.2))).toBe(0);
    expect(outlineDistance(square(0, 0, 1), square(4, 5, 1))).toBe(5);
    expect(toStretch([3, 4], [0, 0], [0, 1])).toBeCloseTo(Math.hypot(3, 3), 12);
  });
});

describe('a line beside a line', () => {
  it('keeps its distance round a right corner: the mitre is the diagonal', () => {
    const line: Point2[] = [
      [0, 0],
      [10, 0],
      [10, 5],
    ];
    // East, then south: left is north, then east.
    expect(offsetLine(line, 1, false)).toEqual([
      [0, -1],
      [11, -1],
      [11, 5],
    ]);
    expect(offsetLine(line, -1, false).map((p) => p.map((v) => v + 0))).toEqual([
      [0, 1],
      [9, 1],
      [9, 5],
    ]);
    expect(mitres(line, false)[1]).toEqual([1, -1]);
  });

  it('keeps its distance whatever the corner', () => {
    fc.assert(
      fc.property(fc.double({ min: -140, max: 140, noNaN: true }), fc.double({ min: 0.05, max: 0.5, noNaN: true }), (turn, by) => {
        const a = (turn * Math.PI) / 180;
        const line: Point2[] = [
          [-20, 0],
          [0, 0],
          [20 * Math.cos(a), 20 * Math.sin(a)],
        ];
        const [, corner] = offsetLine(line, by, false);
        for (const [p, q] of [
          [line[0], line[1]],
          [line[1], line[2]],
        ]) {
          const l = Math.hypot(q[0] - p[0], q[1] - p[1]);
          const off = Math.abs((q[0] - p[0]) * (corner[1] - p[1]) - (q[1] - p[1]) * (corner[0] - p[0])) / l;
          expect(off).toBeCloseTo(by, 9);
        }
      }),
    );
  });
});
