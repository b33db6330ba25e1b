import fc from 'fast-check';
import { beforeAll, describe, expect, it } from 'vitest';
import { isDrawn } from '../level/drawn';
import { parseObject, SHAPES, type Block } from '../level/objects';
import { expectClosed, measure } from '../testing/meshes';
import { loadSolidKernel } from './loadKernel';
import { cutLoops } from './cutLoops';
import type { CutLine } from './cut';
import { BlockBuilder, splitBlocks } from './build';
import type { SolidKernel } from './kernel';
import { thicknessAt } from './placedMesh';
import { shapeMesh, SIDES } from './shapes';

let kernel: SolidKernel;
beforeAll(async () => {
  kernel = await loadSolidKernel();
});

let count = 0;
const block = (more: Partial<Block>): Block => ({
  id: `b${String(++count).padStart(5, '0')}`,
  version: 1,
  kind: 'block',
  name: 'block',
  shape: 'box',
  size: [4, 3, 2],
  at: [0, 0, 0],
  turn: 0,
  hidden: false,
  out: false,
  ...more,
});
const cut = (more: Partial<Block>): Block => block({ op: 'void', ...more });

/** Those that follow a line have a test of their own: drawn.test.ts. */
const SETTABLE = SHAPES.filter((s) => !isDrawn(s));
const polygon = (SIDES / 8) * Math.sin((2 * Math.PI) / SIDES);

describe('a shape', () => {
  it('is closed, and has the volume worked by hand', () => {
    const volumes: Partial<Record<Block['shape'], number>> = {
      box: 24,
      ramp: 12,
      wedge: 12,
      // 8 steps: 1/8 + 2/8 ... + 8/8 of the box over eighths of its length.
      stair: 24 * (36 / 64),
      // The same less a wedge before each riser, 3/8 m high and as deep as it leans back.
      terraces: 24 * (36 / 64) - 8 * 0.5 * (3 / 8) ** 2 * Math.tan((12 * Math.PI) / 180) * 2,
      cylinder: 4 * 2 * polygon * 3,
      cone: (4 * 2 * polygon * 3) / 3,
      ring: (4 * 2 - 3 * 1) * polygon * 3,
      // Opening 3 m wide and 1 m to the springing under a head of half a circle of 24 sides.
      arch: (12 - 3 * 1 - 3 * 3 * polygon * 0.5) * 2,
    };
    for (const shape of SETTABLE) {
      const mesh = shapeMesh({ shape, size: [4, 3, 2] });
      expectClosed(mesh);
      expect(measure(mesh).volume, shape).toBeCloseTo(volumes[shape]!, 4);
    }
  });

  it('fills its own dimensions exactly, whatever they are', () => {
    fc.assert(
      fc.property(
        fc.constantFrom(...SETTABLE),
        fc.tuple(...[0, 1, 2].map(() => fc.double({ min: 1.2, max: 30, noNaN: true }))),
        fc.integer({ min: 1, max: 30 }),
        (shape, size, steps) => {
          const mesh = shapeMesh({ shape, size: size as Block['size'], steps, wall: 0.3, batter: 0 });
          expectClosed(mesh);
          const p = mesh.positions;
          for (const [k, low, high] of [
            [0, -size[0] / 2, size[0] / 2],
            [1, 0, size[1]],
            [2, -size[2] / 2, size[2] / 2],
          ]) {
            let [min, max] = [Infinity, -Infinity];
            for (let i = k; i < p.length; i += 3) {
              min = Math.min(min, p[i]);
              max = Math.max(max, p[i]);
            }
            expect(min).toBeCloseTo(low, 4);
            expect(max).toBeCloseTo(high, 4);
          }
        },
      ),
      { numRuns: 80 },
    );
  });

  it('that its numbers cannot make is refused in words', () => {
    const refused = (more: Partial<Block>) => {
      const r = parseObject(block(more));
      return r.ok ? '' : r.message;
    };
    expect(refused({ shape: 'arch', size: [1, 3, 2] })).toMatch(/no opening left between jambs of 0.5 m/);
    expect(refused({ shape: 'arch', size: [4, 0.4, 2] })).toMatch(/no opening left under a head/);
    expect(refused({ shape: 'ring', size: [4, 3, 2], wall: 1 })).toMatch(/no hole left/);
    expect(refused({ size: [0, 1, 1] })).toMatch(/at least 0.05 m/);
    expect(refused({ size: [-1, 1, 1] })).toMatch(/at least 0.05 m/);
    expect(refused({ shape: 'stair', steps: 0 })).toMatch(/at least one step/);
    expect(refused({ shape: 'arch', size: [4, 3, 2] })).toBe('');
    expect(refused({ shape: 'terraces', size: [2, 9, 2], steps: 3, batter: 20 })).toMatch(/no tread left at a batter of 20 degrees/);
    expect(
      refused({
        shape: 'box',
        line: [
          [0, 0, 0],
          [1, 0, 0],
        ],
      }),
    ).toMatch(/a box has no line/);
  });
});

describe('a void', () => {
  const build = (...blocks: Block[]) => new BlockBuilder(kernel).build(blocks);

  it('of a door in a cube of 2.40 m leaves what is worked by hand', () => {
    const cube = block({ size: [2.4, 2.4, 2.4], at: [10, 1, 20] });
    const door = cut({ size: [1, 2.1, 3], at: [10, 1, 20] });
    const [built] = build(cube, door);
    expect(built.volume).toBeCloseTo(2.4 ** 3 - 1 * 2.1 * 2.4, 5);
    // Six faces less the door's two ends and its foot, and two jambs and a head more.
    expect(measure(built).area).toBeCloseTo(6 * 2.4 ** 2 - 2 * 2.1 - 2.4 + 2 * 2.1 * 2.4 + 2.4, 4);
    expect(measure(built).volume).toBeCloseTo(built.volume, 4);
    expect(built.min.map((v) => Number(v.toFixed(4)))).toEqual([8.8, 1, 18.8]);
    const jambs = [...built.cutBy].filter((v) => v > 0).length;
    expect(jambs).toBe(6);
    expect(built.voids).toEqual([door.id]);
  });

  it('cuts what it meets, or its own group only; a solid that nothing cuts stays plain', () => {
    const far = block({ at: [50, 0, 0] });
    const mine = block({ group: 'shed' });
    const other = block({ at: [1, 0, 0] });
    const only = cut({ group: 'shed', cuts: 'group', size: [1, 1, 1] });
    const all = cut({ size: [1, 1, 1], at: [0, 2, 0] });
    const split = splitBlocks([far, mine, other, only, all]);
    expect(split.plain).toEqual([far]);
    expect(split.special.map((s) => [s.block, s.voids])).toEqual([
      [mine, [only, all]],
      [other, [all]],
    ]);
  });

  it('gives the same bytes from the same level, however it was reached', () => {
    const wall = block({ size: [10, 4, 0.4] });
    const holes = [0, 1, 2].map((i) => cut({ size: [1, 1, 1], at: [-3 + i * 3, 1, 0] }));
    const [fresh] = build(wall, ...holes);
    const builder = new BlockBuilder(kernel);
    builder.build([wall, holes[2]]);
    builder.build([wall, ...holes, cut({ at: [0, 0, 0], size: [0.5, 0.5, 0.5] })]);
    builder.build([wall, ...holes], { moving: new Set([holes[1].id]) });
    const [after] = builder.build([holes[1], holes[0], wall, holes[2]]);
    expect(after.positions).toEqual(fresh.positions);
    expect(after.indices).toEqual(fresh.indices);
    expect(after.cutBy).toEqual(fresh.cutBy);
  });

  it('tells how far it is, and stops when asked: what is built is kept', () => {
    const walls = [0, 1, 2].map((i) => block({ size: [4, 4, 0.4], at: [i * 10, 0, 0] }));
    const hole = cut({ size: [60, 1, 1], at: [0, 1, 0] });
    const shares: number[] = [];
    const builder = new BlockBuilder(kernel);
    expect(
      builder.build([...walls, hole], {
        onBuilt: (share) => {
          shares.push(share);
          return shares.length < 2;
        },
      }),
    ).toBeUndefined();
    expect(shares).toEqual([1 / 3, 2 / 3]);
    expect(
      builder
        .build([...walls, hole], {
          onBuilt: (share) => {
            shares.push(share);
            return true;
          },
        })!
        .map((b) => b.indices),
    ).toEqual(build(...walls, hole).map((b) => b.indices));
    expect(shares.slice(2)).toEqual([1 / 3, 2 / 3, 1]);
    builder.dispose();
  });

  it('dragged leaves the same solid as built from nothing', () => {
    const slab = block({ size: [20, 1, 20] });
    const holes = Array.from({ length: 12 }, (_, i) =>
      cut({ shape: i % 2 ? 'cylinder' : 'box', size: [2, 3, 2], at: [-8 + (i % 4) * 5, -1, -7 + Math.floor(i / 4) * 6] }),
    );
    const builder = new BlockBuilder(kernel);
    for (let step = 0; step < 5; step++) {
      const moved = holes.map((h, i) => (i === 5 ? { ...h, at: [h.at[0] + step * 0.7, h.at[1], h.at[2]] as Block['at'] } : h));
      const [quick] = builder.build([slab, ...moved], { moving: new Set([holes[5].id]) })!;
      const [slow] = build(slab, ...moved);
      expect(quick.volume).toBeCloseTo(slow.volume, 3);
      expectClosed(quick);
    }
    builder.dispose();
  });

  it('leaves walls whose thickness can be asked for where they are', () => {
    const [shed] = build(block({ size: [8, 3, 6] }), cut({ size: [7.4, 2.5, 5.2] }));
    expect(thicknessAt(shed, [0, 1, 3], [0, 0, -1])).toBeCloseTo(0.4, 5);
    expect(thicknessAt(shed, [4, 1, 0], [-1, 0, 0])).toBeCloseTo(0.3, 5);
    expect(thicknessAt(shed, [0, 2.8, 3], [0, 0, -1])).toBeCloseTo(6, 5);
  });

  it('shows in a vertical cut as what is left: a room in a shed is an outline in an outline', () => {
    const [shed] = build(block({ size: [8, 3, 6] }), cut({ size: [7.4, 2.5, 5.2], at: [0, 0.25, 0] }), cut({ size: [1, 2.1, 3], at: [0, 0.25, 3] }));
    const area = (line: CutLine) =>
      cutLoops(shed, line).map((loop) =>
        Math.abs(
          loop.reduce((sum, [s, h], i) => {
            const [s2, h2] = loop[(i + 1) % loop.length];
            return sum + (s * h2 - s2 * h) / 2;
          }, 0),
        ),
      );
    // Off the door: the whole less the room.
    expect(
      area({ x0: 2.013, z0: 0, dx: 0, dz: 1 })
        .sort((a, b) => b - a)
        .map((v) => Number(v.toFixed(3))),
    ).toEqual([18, 13]);
    // Through the door the room is open: one outline.
    expect(area({ x0: 0.013, z0: 0, dx: 0, dz: 1 }).map((v) => Number(v.toFixed(3)))).toEqual([Number((18 - 13 - 0.4 * 2.1).toFixed(3))]);
    expect(cutLoops(shed, { x0: 9, z0: 0, dx: 0, dz: 1 })).toEqual([]);
  });

  it('that swallows everything leaves an empty solid, which says so', () => {
    const [built] = build(block({}), cut({ size: [10, 10, 10], at: [0, -1, 0] }));
    expect(built.indices.length).toBe(0);
    expect(built.volume).toBe(0);
  });

  it('leaves closed solids whose volume a sampling confirms, over 500 random sets', () => {
    const some = fc.record({
      shape: fc.constantFrom(...SETTABLE),
      size: fc.tuple(...[0, 1, 2].map(() => fc.double({ min: 1.2, max: 6, noNaN: true }))),
      at: fc.tuple(...[0, 1, 2].map(() => fc.double({ min: -2, max: 2, noNaN: true }))),
      turn: fc.integer({ min: -180, max: 180 }),
      steps: fc.integer({ min: 1, max: 9 }),
    });
    fc.assert(
      fc.property(some, fc.array(some, { minLength: 1, maxLength: 4 }), (solid, voids) => {
        const blocks = [block({ ...solid, wall: 0.3 } as Partial<Block>), ...voids.map((v) => cut({ ...v, wall: 0.3 } as Partial<Block>))];
        for (const built of build(...blocks)) {
          expectClosed(built);
          expect(measure(built).volume).toBeCloseTo(built.volume, 2);
          // No self-intersection: the kernel takes its own result back without losing any of it.
          const again = new kernel.Manifold(new kernel.Mesh({ numProp: 3, vertProperties: built.positions, triVerts: built.indices }));
          expect(again.status()).toBe('NoError');
          expect(Math.abs(again.volume() - built.volume)).toBeLessThan(1e-3 * Math.max(1, built.volume));
          again.delete();
        }
      }),
      { numRuns: 500 },
    );
  });
});
