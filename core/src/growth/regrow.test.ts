import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { wholeRect } from '../earth/compose';
import { BlockScene } from '../block/grid';
import type { Block, GroundRule, GrowthWhere, Habitat, PlantObject, Species, Surface } from '../level/objects';
import { TILE_SAMPLES, tileKey } from '../level/tiles';
import { composeGround, makeGround } from '../surface/ground';
import { groundDefaults } from '../surface/surfaces';
import { growthOn, testSpecies } from '../testing/growth';
import { terrainOf } from '../testing/levels';
import { grow, type GrowthInput } from './grow';
import { growthDirt } from './growthDirt';
import { GrowthRoom } from './growthRoom';
import { PLANT_STRIDE, type Plants } from './plants';
import { growAgain, regrow } from './regrow';

const hills = (x: number, z: number) => 3 * Math.sin(x / 17) * Math.cos(z / 23);
const rule: Species['rule'] = { on: true, slope: [0, 30], height: [-2.5, 500], soft: 4, grounds: ['turf', 'moss', 'slate'] };
const species = (): Species[] => [
  testSpecies('birch', 0, { density: 0.8, spacing: 5, clearance: 1.5, rule }),
  testSpecies('gorse', 1, { leanToSlope: 0.7, sink: 0.1, density: 3, spacing: 1.6, clearance: 0.6, rule }),
  testSpecies('bracken', 2, { density: 1, spacing: 0.5, clearance: 0.2, rule, about: { species: 'gorse', chance: 0.4, count: [1, 4], spread: 1.8 } }),
  testSpecies('heather', 3, {
    density: 8,
    spacing: 0.9,
    clearance: 0.3,
    rule: {
      ...rule,
      where: [
        { is: { by: 'plants', species: 'birch', band: [0, 9], soft: 3 } },
        { is: { by: 'canopy', band: [0, 0.5], soft: 0.3 }, or: true },
        { is: { by: 'noise', band: [0.4, 1], soft: 0.2, seed: 4, scale: 12 }, or: true },
      ],
    },
  }),
  testSpecies('moss cushion', 4, { id: 'moss', density: 3, spacing: 0.6, clearance: 0.1, rule: { ...rule, on: false } }),
];
const heath: Habitat = {
  id: 'heath',
  version: 1,
  kind: 'habitat',
  name: 'heath',
  order: 0,
  area: 'drawn',
  outlines: [
    [
      [20, 20],
      [100, 30],
      [90, 100],
      [30, 90],
    ],
  ],
  soft: 6,
  where: [{ is: { by: 'slope', band: [3, 90], soft: 2 } }],
  rules: [
    {
      id: 'r',
      name: 'low',
      on: true,
      density: 9,
      mix: [
        { species: 'moss', weight: 2 },
        { species: 'heather', weight: 1 },
      ],
      children: [{ species: 'bracken', chance: 0.3, count: [1, 2], spread: 1, size: 0.6 }],
      where: [{ is: { by: 'curvature', band: [-0.1, 50], soft: 0.1, over: 3 } }],
    },
  ],
  on: true,
};

/** Of a level of 128 m with everything in it that growth goes by near a place. */
function level(more: Partial<GrowthInput> = {}, lift = (x: number, z: number) => hills(x, z)): GrowthInput {
  const terrain = terrainOf(lift, 4);
  const input = growthOn(terrain, species(), { habitats: [heath], markers: [{ at: [70, 0, 60], marker: 'entry' }], ...more });
  const defaults = groundDefaults();
  const ground = makeGround(
    terrain.grid,
    defaults.filter((o): o is Surface => o.kind === 'surface'),
  );
  composeGround(
    ground,
    { terrain, stack: [], tiles: input.tiles, waters: [], rules: defaults.filter((o): o is GroundRule => o.kind === 'groundRule') },
    wholeRect(terrain.grid),
  );
  return { ...input, ground };
}

const bump =
  (cx: number, cz: number, tall: number, radius = 6) =>
  (x: number, z: number) => {
    const d = Math.hypot(x - cx, z - cz) / radius;
    return hills(x, z) + (d < 1 ? tall * (1 - d * d) ** 2 : 0);
  };
const dab = (id: string, channel: 'sown' | 'area', by: number) => {
  const tile = new Int32Array(TILE_SAMPLES);
  for (let z = 20; z < 34; z++) for (let x = 12; x < 30; x++) tile[z * 65 + x] = by;
  return new Map([[tileKey(id, channel, 1, 2), tile]]);
};
const hand = (id: string, at: [number, number, number], more: Partial<PlantObject> = {}): PlantObject => ({
  id,
  version: 1,
  kind: 'plant',
  name: id,
  species: 'gorse',
  at,
  turn: 0,
  scale: 1,
  gone: false,
  hidden: false,
  out: false,
  ...more,
});

/** Grown again where two inputs differ, and what growing all of the second gives. */
function both(before: GrowthInput, after: GrowthInput): { again: Plants[] | undefined; whole: Plants[] } {
  const was = grow(before);
  const dirt = growthDirt(before, after);
  return { again: dirt && dirt !== 'all' ? regrow(after, was, dirt, new GrowthRoom()) : undefined, whole: grow(after) };
}
const same = (before: GrowthInput, after: GrowthInput) => {
  const { again, whole } = both(before, after);
  expect(again).toBeDefined();
  expect(again).toEqual(whole);
  expect(whole).not.toEqual(grow(before));
};

describe('growing again what a change touches', () => {
  it('is what growing all gives, bit for bit: a dab of the ground, anywhere', () => {
    const before = level();
    fc.assert(
      fc.property(fc.integer({ min: 10, max: 118 }), fc.integer({ min: 10, max: 118 }), fc.double({ min: -3, max: 3, noNaN: true }), (x, z, tall) => {
        const after = level({}, bump(x, z, tall));
        const { again, whole } = both(before, after);
        expect(again === undefined || growthDirt(before, after) !== undefined).toBe(true);
        if (again) expect(again).toEqual(whole);
      }),
      { numRuns: 12 },
    );
    same(before, level({}, bump(60, 60, 3)));
    same(before, level({}, bump(2, 126, 3)));
  });

  it('is so for what is sown, cleared and painted of a habitat', () => {
    same(level(), level({ tiles: dab('heather', 'sown', 2000) }));
    same(level(), level({ tiles: dab('moss', 'sown', -1024) }));
    same(level(), level({ tiles: dab('heath', 'area', -1024) }));
    same(level({ tiles: dab('birch', 'sown', 900) }), level());
    // Trees that keep much free: what they kept away comes as far beside the dab.
    const wide = species().map((s) => (s.id === 'birch' ? { ...s, density: 4, clearance: 4 } : s));
    same(level({ species: wide }), level({ species: wide, tiles: dab('birch', 'sown', -1024) }));
  });

  it('is so for what is set, moved and removed by hand', () => {
    same(level(), level({ plants: [hand('p1', [50, 0, 50])] }));
    same(
      level({ plants: [hand('p1', [50, 0, 50]), hand('p2', [80, 0, 80], { species: 'birch' })] }),
      level({ plants: [hand('p1', [58, 0, 44]), hand('p2', [80, 0, 80], { species: 'birch' })] }),
    );
    // The first of its kind, where none grows.
    const none = species().map((s) => (s.id === 'gorse' ? { ...s, density: 0 } : s));
    same(level({ species: none }), level({ species: none, plants: [hand('p1', [50, 0, 50])] }));
    same(level(), level({ plants: [hand('p1', [50, 0, 50], { gone: true, was: [50, 50], radius: 7 })] }));
  });

  it('is so for what grows under crowns, as far as they reach', () => {
    const [birch, gorse] = species();
    const where: GrowthWhere[] = [{ is: { by: 'canopy', band: [0.02, 1], soft: 0.02 } }];
    const shaded = [
      { ...birch, spacing: 0.6, clearance: 0, height: [12, 14] as [number, number] },
      { ...gorse, spacing: 0.6, density: 30, clearance: 0, rule: { ...rule, where } },
    ];
    const before = level({ species: shaded, habitats: [] });
    const [trees, under] = grow(before);
    expect(under.count).toBeGreaterThan(20);
    for (let i = 0; i < trees.count; i += 9) {
      const [x, y, z] = trees.place.subarray(i * PLANT_STRIDE, i * PLANT_STRIDE + 3);
      same(before, level({ species: shaded, habitats: [], plants: [hand('p1', [x, y, z], { species: 'birch', gone: true, radius: 0.5 })] }));
    }
  });

  it('is so for a block that comes, moves and goes; all grows where something is kept from blocks', () => {
    const scene = new BlockScene();
    const block = (x: number): Block =>
      ({ id: 'b', version: 1, kind: 'block', name: 'b', shape: 'box', size: [8, 2, 6], at: [x, 1, 70], turn: 20, hidden: false, out: false }) as Block;
    scene.put({ ...block(20), id: 'far' } as Block);
    let last = { input: level({ blocks: scene.grid }), grown: [] as Plants[] };
    last.grown = grow(last.input);
    scene.takeMoved();
    const steps = [() => scene.put(block(60)), () => scene.put(block(66)), () => scene.delete('b')];
    for (const step of steps) {
      step();
      const input = level({ blocks: scene.grid });
      const moved = scene.takeMoved();
      const grown = growAgain(last, input, moved, new GrowthRoom());
      expect(moved.length).toBeGreaterThan(0);
      expect(grown).toEqual(grow(input));
      expect(grown).not.toEqual(last.grown);
      last = { input, grown };
    }
    expect(growAgain(last, last.input, [], new GrowthRoom())).toBe(last.grown);
    const shy = species().map((s) =>
      s.id === 'birch' ? { ...s, rule: { ...rule, where: [{ is: { by: 'block' as const, band: [4, 200] as [number, number], soft: 2 } }] } } : s,
    );
    const before = level({ blocks: scene.grid, species: shy });
    const grown = grow(before);
    scene.takeMoved();
    scene.put(block(90));
    const after = level({ blocks: scene.grid, species: shy });
    expect(growAgain({ input: before, grown }, after, scene.takeMoved(), new GrowthRoom())).toEqual(grow(after));
  });

  it('says that all has to grow where a change may reach anywhere', () => {
    const before = level();
    expect(growthDirt(before, level({ species: species().map((s) => ({ ...s, seed: s.seed + 1 })) }))).toBe('all');
    expect(growthDirt(before, level({ markers: [] }))).toBe('all');
    expect(growthDirt(before, level({ habitats: [{ ...heath, soft: 2 }] }))).toBe('all');
    expect(growthDirt(before, level())).toBeUndefined();
    const shore = level({
      species: species().map((s) => ({ ...s, rule: { ...s.rule, where: [{ is: { by: 'shore' as const, band: [-500, 500] as [number, number], soft: 1 } }] } })),
    });
    expect(regrow(shore, grow(shore), { x0: 10, z0: 10, x1: 12, z1: 12 }, new GrowthRoom())).toBeUndefined();
    const full = level({ ceiling: 8 });
    expect(regrow(full, grow(full), { x0: 10, z0: 10, x1: 12, z1: 12 }, new GrowthRoom())).toBeUndefined();
  });
});
