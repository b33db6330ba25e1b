import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { beginStroke, endStroke } from '../earth/brush';
import { wholeRect } from '../earth/compose';
import { TEXTURES, type GroundRule, type Route, type Surface } from '../level/objects';
import { makeLevel } from '../level/level';
import { addRasters } from '../num/fixed';
import { testObjects, terrainOf } from '../testing/levels';
import { composeGround, groundNameAt, groundWeightsAt, makeGround } from './ground';
import { readyCondition } from './rules';
import { groundAt } from './groundAt';
import { paintDab } from './paint';
import { groundDefaults, surfacesOf } from './surfaces';
import { surfaceTexture, weave, weaveKey } from './textures';
import { blockGrid } from '../block/grid';
import { testBlock } from '../testing/levels';

const defaults = groundDefaults();
const surfaces = defaults.filter((o): o is Surface => o.kind === 'surface');
const rule = defaults.find((o): o is GroundRule => o.kind === 'groundRule')!;
const ids = surfaces.map((s) => s.id);
const hills = terrainOf((x, z) => 4 * Math.sin(x / 5) + 3 * Math.cos(z / 4));

function ground(terrain = hills, tiles: Map<string, Int32Array> = new Map()) {
  const g = makeGround(terrain.grid, surfaces);
  composeGround(g, { terrain, stack: [], tiles, waters: [], rules: [rule] }, wholeRect(terrain.grid));
  return g;
}
function stroke(tiles: Map<string, Int32Array>, surface: string | undefined, dabs: [number, number][], top = false, strength = 0.6): Map<string, Int32Array> {
  const buffer = beginStroke('', hills.grid);
  for (const [x, z] of dabs) paintDab(buffer, tiles, ids, { surface, radius: 5, strength, hardness: 0.3 }, { x, z, top });
  const next = new Map(tiles);
  for (const { key, delta } of endStroke(buffer)) next.set(key, next.has(key) ? addRasters(next.get(key)!, delta) : delta);
  return next;
}

describe('the slope rule', () => {
  it('is half at its slope, none and all at the ends of its soft edge', () => {
    // A plane that climbs by the tangent of an angle everywhere.
    const share = (deg: number, soft: number, wanted = 32) =>
      readyCondition(
        { by: 'slope', band: [wanted, 90], soft },
        { terrain: terrainOf((x) => x * Math.tan((deg * Math.PI) / 180)), stack: [], tiles: new Map(), waters: [] },
        { x0: 9, z0: 9, x1: 9, z1: 9 },
      ).share(9, 9);
    expect(share(28, 8)).toBeCloseTo(0, 4);
    expect(share(36, 8)).toBeCloseTo(1, 4);
    const middle = (Math.atan((Math.tan((28 * Math.PI) / 180) + Math.tan((36 * Math.PI) / 180)) / 2) * 180) / Math.PI;
    expect(share(middle, 8)).toBeCloseTo(0.5, 3);
    expect(share(29.9, 0, 30)).toBe(0);
    expect(share(30.1, 0, 30)).toBe(1);
    expect(share(88, 0, 30)).toBe(1);
  });

  it('gives turf on the flat and slate on the steep, by name at a point', () => {
    const g = ground(terrainOf((x) => (x < 32 ? 0 : (x - 32) * 1.2)));
    expect(groundNameAt(g, 10, 10, false)).toBe('turf');
    expect(groundNameAt(g, 50, 10, false)).toBe('slate');
  });
});

describe('a route that carries a ground', () => {
  const way = (more: Partial<Route> = {}): Route => ({
    id: 'way',
    version: 1,
    kind: 'lift',
    lift: 'route',
    name: 'way',
    order: 0,
    visible: true,
    line: [
      [8, 0, 32],
      [56, 0, 32],
    ],
    width: 4,
    shoulder: 1,
    grade: 12,
    crossfall: 0,
    batter: 40,
    ground: 'gravel',
    ...more,
  });
  const flat = terrainOf(() => 0);
  const at = (lift: Route, x: number, z: number, tiles: Map<string, Int32Array> = new Map()) => {
    const g = makeGround(flat.grid, surfaces);
    composeGround(g, { terrain: flat, stack: [lift], tiles, waters: [], rules: [rule] }, wholeRect(flat.grid));
    return groundWeightsAt(g, x, z, false, new Float64Array(16));
  };

  it('covers the rule on the way, runs out over its shoulders, and yields to paint', () => {
    expect(at(way(), 32, 33)[2]).toBe(1);
    expect(at(way(), 32, 34.5)[2]).toBeCloseTo(0.5, 2);
    expect(at(way(), 32, 36)[0]).toBe(1);
    expect(at(way({ visible: false }), 32, 33)[0]).toBe(1);
    expect(at(way({ ground: undefined }), 32, 33)[0]).toBe(1);
    expect(
      at(
        way(),
        32,
        32,
        stroke(
          new Map(),
          'moss',
          [
            [32, 32],
            [32, 32],
            [32, 32],
          ],
          false,
          1,
        ),
      )[3],
    ).toBe(1);
  });
});

describe('the ground raster', () => {
  it('sums to the whole at every sample, whatever is painted', () => {
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.constantFrom(...ids, undefined), fc.double({ min: 0, max: 64, noNaN: true }), fc.double({ min: 0, max: 64, noNaN: true })), {
          maxLength: 8,
        }),
        (strokes) => {
          let tiles = new Map<string, Int32Array>();
          for (const [s, x, z] of strokes) tiles = stroke(tiles, s, [[x, z]]);
          const { weights } = ground(hills, tiles);
          for (let i = 0; i < weights.length; i += 4)
            if (weights[i] + weights[i + 1] + weights[i + 2] + weights[i + 3] !== 255) throw new Error(`sample ${i / 4}`);
        },
      ),
      { numRuns: 20 },
    );
  });

  it('by rectangle is the whole, byte for byte', () => {
    fc.assert(
      fc.property(fc.nat(128), fc.nat(128), fc.nat(30), fc.nat(30), (x, z, w, d) => {
        const tiles = stroke(new Map(), 'gravel', [
          [x / 2, z / 2],
          [32, 32],
        ]);
        const g = ground(hills);
        composeGround(
          g,
          { terrain: hills, stack: [], tiles, waters: [], rules: [rule] },
          { x0: Math.max(0, x - 12), z0: Math.max(0, z - 12), x1: Math.min(128, x + 12 + w), z1: Math.min(128, z + 12 + d) },
        );
        composeGround(g, { terrain: hills, stack: [], tiles, waters: [], rules: [rule] }, { x0: 50, z0: 50, x1: 78, z1: 78 });
        expect(Buffer.compare(g.weights, ground(hills, tiles).weights)).toBe(0);
      }),
      { numRuns: 25 },
    );
  });

  it('paint covers the rule and erasing brings it back', () => {
    const flat = terrainOf(() => 0);
    const painted = stroke(
      new Map(),
      'gravel',
      Array.from({ length: 12 }, () => [20, 20] as [number, number]),
    );
    expect(groundNameAt(ground(flat, painted), 20, 20, false)).toBe('gravel');
    expect(groundWeightsAt(ground(flat, painted), 20, 20, false, new Float64Array(16))[2]).toBeGreaterThan(0.98);
    expect(groundNameAt(ground(flat, painted), 28, 20, false)).toBe('turf');
    const over = stroke(
      painted,
      'moss',
      Array.from({ length: 12 }, () => [20, 20] as [number, number]),
    );
    expect(groundNameAt(ground(flat, over), 20, 20, false)).toBe('moss');
    const back = stroke(
      over,
      undefined,
      Array.from({ length: 20 }, () => [20, 20] as [number, number]),
    );
    expect(groundNameAt(ground(flat, back), 20, 20, false)).toBe('turf');
  });

  it('undone strokes in any order never give more than the whole', () => {
    const a = stroke(
      new Map(),
      'gravel',
      [
        [20, 20],
        [20, 20],
        [20, 20],
      ],
      false,
      1,
    );
    const tiles = new Map(a);
    for (const [key, tile] of stroke(
      new Map(),
      'moss',
      [
        [20, 20],
        [20, 20],
      ],
      false,
      1,
    ))
      tiles.set(key, tile);
    const { weights } = ground(
      terrainOf(() => 0),
      tiles,
    );
    const i = (40 * 129 + 40) * 4;
    expect(weights[i] + weights[i + 1] + weights[i + 2] + weights[i + 3]).toBe(255);
    expect(Math.abs(weights[i + 2] - weights[i + 3])).toBeLessThanOrEqual(1);
  });

  it('tops of blocks are bare until painted, and do not touch the ground under them', () => {
    const flat = terrainOf(() => 0);
    const block = testBlock('box', [8, 3, 8], [20, 0, 20]);
    const g = ground(
      flat,
      stroke(
        new Map(),
        'moss',
        Array.from({ length: 10 }, () => [20, 20] as [number, number]),
        true,
      ),
    );
    const grid = blockGrid([block]);
    expect(groundAt(flat, grid, [20, 9, 20], { ground: g })).toMatchObject({ host: { kind: 'block' }, ground: 'moss' });
    expect(groundAt(flat, grid, [23.9, 9, 23.9], { ground: g }).ground).toBe('blockout');
    expect(groundAt(flat, grid, [20, -0.01, 20], { ground: g })).toMatchObject({ host: { kind: 'terrain' }, ground: 'turf' });
  });
});

describe('surfaces of a level', () => {
  it('are its own by order; without any the shipped ones stand in', () => {
    const level = makeLevel(testObjects());
    expect(surfacesOf(level)).toMatchObject({ own: false, surfaces: [{ id: 'turf' }, { id: 'slate' }, { id: 'gravel' }, { id: 'moss' }] });
    level.objects.set('mud', { ...surfaces[0], id: 'mud', name: 'mud', order: 9 });
    level.objects.set('ash', { ...surfaces[0], id: 'ash', name: 'ash', order: 2 });
    expect(surfacesOf(level)).toMatchObject({ own: true, surfaces: [{ id: 'ash' }, { id: 'mud' }], rules: [] });
  });
});

describe('surface textures', () => {
  it('made one by the heights of the first: all of it, all of the other, or the other in its hollows', () => {
    const [setts, moss] = [surfaceTexture('setts', 32), surfaceTexture('moss', 32)];
    const woven = (level: number) => weave({ texture: 'setts', hollows: { texture: 'moss', level, soft: 0 } }, 32);
    const same = (a: Uint8Array, b: Uint8Array) => {
      let n = 0;
      for (let i = 0; i < a.length; i += 4) if (a[i] === b[i] && a[i + 1] === b[i + 1] && a[i + 2] === b[i + 2]) n++;
      return n / (a.length / 4);
    };
    expect(same(weave({ texture: 'setts' }, 32), setts)).toBe(1);
    expect([same(woven(0.5), setts) + same(woven(0.5), moss) > 0.99, same(woven(0.5), moss) > 0.1, same(woven(0.5), setts) > 0.3]).toEqual([true, true, true]);
    expect(same(woven(1), moss)).toBeGreaterThan(same(woven(0.5), moss));
    expect(weaveKey({ texture: 'setts', hollows: { texture: 'moss', level: 0.5, soft: 0 } })).not.toBe(
      weaveKey({ texture: 'setts', hollows: { texture: 'moss', level: 0.6, soft: 0 } }),
    );
  });

  it('tile: the step over an edge is no larger than the steps inside', () => {
    for (const kind of TEXTURES) {
      const side = 64;
      const t = surfaceTexture(kind, side);
      const step = (x0: number, y0: number, x1: number, y1: number) => Math.abs(t[(y0 * side + x0) * 4 + 1] - t[(y1 * side + x1) * 4 + 1]);
      const mean = (f: (i: number) => number) => Array.from({ length: side }, (_, i) => f(i)).reduce((a, b) => a + b) / side;
      const inside = Math.max(
        mean((i) => step(30, i, 31, i)),
        mean((i) => step(i, 30, i, 31)),
        mean((i) => step(11, i, 12, i)),
        mean((i) => step(i, 47, i, 48)),
      );
      expect([kind, mean((i) => step(side - 1, i, 0, i)) < inside * 2 + 4, mean((i) => step(i, side - 1, i, 0)) < inside * 2 + 4]).toEqual([kind, true, true]);
    }
  });
});
