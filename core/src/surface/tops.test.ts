import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { blockGrid, BlockScene } from '../block/grid';
import { meshGrid, placeMesh, type PlacedMesh } from '../block/placedMesh';
import { wholeRect } from '../earth/compose';
import { waterBodies } from '../earth/waters';
import { boxMesh } from '../kit/assetMesh';
import type { Block, GroundCondition, GroundRule, Surface, Water } from '../level/objects';
import { tileKey, TILE_SAMPLES } from '../level/tiles';
import { expectBits } from '../testing/bits';
import { someCondition } from '../testing/conditions';
import { terrainOf, testBlock } from '../testing/levels';
import { composeGround, groundNameAt, groundWeightsAt, makeGround, type GroundRaster, type GroundSource } from './ground';
import { groundAt } from './groundAt';
import { layTops } from './layTops';
import { PlacedScene } from '../kit/placedScene';
import { movedHosts } from './movedHosts';
import { groundDefaults } from './surfaces';
import { topsIn, type Hosts } from './tops';
import { whyGround } from './why';

const surfaces = groundDefaults().filter((o): o is Surface => o.kind === 'surface');
const low = terrainOf(() => -50);
const { grid } = low;
const whole = wholeRect(grid);
const rule = (surface: string, where: GroundCondition[], more: Partial<GroundRule> = {}): GroundRule => ({
  id: `r-${surface}`,
  version: 1,
  kind: 'groundRule',
  name: `${surface} rule`,
  order: 0,
  surface,
  share: 1,
  where,
  wins: false,
  on: true,
  lies: 'tops',
  ...more,
});
const source = (hosts: Hosts, rules: GroundRule[], more: Partial<GroundSource> = {}): GroundSource => ({
  terrain: low,
  stack: [],
  tiles: new Map(),
  waters: [],
  rules,
  hosts,
  ...more,
});
const made = (from: GroundSource): GroundRaster => {
  const ground = makeGround(grid, surfaces);
  composeGround(ground, from, whole);
  return ground;
};
const on = (blocks: Block[], meshes: PlacedMesh[] = []): Hosts => ({ blocks, meshes });
const top = (hosts: Hosts, x: number, z: number) => {
  const t = topsIn(grid, hosts, whole)!;
  const i = (z * 2 - t.rect.z0) * (t.rect.x1 - t.rect.x0 + 1) + x * 2 - t.rect.x0;
  return [t.height[i], t.steep[i]];
};
const shed = testBlock('box', [8, 3, 8], [20, 0, 20]);
const ramp = testBlock('ramp', [10, 4, 6], [40, 1, 20]);

/** Boxes, ramps and box-shaped pieces, turned, some over each other and over the edge of the level. */
const place = fc.record({
  x: fc.integer({ min: -2, max: 66 }),
  z: fc.integer({ min: -2, max: 66 }),
  y: fc.integer({ min: 0, max: 9 }),
  l: fc.integer({ min: 1, max: 14 }),
  w: fc.integer({ min: 1, max: 14 }),
  h: fc.integer({ min: 1, max: 6 }),
  turn: fc.integer({ min: 0, max: 359 }),
  shape: fc.constantFrom('box', 'ramp', 'piece'),
});
const someHosts = fc.array(place, { maxLength: 7 }).map((list): Hosts => ({
  blocks: list.flatMap((p, i) =>
    p.shape === 'piece' ? [] : [testBlock(p.shape as 'box' | 'ramp', [p.l, p.h, p.w], [p.x, p.y, p.z], p.turn, { id: `b${i}` })],
  ),
  meshes: list.flatMap((p, i) =>
    p.shape === 'piece' ? [placeMesh(`m${i}`, `m${i}`, boxMesh([0, 0, 0], [p.l, p.h, p.w]), (x, y, z) => [p.x + x + y * 0.25, p.y + y, p.z + z])] : [],
  ),
}));

describe('tops of what stands on the terrain', () => {
  it('have the height and the steepness of their face, one sample past its edge, and are nowhere else', () => {
    expect([top(on([shed]), 20, 20), top(on([shed]), 24, 17), top(on([shed]), 24.5, 17)]).toEqual([
      [3, 0],
      [3, 0],
      [3, 0],
    ]);
    expect(top(on([shed, ramp]), 26, 20)[0]).toBeNaN();
    // 4 m up over 10 m, from x = 35 on; its foot stands at 1 m.
    const [height, steep] = top(on([ramp]), 40, 20);
    expect(height).toBeCloseTo(3, 5);
    expect(steep).toBeCloseTo(0.4, 5);
    expect(top(on([shed, testBlock('box', [2, 9, 2], [20, 0, 20])]), 20, 20)[0]).toBe(9);
    expect(topsIn(grid, on([shed]), { x0: 60, z0: 60, x1: 90, z1: 90 })).toBeUndefined();
    expect(topsIn(grid, on([testBlock('box', [4, 4, 4], [-30, 0, 20])]), whole)).toBeUndefined();
  });

  it('are what stands highest there, point by point', () => {
    fc.assert(
      fc.property(someHosts, (hosts) => {
        const t = topsIn(grid, hosts, whole);
        const [blocks, meshes] = [blockGrid(hosts.blocks), meshGrid(hosts.meshes)];
        for (let z = 0; z < grid.nz; z += 3) {
          for (let x = 0; x < grid.nx; x += 3) {
            const g = groundAt(low, blocks, [x / 2, 1e6, z / 2], { meshes });
            if (g.host.kind === 'terrain') continue;
            expect(t!.height[(z - t!.rect.z0) * (t!.rect.x1 - t!.rect.x0 + 1) + x - t!.rect.x0]).toBeCloseTo(g.height, 4);
          }
        }
      }),
      { numRuns: 25 },
    );
  });
});

describe('rules that lie on tops', () => {
  const shares = (ground: GroundRaster, x: number, z: number, tops: boolean) =>
    [...groundWeightsAt(ground, x, z, tops, new Float64Array(16))].slice(0, 4).map((v) => Number(v.toFixed(2)));

  it('lie there alone, there and on the ground, or on the ground alone', () => {
    const at = (lies?: 'tops' | 'both') => {
      const g = made(source(on([shed]), [rule('moss', [], { lies })]));
      return [groundNameAt(g, 20, 20, true), groundNameAt(g, 20, 20, false), groundNameAt(g, 40, 40, true)];
    };
    expect([at(), at('tops'), at('both')]).toEqual([
      ['blockout', 'moss', 'blockout'],
      ['moss', 'turf', 'blockout'],
      ['moss', 'moss', 'blockout'],
    ]);
    // Turned off it lies nowhere.
    expect(groundNameAt(made(source(on([shed]), [rule('moss', [], { on: false })])), 20, 20, true)).toBe('blockout');
  });

  it('go by the slope and the height of the top, and by its place; what is of the ground lets nothing in', () => {
    const hosts = on([shed, ramp]);
    const name = (where: GroundCondition[], x: number, more: Partial<GroundSource> = {}) =>
      groundNameAt(made(source(hosts, [rule('moss', where)], more)), x, 20, true);
    const steep: GroundCondition = { by: 'slope', band: [15, 90], soft: 2 };
    expect([name([steep], 20), name([steep], 40)]).toEqual(['blockout', 'moss']);
    const high: GroundCondition = { by: 'height', band: [3.5, 50], soft: 0 };
    expect([name([high], 20), name([high], 37), name([high], 44)]).toEqual(['blockout', 'blockout', 'moss']);
    const dish = terrainOf((x, z) => Math.hypot(x - 32, z - 32) / 4 - 3);
    const pool: Water = { id: 'pool', version: 1, kind: 'water', form: 'pool', name: 'pool', height: 0, seed: [32, 32], hidden: false, out: false };
    const waters = waterBodies(dish, [pool]).bodies;
    // The shed's top lies 3 m over the pool, the ramp's middle too; the ramp's foot 1.4 m.
    const wet: GroundCondition = { by: 'water', band: [-9, 2], soft: 0 };
    expect([name([wet], 20, { terrain: dish, waters }), name([wet], 36, { terrain: dish, waters })]).toEqual(['blockout', 'moss']);
    for (const by of ['runoff', 'scour', 'settle'] as const) expect(name([{ by, band: [-1, 1], soft: 0 }], 20)).toBe('blockout');
  });

  it('lie under paint unless they win, and leave bare what they do not cover', () => {
    const tiles = new Map([[tileKey('gravel', 'top', 0, 0), new Int32Array(TILE_SAMPLES).fill(512)]]);
    const ground = (wins: boolean) => made(source(on([shed]), [rule('moss', [], { share: 0.8, wins })], { tiles }));
    // turf, slate, gravel, moss: half of 0.8 moss is painted over; winning it takes 0.8 of what the paint left at a half.
    expect([shares(ground(false), 20, 20, true), shares(ground(true), 20, 20, true)]).toEqual([
      [0, 0, 0.5, 0.4],
      [0, 0, 0.1, 0.8],
    ]);
  });

  it('tell why: the rule, what it goes by on the top, and the paint', () => {
    const from = source(on([ramp]), [rule('moss', [{ by: 'slope', band: [15, 90], soft: 2 }])]);
    expect(whyGround(made(from), from, 40, 20, true)).toEqual({
      verdict: 'moss: moss 100 %',
      parts: [
        { what: 'host', value: 'the top of a block or piece: bare until it is painted, or a rule lies on tops' },
        { what: 'moss', value: 'moss rule', factor: 1 },
        { what: '· slope', value: '21.8°, in 15 to 90°', factor: 1 },
      ],
    });
    expect(whyGround(made(from), from, 5, 5, true).verdict).toBe('blockout: bare 100 %');
  });

  const someRules = fc
    .array(
      fc.record({
        surface: fc.constantFrom('slate', 'moss', 'gravel'),
        where: fc.array(someCondition, { maxLength: 2 }),
        share: fc.constantFrom(1, 0.6),
        wins: fc.boolean(),
        lies: fc.constantFrom('tops' as const, 'both' as const, undefined),
      }),
      { minLength: 1, maxLength: 4 },
    )
    .map((list) => list.map((r, i) => rule(r.surface, r.where, { ...r, id: `r${i}` })));
  const samples = (ground: GroundRaster) => [ground.topOf, ground.tops, ground.of, ground.weights];
  /** Shares on tops; whose a slot is matters only where it has some. */
  const seen = (ground: GroundRaster) => [ground.tops, ground.topOf.map((of, i) => (ground.tops[i] > 0 ? of : 0))];

  /** Where meshes came, went or moved, as a scene that held the ones and then the others tells it. */
  const changes = (from: readonly PlacedMesh[], to: readonly PlacedMesh[]) => {
    const scene = new PlacedScene();
    for (const m of from) scene.put(m);
    scene.takeMoved();
    const ids = new Set(to.map((m) => m.id));
    for (const m of from) if (!ids.has(m.id)) scene.delete(m.id);
    for (const m of to) scene.put(m);
    return scene.takeMoved();
  };

  /** The same of blocks. */
  const blockChanges = (from: readonly Block[], to: readonly Block[]) => {
    const scene = new BlockScene();
    for (const b of from) scene.put(b);
    scene.takeMoved();
    const ids = new Set(to.map((b) => b.id));
    for (const b of from) if (!ids.has(b.id)) scene.delete(b.id);
    for (const b of to) scene.put(b);
    return scene.takeMoved();
  };

  it('give the same bytes by any rectangle, and where things moved the same as the whole', () => {
    fc.assert(
      fc.property(someHosts, someHosts, someRules, fc.tuple(fc.nat(128), fc.nat(128), fc.nat(128), fc.nat(128)), (before, after, rules, [a, b, c, d]) => {
        const ground = made(source(before, rules));
        const part = made(source(on([]), rules));
        layTops(part, source(before, rules), { x0: Math.min(a, b), x1: Math.max(a, b), z0: Math.min(c, d), z1: Math.max(c, d) });
        layTops(part, source(before, rules), whole);
        samples(part).forEach((bytes, i) => expectBits(bytes, samples(ground)[i]));
        // What one half of them keeps stands where it was.
        const kept = { blocks: [...before.blocks.slice(0, 2), ...after.blocks], meshes: [...before.meshes.slice(0, 2), ...after.meshes] };
        const moved = movedHosts(grid, [...blockChanges(before.blocks, kept.blocks), ...changes(before.meshes, kept.meshes)]);
        if (moved) composeGround(ground, source(kept, rules), moved);
        const fresh = made(source(kept, rules));
        seen(ground).forEach((bytes, i) => expectBits(bytes, seen(fresh)[i]));
      }),
      { numRuns: 12 },
    );
  });

  it('are laid anew over nothing where nothing moved, and over both places of what did', () => {
    expect(movedHosts(grid, blockChanges([shed, ramp], [ramp, shed]))).toBeUndefined();
    const there = testBlock('box', [8, 3, 8], [50, 0, 20]);
    expect(movedHosts(grid, blockChanges([shed, ramp], [there, ramp]))).toEqual({ x0: 31, z0: 31, x1: 109, z1: 49 });
    const mesh = (x: number) => placeMesh('m', 'm', boxMesh([0, 0, 0], [4, 2, 4]), (px, py, pz) => [px + x, py, pz]);
    expect(movedHosts(grid, changes([mesh(10)], [mesh(10)]))).toBeUndefined();
    expect(movedHosts(grid, changes([mesh(10)], []))).toEqual({ x0: 19, z0: 0, x1: 29, z1: 9 });
    expect(movedHosts(grid, changes([mesh(10)], [mesh(40)]))).toEqual({ x0: 19, z0: 0, x1: 89, z1: 9 });
  });
});
