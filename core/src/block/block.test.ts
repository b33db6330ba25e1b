import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { add, cross, dot, normalize, scale, sub, type Vec3 } from '../num/vec';
import { testBlock } from '../testing/levels';
import { cutSolid } from './cut';
import { blockGrid, blocksNear, rayBlocks } from './grid';
import { blockBounds, blockSolid, blockToLevel, blockTriangles, blockVolume, faceNormal, levelToBlock, raySolid, solidSpanAt, solidTriangles } from './solid';

const size = fc.tuple(
  fc.double({ min: 0.1, max: 12, noNaN: true }),
  fc.double({ min: 0.1, max: 12, noNaN: true }),
  fc.double({ min: 0.1, max: 12, noNaN: true }),
);
const block = fc
  .tuple(fc.constantFrom('box' as const, 'ramp' as const), size, fc.double({ min: -180, max: 180, noNaN: true }))
  .map(([shape, s, turn]) => testBlock(shape, s, [3, 1, -2], turn));

/** Volume by the divergence theorem over the triangles. */
function meshVolume(solid: ReturnType<typeof blockSolid>): number {
  const t = solidTriangles(solid);
  let six = 0;
  for (let i = 0; i < t.length; i += 3) {
    const [a, b, c] = [solid.corners[t[i]], solid.corners[t[i + 1]], solid.corners[t[i + 2]]];
    six += dot(a, cross(b, c));
  }
  return six / 6;
}

describe('a block', () => {
  it('is a closed solid of its own dimensions, whatever its turn', () => {
    fc.assert(
      fc.property(block, (b) => {
        const solid = blockSolid(b);
        expect(meshVolume(solid)).toBeCloseTo(blockVolume(b), 6);
        expect(solidTriangles(solid).length / 3).toBe(blockTriangles(b));
        // Every edge is shared by two faces, run through in opposite directions.
        const edges = new Map<string, number>();
        for (const f of solid.faces)
          f.corners.forEach((c, i) =>
            edges.set(`${c},${f.corners[(i + 1) % f.corners.length]}`, (edges.get(`${c},${f.corners[(i + 1) % f.corners.length]}`) ?? 0) + 1),
          );
        for (const [edge, n] of edges) {
          expect(n).toBe(1);
          expect(edges.get(edge.split(',').reverse().join())).toBe(1);
        }
        const centre = scale(
          solid.corners.reduce((s, c) => add(s, c), [0, 0, 0] as Vec3),
          1 / solid.corners.length,
        );
        for (const f of solid.faces) expect(dot(faceNormal(solid, f), sub(solid.corners[f.corners[0]], centre))).toBeGreaterThan(0);
      }),
    );
  });

  it('worked by hand: 4 x 2 x 3 m turned a quarter lies 3 m along x and 4 m along z', () => {
    const b = testBlock('box', [4, 2, 3], [10, 5, 20], 90);
    const { min, max } = blockBounds(b);
    expect(min.map((v) => Math.round(v * 1e6) / 1e6)).toEqual([8.5, 5, 18]);
    expect(max.map((v) => Math.round(v * 1e6) / 1e6)).toEqual([11.5, 7, 22]);
    expect(blockVolume(b)).toBe(24);
    expect(blockVolume({ shape: 'ramp', size: [4, 2, 3] })).toBe(12);
  });

  it('turns points there and back', () => {
    fc.assert(
      fc.property(block, fc.double({ min: -5, max: 5, noNaN: true }), fc.double({ min: -5, max: 5, noNaN: true }), (b, x, z) => {
        const back = levelToBlock(b, blockToLevel(b, x, 0.3, z));
        expect(back[0]).toBeCloseTo(x, 9);
        expect(back[1]).toBeCloseTo(0.3, 9);
        expect(back[2]).toBeCloseTo(z, 9);
      }),
    );
  });

  it('a ramp rises along its own x: half height in the middle', () => {
    const b = testBlock('ramp', [6, 3, 2], [0, 1, 0], 0);
    expect(solidSpanAt(b, 0, 0)).toEqual({ bottom: 1, top: 2.5, face: 'top' });
    expect(solidSpanAt(b, 3, 0)!.top).toBeCloseTo(4);
    expect(solidSpanAt(b, 3.01, 0)).toBeUndefined();
    expect(solidSpanAt(b, 0, 1.01)).toBeUndefined();
  });
});

describe('rays', () => {
  it('enter a solid where a march in small steps first finds it', () => {
    const inside = (b: Parameters<typeof solidSpanAt>[0], p: Vec3) => {
      const span = solidSpanAt(b, p[0], p[2]);
      return span !== undefined && p[1] >= span.bottom && p[1] <= span.top;
    };
    fc.assert(
      fc.property(block, fc.double({ min: 0, max: 6.28, noNaN: true }), fc.double({ min: -1, max: 1, noNaN: true }), (b, a, up) => {
        const origin: Vec3 = [3 + Math.cos(a) * 30, 1 + up * 10 + 3, -2 + Math.sin(a) * 30];
        const d = normalize(sub([3, 1 + b.size[1] * 0.3, -2], origin));
        const hit = raySolid(blockSolid(b), origin, d);
        let slow: number | undefined;
        for (let t = 0; t < 60 && slow === undefined; t += 0.01) if (inside(b, add(origin, scale(d, t)))) slow = t;
        if (slow !== undefined) expect(Math.abs(hit!.distance - slow)).toBeLessThan(0.011);
        else if (hit) expect(inside(b, add(origin, scale(d, hit.distance + 0.005)))).toBe(false);
      }),
      { numRuns: 60 },
    );
  });

  it('find the nearest of many', () => {
    const blocks = Array.from({ length: 40 }, (_, i) => testBlock('box', [1, 2, 1], [i * 3, 0, 0], i * 9));
    const hit = rayBlocks(blocks, [-10, 1, 0], [1, 0, 0], 500)!;
    expect(hit.block).toBe(blocks[0]);
    expect(hit.distance).toBeCloseTo(9.5);
    expect(hit.face).toBe('west');
    expect(rayBlocks(blocks, [-10, 1, 0], [1, 0, 0], 9)).toBeUndefined();
    expect(rayBlocks(blocks, [-10, 3, 0], [1, 0, 0], 500)).toBeUndefined();
  });
});

describe('the cell grid', () => {
  it('lists a block in every cell its plan bounds touch', () => {
    const wide = testBlock('box', [40, 1, 1], [16, 0, 8]);
    const grid = blockGrid([wide]);
    expect([...grid.keys()].sort()).toEqual(['-1,0', '0,0', '1,0', '2,0']);
    expect(blocksNear(grid, 35, 8)).toEqual([wide]);
    expect(blocksNear(grid, 35, 20)).toEqual([]);
  });
});

describe('a vertical cut', () => {
  it('through a box is a rectangle of its true height and width', () => {
    const b = testBlock('box', [4, 2, 3], [0, 1, 0], 0);
    const cut = cutSolid(blockSolid(b), { x0: 0, z0: 0, dx: 1, dz: 0 });
    expect(cut.map(([s, h]) => [Math.round(s * 1e9) / 1e9, h]).sort()).toEqual([
      [-2, 1],
      [-2, 3],
      [2, 1],
      [2, 3],
    ]);
    expect(cutSolid(blockSolid(b), { x0: 0, z0: 5, dx: 1, dz: 0 })).toEqual([]);
  });

  it('through a ramp lengthways is its triangle', () => {
    const cut = cutSolid(blockSolid(testBlock('ramp', [6, 3, 2], [0, 0, 0])), { x0: 0, z0: 0, dx: 1, dz: 0 });
    expect(cut.map(([s, h]) => [s, h]).sort((a, b) => a[0] - b[0] || a[1] - b[1])).toEqual([
      [-3, 0],
      [3, 0],
      [3, 3],
    ]);
  });

  it('has the area that sampling the solid gives', () => {
    fc.assert(
      fc.property(block, fc.double({ min: 0, max: 3.1, noNaN: true }), (b, a) => {
        const line = { x0: 3.02, z0: -2.013, dx: Math.cos(a), dz: Math.sin(a) };
        const cut = cutSolid(blockSolid(b), line);
        let area = 0;
        cut.forEach(([s, h], i) => {
          const [s2, h2] = cut[(i + 1) % cut.length];
          area += (s * h2 - s2 * h) / 2;
        });
        let slow = 0;
        const step = 0.01;
        for (let s = -12; s < 12; s += step) {
          const span = solidSpanAt(b, line.x0 + line.dx * s, line.z0 + line.dz * s);
          if (span) slow += (span.top - span.bottom) * step;
        }
        expect(Math.abs(area - slow)).toBeLessThan(0.02 * b.size[1] + 0.02);
      }),
      { numRuns: 40 },
    );
  });
});

describe('blocks by cell', () => {
  it('are those whose bounds meet the cell, in their order, however wide some are', () => {
    const sized = fc.record({
      x: fc.integer({ min: -300, max: 2000 }),
      z: fc.integer({ min: -300, max: 2000 }),
      side: fc.constantFrom(2, 40, 900, 1500, 4000),
      turn: fc.constantFrom(0, 30, 90),
    });
    const spot = fc.tuple(fc.double({ min: -3000, max: 5000, noNaN: true }), fc.double({ min: -3000, max: 5000, noNaN: true }));
    fc.assert(
      fc.property(fc.array(sized, { minLength: 1, maxLength: 8 }), fc.array(spot, { minLength: 5, maxLength: 12 }), (list, spots) => {
        const blocks = list.map((b, i) => testBlock('box', [b.side, 3, b.side], [b.x, 0, b.z], b.turn, { id: `b${i}` }));
        const grid = blockGrid(blocks);
        const cell = (v: number) => Math.floor(v / 16);
        for (const [x, z] of spots) {
          const there = blocks.filter((b) => {
            const { min, max } = blockBounds(b);
            return cell(x) >= cell(min[0]) && cell(x) <= cell(max[0]) && cell(z) >= cell(min[2]) && cell(z) <= cell(max[2]);
          });
          expect(blocksNear(grid, x, z).map((b) => b.id)).toEqual(there.map((b) => b.id));
        }
      }),
      { numRuns: 40 },
    );
  });

  it('are found without filling a cell each: a thousand of 4 km', () => {
    const grid = blockGrid(Array.from({ length: 1000 }, (_, i) => testBlock('box', [4000, 3, 4000], [i, 0, i], 0, { id: `w${i}` })));
    expect([grid.size, blocksNear(grid, 500, 500).length, blocksNear(grid, 9000, 500).length]).toEqual([0, 1000, 0]);
  });
});
