import fc from 'fast-check';
import { beforeAll, describe, expect, it } from 'vitest';
import { SHIPPED_BODIES } from '../body/bodies';
import type { DrawnShape } from '../level/drawn';
import { parseObject, type Block } from '../level/objects';
import { distance, type Vec3 } from '../num/vec';
import { testBlock } from '../testing/levels';
import { expectClosed, measure } from '../testing/meshes';
import { mirror } from './arrange';
import { BlockBuilder } from './build';
import { graded, gradeOf, levelLine, lineLength, relined, reshaped, resized } from './drawn';
import type { SolidKernel } from './kernel';
import { loadSolidKernel } from './loadKernel';
import { nearestGap } from './gap';
import { blockMetrics } from './metrics';
import { shapeMesh, SIDES } from './shapes';

let kernel: SolidKernel;
beforeAll(async () => {
  kernel = await loadSolidKernel();
});

/** A block drawn along corners of the level. */
function drawn(shape: DrawnShape, line: Vec3[], more: Partial<Block> = {}): Block {
  const block = testBlock(shape, [1, 1, 1], [0, 0, 0], 0, more);
  return { ...block, ...relined(block, line) };
}
const refused = (b: Block): string => {
  const r = parseObject(b);
  return r.ok ? '' : r.message;
};
const L: Vec3[] = [
  [10, 2, 10],
  [20, 2, 10],
  [20, 2, 15],
];
const halfRound = (SIDES / 8) * Math.sin((2 * Math.PI) / SIDES);

describe('a wall along a line', () => {
  it('has the volume of its stretches, the mitre shared: worked by hand', () => {
    const wall = drawn('wall', L, { tall: 3, wide: 0.4 });
    const mesh = shapeMesh(wall);
    expectClosed(mesh);
    expect(measure(mesh).volume).toBeCloseTo(15 * 0.4 * 3, 4);
    expect(lineLength(wall)).toBeCloseTo(15, 9);
    // From the first corner to the outer face of the second stretch; from the outer face of the first to the end.
    expect(wall.size).toEqual([10.2, 3, 5.2]);
    expect(wall.at).toEqual([15.1, 2, 12.4]);
    expect(refused(wall)).toBe('');
  });

  it('closed, is a ring of walls', () => {
    const yard = drawn(
      'wall',
      [
        [0, 0, 0],
        [8, 0, 0],
        [8, 0, 6],
        [0, 0, 6],
      ],
      { closed: true, tall: 2, wide: 0.5 },
    );
    expectClosed(shapeMesh(yard));
    expect(measure(shapeMesh(yard)).volume).toBeCloseTo((8.5 * 6.5 - 7.5 * 5.5) * 2, 4);
    expect(yard.size).toEqual([8.5, 2, 6.5]);
  });

  it('keeps its own dimensions when one is typed, and its corners where they are', () => {
    const wall = drawn('wall', L, { tall: 3, wide: 0.4 });
    const thick = { ...wall, ...reshaped(wall, { wide: 1 }) } as Block;
    levelLine(thick).forEach((p, i) => expect(distance(p, L[i])).toBeLessThan(1e-3));
    expect(thick.size).toEqual([10.5, 3, 5.5]);
    const long = { ...wall, ...resized(wall, 0, 20.2) } as Block;
    expect(long.size).toEqual([20.2, 3, 5.2]);
    expect(long.wide).toBe(0.4);
    const high = { ...wall, ...resized(wall, 1, 4) } as Block;
    expect([high.tall, high.size[1]]).toEqual([4, 4]);
    // A straight wall's width is its thickness.
    const straight = drawn(
      'wall',
      [
        [0, 0, 0],
        [6, 0, 0],
      ],
      { wide: 0.3 },
    );
    expect({ ...straight, ...resized(straight, 2, 0.5) }).toMatchObject({ wide: 0.5, size: [6, 2.5, 0.5] });
    for (const b of [thick, long, high]) expect(refused(b)).toBe('');
  });

  it('that cannot be is refused with the corner at fault', () => {
    const bad = (line: Vec3[], more: Partial<Block> = {}) => refused(drawn('wall', line, { wide: 0.4, ...more }));
    expect(
      bad([
        [0, 0, 0],
        [0, 0, 0],
        [4, 0, 0],
      ]),
    ).toMatch(/corners 1 and 2 of the wall are in one place/);
    expect(
      bad([
        [0, 0, 0],
        [6, 0, 0],
        [0, 0, 0.5],
      ]),
    ).toMatch(/turns back on itself at corner 2/);
    expect(
      bad([
        [0, 0, 0],
        [6, 0, 0],
        [6, 0, 0.2],
        [0, 0, 0.2],
      ]),
    ).toMatch(/folds over itself between corners 2 and 3/);
    expect(
      bad([
        [0, 0, 0],
        [8, 0, 0],
        [8, 0, 4],
        [4, 0, 4],
        [4, 0, -4],
      ]),
    ).toMatch(/runs into itself/);
    expect(
      bad(
        [
          [0, 0, 0],
          [2, 0, 0],
          [2, 0, 2],
          [0, 0, 2],
        ],
        { closed: true, wide: 3 },
      ),
    ).toMatch(/folds over itself/);
    expect(refused({ ...drawn('wall', L), size: [1, 2, 3] })).toMatch(/size of a wall follows from its line/);
    expect(refused({ ...drawn('wall', L), line: undefined })).toMatch(/wants at least 2 corners/);
    expect(refused({ ...drawn('wall', L), tall: -1 })).toMatch(/at least 0.05 m/);
    expect(
      refused({
        ...drawn('wall', L),
        line: [
          [0, 0, 0],
          [NaN, 0, 0],
        ],
      }),
    ).toMatch(/line.1.0: .*NaN/);
    expect(refused({ ...drawn('wall', L), line: Array.from({ length: 201 }, (_, i): Vec3 => [i, 0, 0]) })).toMatch(/at most 200 corners/);
  });
});

describe('a slab from an outline', () => {
  it('is as large as its outline, whichever way round it was drawn', () => {
    const bent: Vec3[] = [
      [0, 1, 0],
      [6, 1, 0],
      [6, 1, 2],
      [2, 1, 2],
      [2, 1, 5],
      [0, 1, 5],
    ];
    for (const line of [bent, [...bent].reverse()]) {
      const slab = drawn('slab', line, { tall: 0.25 });
      expectClosed(shapeMesh(slab));
      expect(measure(shapeMesh(slab)).volume).toBeCloseTo((12 + 6) * 0.25, 4);
      expect(slab.size).toEqual([6, 0.25, 5]);
    }
  });

  it('whose outline crosses itself is refused, and says where', () => {
    expect(
      refused(
        drawn('slab', [
          [0, 0, 0],
          [4, 0, 4],
          [4, 0, 0],
          [0, 0, 4],
        ]),
      ),
    ).toMatch(/outline crosses itself: the side from corner 1 meets the side from corner 3/);
    expect(
      refused(
        drawn('slab', [
          [0, 0, 0],
          [4, 0, 0],
        ]),
      ),
    ).toMatch(/at least 3 corners/);
  });

  it('is jumped to from its real edge, not its bounds', () => {
    const ledge = drawn(
      'slab',
      [
        [0, 1, 0],
        [6, 1, 0],
        [0, 1, 6],
      ],
      { tall: 0.2 },
    );
    // Towards the slanted edge, which is the line x + z = 6: half the post's width is turned that way.
    const near = testBlock('box', [1, 1.2, 1], [5, 0, 5], 45);
    expect(nearestGap(ledge, [near], SHIPPED_BODIES.adult)!.width).toBeCloseTo(4 / Math.SQRT2 - 0.5, 4);
  });
});

describe('a tunnel along a line', () => {
  it('as a void bores its clear section; as a solid it is the lining round it', () => {
    const line: Vec3[] = [
      [0, 0, 0],
      [10, 0, 0],
    ];
    const bore = drawn('tunnel', line, { op: 'void', tall: 3, wide: 2 });
    const section = 2 * 2 + halfRound * 2 * 2 * 0.5;
    expectClosed(shapeMesh(bore));
    expect(measure(shapeMesh(bore)).volume).toBeCloseTo(10 * section, 4);
    expect(bore.size).toEqual([10, 3, 2]);
    const lining = drawn('tunnel', line, { tall: 3, wide: 2, wall: 0.25 });
    expectClosed(shapeMesh(lining));
    expect(measure(shapeMesh(lining)).volume).toBeCloseTo(10 * (3.25 * 2.5 - section), 4);
    expect(lining.size).toEqual([10, 3.25, 2.5]);
    // From one to the other the line stays where it is.
    const turned = { ...lining, ...reshaped(lining, { op: 'void' }) } as Block;
    levelLine(turned).forEach((p, i) => expect(distance(p, line[i])).toBeLessThan(1e-3));
  });

  it('cuts a mass as an adit does, climbing at its grade', () => {
    const line = graded(
      [
        [-12, 0, 0],
        [0, 0, 0],
        [0, 0, 6],
      ],
      0.05,
    );
    expect(line.map((p) => p[1])).toEqual([0, 0.6000000000000001, 0.9]);
    expect(gradeOf(line)).toBeCloseTo(0.05, 12);
    const mass = testBlock('box', [10, 8, 20], [-3, -1, 2]);
    const adit = drawn('tunnel', line, { op: 'void', tall: 2.4, wide: 2 });
    const [built] = new BlockBuilder(kernel).build([mass, adit]);
    expectClosed(built);
    const alone = measure(shapeMesh(adit)).volume;
    expect(measure(built).volume).toBeGreaterThan(1600 - alone);
    expect(measure(built).volume).toBeLessThan(1600 - alone * 0.5);
    expect(blockMetrics(adit, SHIPPED_BODIES.adult)).toEqual([{ verdict: 'good', text: 'clear: passage 2.00 m wide, 2.40 m high' }]);
    expect(blockMetrics({ ...adit, wide: 0.7 }, SHIPPED_BODIES.adult)[0].verdict).toBe('bad');
  });
});

describe('what is drawn', () => {
  const line = fc
    .array(fc.tuple(fc.double({ min: 2, max: 9, noNaN: true }), fc.double({ min: -100, max: 100, noNaN: true })), { minLength: 1, maxLength: 6 })
    .map((steps) => {
      const out: Vec3[] = [[0, 0, 0]];
      let heading = 0;
      for (const [l, turn] of steps) {
        heading += out.length > 1 ? turn : 0;
        const a = (heading * Math.PI) / 180;
        const [x, , z] = out[out.length - 1];
        out.push([x + l * Math.cos(a), 0, z + l * Math.sin(a)]);
      }
      return out;
    });

  it('is closed and taken by the kernel wherever its line is not refused, and is the same mirrored twice', () => {
    let made = 0;
    fc.assert(
      fc.property(
        line,
        fc.constantFrom('wall' as const, 'tunnel' as const, 'slab' as const),
        fc.double({ min: 0.1, max: 1.5, noNaN: true }),
        (points, shape, wide) => {
          const b = drawn(shape, points, { wide });
          if (refused(b)) return;
          made++;
          expectClosed(shapeMesh(b));
          const [built] = new BlockBuilder(kernel).build([b]);
          expect(built.volume).toBeCloseTo(measure(shapeMesh(b)).volume, 2);
          const [there] = mirror([b], 0, 7);
          expect(measure(shapeMesh(there)).volume).toBeCloseTo(measure(shapeMesh(b)).volume, 3);
          const [back] = mirror([there], 0, 7);
          levelLine(back).forEach((p, i) => expect(distance(p, points[i])).toBeLessThan(1e-3));
          levelLine(there).forEach((p, i) => expect(distance(p, [14 - points[i][0], points[i][1], points[i][2]])).toBeLessThan(1e-3));
        },
      ),
      { numRuns: 150 },
    );
    expect(made).toBeGreaterThan(60);
  });
});
