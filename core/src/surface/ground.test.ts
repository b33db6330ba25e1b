import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { beginStroke, endStroke } from '../earth/brush';
import { wholeRect } from '../earth/compose';
import type { GroundRule, Route, Surface } from '../level/objects';
import { makeLevel } from '../level/level';
import { addRasters } from '../num/fixed';
import { testObjects, terrainOf } from '../testing/levels';
import { composeGround, groundNameAt, groundWeightsAt, makeGround, ruleShare } from './ground';
import { groundAt } from './groundAt';
import { paintDab } from './paint';
import { groundDefaults, surfacesOf } from './surfaces';
import { surfaceTexture } from './textures';
import { blockGrid } from '../block/grid';
import { testBlock } from '../testing/levels';

const defaults = groundDefaults();
const surfaces = defaults.filter((o): o is Surface => o.kind === 'surface');
const rule = defaults.find((o): o is GroundRule => o.kind === 'groundRule')!;
const ids = surfaces.map((s) => s.id);
const hills = terrainOf((x, z) => 4 * Math.sin(x / 5) + 3 * Math.cos(z / 4));

function ground(terrain = hills, tiles: Map<string, Int32Array> = new Map()) {
  const g = makeGround(terrain.grid, surfaces);
  composeGround(g, terrain, rule, tiles, wholeRect(terrain.grid));
  return g;
}
function stroke(tiles: Map<string, Int32Array>, surface: string | undefined, dabs: [number, number][], top = false, strength = 0.6): Map<string, Int32Array> {
  const buffer = beginStroke('', hills.grid);
  for (const [x, z] of dabs) paintDab(buffer, tiles, ids, { surface, radius: 5, strength, hardness: 0.3 }, top, x, z);
  const next = new Map(tiles);
  for (const { key, delta } of endStroke(buffer)) next.set(key, next.has(key) ? addRasters(next.get(key)!, delta) : delta);
  return next;
}

describe('the slope rule', () => {
  it('is half at its slope, none and all at the ends of its soft edge', () => {
    const tan = (deg: number) => Math.tan((deg * Math.PI) / 180);
    expect(ruleShare(rule, tan(28))).toBeCloseTo(0, 9);
    expect(ruleShare(rule, tan(36))).toBeCloseTo(1, 9);
    expect(ruleShare(rule, (tan(28) + tan(36)) / 2)).toBeCloseTo(0.5, 9);
    expect(ruleShare({ slope: 30, soft: 0 }, tan(29.9))).toBe(0);
    expect(ruleShare({ slope: 30, soft: 0 }, tan(30.1))).toBe(1);
  });

  it('gives turf on the flat and slate on the steep, by name at a point', () => {
    const g = ground(terrainOf((x) => (x < 32 ? 0 : (x - 32) * 1.2)));
    expect(groundNameAt(g, 10, 10, false)).toBe('turf');
    expect(groundNameAt(g, 50, 10, false)).toBe('slate');
  });
});

describe('a route that carries a ground', () => {
  const way = (more: Partial<Route> = {}): Route => ({ id: 'way', version: 1, kind: 'lift', lift: 'route', name: 'way', order: 0, visible: true, line: [[8, 0, 32], [56, 0, 32]], width: 4, shoulder: 1, grade: 12, crossfall: 0, batter: 40, ground: 'gravel', ...more });
  const flat = terrainOf(() => 0);
  const at = (lift: Route, x: number, z: number, tiles: Map<string, Int32Array> = new Map()) => {
    const g = makeGround(flat.grid, surfaces);
    composeGround(g, flat, rule, tiles, wholeRect(flat.grid), [lift]);
    return groundWeightsAt(g, x, z, false, new Float64Array(4));
  };

  it('covers the rule on the way, runs out over its shoulders, and yields to paint', () => {
    expect(at(way(), 32, 33)[2]).toBe(1);
    expect(at(way(), 32, 34.5)[2]).toBeCloseTo(0.5, 2);
    expect(at(way(), 32, 36)[0]).toBe(1);
    expect(at(way({ visible: false }), 32, 33)[0]).toBe(1);
    expect(at(way({ ground: undefined }), 32, 33)[0]).toBe(1);
    expect(at(way(), 32, 32, stroke(new Map(), 'moss', [[32, 32], [32, 32], [32, 32]], false, 1))[3]).toBe(1);
  });
});

describe('the ground raster', () => {
  it('sums to the whole at every sample, whatever is painted', () => {
    fc.assert(fc.property(fc.array(fc.tuple(fc.constantFrom(...ids, undefined), fc.double({ min: 0, max: 64, noNaN: true }), fc.double({ min: 0, max: 64, noNaN: true })), { maxLength: 8 }), (strokes) => {
      let tiles = new Map<string, Int32Array>();
      for (const [s, x, z] of strokes) tiles = stroke(tiles, s, [[x, z]]);
      const { weights } = ground(hills, tiles);
      for (let i = 0; i < weights.length; i += 4) if (weights[i] + weights[i + 1] + weights[i + 2] + weights[i + 3] !== 255) throw new Error(`sample ${i / 4}`);
    }), { numRuns: 20 });
  });

  it('by rectangle is the whole, byte for byte', () => {
    fc.assert(fc.property(fc.nat(128), fc.nat(128), fc.nat(30), fc.nat(30), (x, z, w, d) => {
      const tiles = stroke(new Map(), 'gravel', [[x / 2, z / 2], [32, 32]]);
      const g = ground(hills);
      composeGround(g, hills, rule, tiles, { x0: Math.max(0, x - 12), z0: Math.max(0, z - 12), x1: Math.min(128, x + 12 + w), z1: Math.min(128, z + 12 + d) });
      composeGround(g, hills, rule, tiles, { x0: 50, z0: 50, x1: 78, z1: 78 });
      expect(Buffer.compare(g.weights, ground(hills, tiles).weights)).toBe(0);
    }), { numRuns: 25 });
  });

  it('paint covers the rule and erasing brings it back', () => {
    const flat = terrainOf(() => 0);
    const painted = stroke(new Map(), 'gravel', Array.from({ length: 12 }, () => [20, 20] as [number, number]));
    expect(groundNameAt(ground(flat, painted), 20, 20, false)).toBe('gravel');
    expect(groundWeightsAt(ground(flat, painted), 20, 20, false, new Float64Array(4))[2]).toBeGreaterThan(0.98);
    expect(groundNameAt(ground(flat, painted), 28, 20, false)).toBe('turf');
    const over = stroke(painted, 'moss', Array.from({ length: 12 }, () => [20, 20] as [number, number]));
    expect(groundNameAt(ground(flat, over), 20, 20, false)).toBe('moss');
    const back = stroke(over, undefined, Array.from({ length: 20 }, () => [20, 20] as [number, number]));
    expect(groundNameAt(ground(flat, back), 20, 20, false)).toBe('turf');
  });

  it('undone strokes in any order never give more than the whole', () => {
    const a = stroke(new Map(), 'gravel', [[20, 20], [20, 20], [20, 20]], false, 1);
    const tiles = new Map(a);
    for (const [key, tile] of stroke(new Map(), 'moss', [[20, 20], [20, 20]], false, 1)) tiles.set(key, tile);
    const { weights } = ground(terrainOf(() => 0), tiles);
    const i = (40 * 129 + 40) * 4;
    expect(weights[i] + weights[i + 1] + weights[i + 2] + weights[i + 3]).toBe(255);
    expect(Math.abs(weights[i + 2] - weights[i + 3])).toBeLessThanOrEqual(1);
  });

  it('tops of blocks are bare until painted, and do not touch the ground under them', () => {
    const flat = terrainOf(() => 0);
    const block = testBlock('box', [8, 3, 8], [20, 0, 20]);
    const g = ground(flat, stroke(new Map(), 'moss', Array.from({ length: 10 }, () => [20, 20] as [number, number]), true));
    const grid = blockGrid([block]);
    expect(groundAt(flat, grid, [20, 9, 20], { ground: g })).toMatchObject({ host: { kind: 'block' }, ground: 'moss' });
    expect(groundAt(flat, grid, [23.9, 9, 23.9], { ground: g }).ground).toBe('blockout');
    expect(groundAt(flat, grid, [20, -0.01, 20], { ground: g })).toMatchObject({ host: { kind: 'terrain' }, ground: 'turf' });
  });
});

describe('surfaces of a level', () => {
  it('are its own, the first four by order; without any the shipped ones stand in', () => {
    const level = makeLevel(testObjects());
    expect(surfacesOf(level)).toMatchObject({ own: false, surfaces: [{ id: 'turf' }, { id: 'slate' }, { id: 'gravel' }, { id: 'moss' }] });
    level.objects.set('mud', { ...surfaces[0], id: 'mud', name: 'mud', order: 9 });
    level.objects.set('ash', { ...surfaces[0], id: 'ash', name: 'ash', order: 2 });
    expect(surfacesOf(level)).toMatchObject({ own: true, surfaces: [{ id: 'ash' }, { id: 'mud' }], rule: undefined });
  });
});

describe('surface textures', () => {
  it('tile: the step over an edge is no larger than the steps inside', () => {
    for (const kind of ['turf', 'slate', 'gravel', 'moss'] as const) {
      const side = 64;
      const t = surfaceTexture(kind, side);
      const step = (x0: number, y0: number, x1: number, y1: number) => Math.abs(t[(y0 * side + x0) * 4 + 1] - t[(y1 * side + x1) * 4 + 1]);
      const mean = (f: (i: number) => number) => Array.from({ length: side }, (_, i) => f(i)).reduce((a, b) => a + b) / side;
      const inside = Math.max(mean((i) => step(30, i, 31, i)), mean((i) => step(i, 30, i, 31)), mean((i) => step(11, i, 12, i)), mean((i) => step(i, 47, i, 48)));
      expect([kind, mean((i) => step(side - 1, i, 0, i)) < inside * 2 + 4, mean((i) => step(i, side - 1, i, 0)) < inside * 2 + 4]).toEqual([kind, true, true]);
    }
  });
});
