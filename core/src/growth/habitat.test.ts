import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { parseObject, type Habitat, type HabitatRule, type Species } from '../level/objects';
import { TILE_SAMPLES, tileKey } from '../level/tiles';
import type { Point2 } from '../num/outline';
import { growthOn, testSpecies } from '../testing/growth';
import { terrainOf } from '../testing/levels';
import { grow, type GrowthInput } from './grow';
import { countOf, grownParts, passesOf, ruleKey } from './passes';
import { PLANT_STRIDE, plantId, type Plants } from './plants';
import { ruleShares } from './ruleShares';
import { sowArea } from './sowArea';
import { whyHere } from './why';

/** 128 m square, level. */
const flat = terrainOf(() => 1, 4);
const anywhere: Species['rule'] = { on: false, slope: [0, 90], height: [-500, 500], soft: 0, grounds: [] };
const kind = (name: string, order: number, more: Partial<Species> = {}) =>
  testSpecies(name, order, { spacing: 1, clearance: 0, lean: 0, rule: anywhere, ...more });
const rule = (name: string, species: string | string[], density: number, more: Partial<HabitatRule> = {}): HabitatRule => ({
  id: name,
  name,
  on: true,
  density,
  mix: [species].flat().map((s) => ({ species: s, weight: 1 })),
  ...more,
});
const habitat = (name: string, rules: HabitatRule[], more: Partial<Habitat> = {}): Habitat => ({
  id: name,
  version: 1,
  kind: 'habitat',
  name,
  order: 0,
  area: 'rest',
  outlines: [],
  soft: 0,
  rules,
  on: true,
  ...more,
});
const box = (x0: number, z0: number, x1: number, z1: number): Point2[] => [
  [x0, z0],
  [x1, z0],
  [x1, z1],
  [x0, z1],
];
const on = (species: Species[], habitats: Habitat[], more: Partial<GrowthInput> = {}) => growthOn(flat, species, { habitats, ...more });
const xz = ({ place, count }: Plants) => Array.from({ length: count }, (_, i) => [place[i * PLANT_STRIDE], place[i * PLANT_STRIDE + 2]] as const);
const within = (plants: Plants, x0: number, z0: number, x1: number, z1: number) => xz(plants).filter(([x, z]) => x >= x0 && z >= z0 && x < x1 && z < z1).length;
/** On 100 m2 of a rectangle. */
const dense = (plants: Plants, x0: number, z0: number, x1: number, z1: number) => (within(plants, x0, z0, x1, z1) / ((x1 - x0) * (z1 - z0))) * 100;
const near = (value: number, wanted: number, share = 0.05) => expect(Math.abs(value / wanted - 1)).toBeLessThan(share);
const names = (plants: Plants) => Array.from({ length: plants.count }, (_, i) => plantId(plants, i)).sort();

describe('a habitat', () => {
  it('grows its mix by weight at its density where it lies; the default has the rest', () => {
    const [heather, gorse, moss] = grow(
      on(
        [kind('heather', 0), kind('gorse', 1), kind('moss cushion', 2)],
        [
          habitat(
            'heath',
            [
              {
                ...rule('low', ['heather', 'gorse'], 8),
                mix: [
                  { species: 'heather', weight: 3 },
                  { species: 'gorse', weight: 1 },
                ],
              },
            ],
            {
              area: 'drawn',
              outlines: [box(0, 0, 64, 128)],
            },
          ),
          habitat('pit', [rule('moss', 'moss cushion', 5)]),
        ],
      ),
    );
    near(dense(heather, 0, 0, 64, 128), 6);
    near(dense(gorse, 0, 0, 64, 128), 2);
    near(dense(moss, 64, 0, 128, 128), 5);
    expect([within(heather, 64, 0, 128, 128), within(gorse, 64, 0, 128, 128), within(moss, 0, 0, 64, 128)]).toEqual([0, 0, 0]);
  });

  it('passes softly into the next: what grows in both grows as densely where they meet', () => {
    const species = [kind('heather', 0)];
    const two = (soft: number) => [
      habitat('a', [rule('a', 'heather', 9)], { area: 'drawn', outlines: [box(-10, -10, 64, 138)], soft }),
      habitat('b', [rule('b', 'heather', 9)]),
    ];
    const [one] = grow(on(species, [habitat('b', [rule('b', 'heather', 9)])]));
    const [both] = grow(on(species, two(40)));
    near(dense(both, 44, 0, 84, 128), 9);
    // Chances add up to the same: the very same plants.
    expect(names(both)).toEqual(names(one));
    const [half] = grow(on(species, [habitat('a', [rule('a', 'heather', 9)], { area: 'drawn', outlines: [box(-10, -10, 64, 138)], soft: 40 })]));
    near(dense(half, 0, 0, 44, 128), 9);
    near(dense(half, 54, 0, 74, 128), 4.5, 0.12);
    expect(within(half, 84, 0, 128, 128)).toBe(0);
  });

  it('lets earlier rules have their place first, and earlier habitats the ground', () => {
    const species = [kind('heather', 0, { spacing: 2, clearance: 2 }), kind('gorse', 1, { spacing: 2, clearance: 2 })];
    const low = rule('low', 'heather', 12);
    const high = rule('high', 'gorse', 12);
    const count = (rules: HabitatRule[]) => grow(on(species, [habitat('heath', rules)])).map((p) => p.count);
    const [first, second] = count([low, high]);
    expect(first).toBeGreaterThan(second * 3);
    const [third, fourth] = count([high, low]);
    expect(fourth).toBeGreaterThan(third * 3);
    // Whatever comes first grows as it would alone.
    expect(first).toBe(count([low])[0]);
    const over = grow(on(species, [habitat('b', [high], { area: 'drawn', outlines: [box(0, 0, 64, 128)] }), habitat('a', [low])]));
    expect(within(over[0], 0, 0, 64, 128)).toBe(0);
  });

  it('is painted, and what was painted away of what is drawn is not of it', () => {
    const tile = new Int32Array(TILE_SAMPLES).fill(1024);
    const away = new Int32Array(TILE_SAMPLES).fill(-1024);
    const tiles = new Map([
      [tileKey('heath', 'area', 2, 2), tile],
      [tileKey('heath', 'area', 0, 0), away],
    ]);
    const drawn = habitat('heath', [rule('low', 'heather', 8)], { area: 'drawn', outlines: [box(0, 0, 64, 32)] });
    const [heather] = grow(on([kind('heather', 0)], [drawn], { tiles }));
    // A tile is 32 m: what it owns begins half a sample after its edge.
    expect(within(heather, 0, 0, 32, 32)).toBe(0);
    near(dense(heather, 33, 0, 64, 32), 8, 0.1);
    near(dense(heather, 65, 65, 96, 96), 8, 0.1);
    expect(within(heather, 97, 0, 128, 128)).toBe(0);
  });

  it('asks of the ground what each species asks, and its own conditions, whether the rule of the species is on or not', () => {
    const slope = terrainOf((x) => x / 4, 4);
    const heather = kind('heather', 0, { rule: { ...anywhere, height: [0, 16] } });
    const [grown] = grow(
      growthOn(slope, [heather], { habitats: [habitat('heath', [rule('low', 'heather', 8, { where: [{ is: { by: 'height', band: [8, 500], soft: 0 } }] })])] }),
    );
    expect(grown.count).toBeGreaterThan(100);
    for (const [x] of xz(grown)) {
      expect(x / 4).toBeGreaterThan(7.8);
      expect(x / 4).toBeLessThan(16.2);
    }
  });

  it('has clusters about the plants of its own rule alone, those of a child too', () => {
    const species = [kind('birch', 0, { spacing: 8 }), kind('bracken', 1, { spacing: 0.3 }), kind('foxglove', 2, { spacing: 0.2 })];
    const trees = rule('trees', 'birch', 0.8, {
      children: [
        { species: 'bracken', chance: 0.5, count: [4, 4], spread: 2, size: 0.5 },
        { species: 'foxglove', about: 'bracken', chance: 1, count: [1, 1], spread: 0.6, size: 1 },
      ],
    });
    const grown = grow(
      on(species, [
        habitat('pit', [rule('others', ['birch', 'bracken'], 0.8)], { area: 'drawn', outlines: [box(0, 64, 128, 128)] }),
        habitat('wood', [trees], { area: 'drawn', outlines: [box(0, 0, 128, 64)] }),
      ]),
    );
    const input = on(species, [habitat('wood', [trees], { area: 'drawn', outlines: [box(0, 0, 128, 64)] })]);
    const [birch, bracken, foxglove] = grow(input);
    const gap = ([ax, az]: readonly [number, number], [bx, bz]: readonly [number, number]) => Math.hypot(ax - bx, az - bz);
    const parents = xz(birch).filter((p) => xz(bracken).some((c) => gap(p, c) <= 2));
    expect(Math.abs(parents.length / birch.count - 0.5)).toBeLessThan(0.2);
    near(bracken.count / parents.length, 4, 0.1);
    for (const c of xz(bracken)) expect(Math.min(...xz(birch).map((p) => gap(p, c)))).toBeLessThanOrEqual(2);
    expect(foxglove.count).toBeGreaterThan(bracken.count * 0.8);
    for (const c of xz(foxglove)) expect(Math.min(...xz(bracken).map((p) => gap(p, c)))).toBeLessThanOrEqual(0.6);
    // Half as high as it is of itself.
    const tall = grow(on([kind('bracken', 1, { rule: { ...anywhere, on: true } })], []))[0];
    const highest = (p: Plants) => Math.max(...Array.from({ length: p.count }, (_, i) => p.place[i * PLANT_STRIDE + 4]));
    near(highest(bracken), highest(tall) / 2, 0.1);
    // About those of the other habitat none stands.
    expect(grown[2].count).toBe(foxglove.count);
    expect(countOf(grown, 'wood/trees')).toBe(birch.count + bracken.count + foxglove.count);
    // Of two rules of birches in one habitat only the one that has them.
    const [all, about] = grow(on(species, [habitat('wood', [rule('bare', 'birch', 0.4), { ...trees, density: 0.4 }])]));
    const bare = all.by!.find((b) => b.pass === 'wood/bare')!.count;
    near(about.count, (all.count - bare) * 0.5 * 4, 0.25);
  });

  it('keeps spacing, clearances and ceilings, whatever rules there are', () => {
    const figure = (min: number, max: number) => fc.double({ min, max, noNaN: true });
    fc.assert(
      fc.property(figure(0.5, 2), figure(0, 1.5), figure(2, 40), figure(0, 20), fc.integer({ min: 0, max: 1e6 }), (spacing, clearance, density, soft, seed) => {
        const species = [kind('heather', 0, { spacing, clearance, seed, ceiling: 15 }), kind('gorse', 1, { spacing: 1.2, clearance: 0.5 })];
        const grown = grow(
          on(species, [
            habitat('a', [rule('1', ['gorse', 'heather'], density), rule('2', 'heather', density)], { area: 'drawn', outlines: [box(10, 10, 90, 90)], soft }),
            habitat('b', [rule('1', 'heather', density), rule('2', ['heather', 'gorse'], density)]),
          ]),
          { x0: 0, z0: 0, x1: 130, z1: 130 },
        );
        const [a, b] = grown.map(xz);
        let [own, other] = [Infinity, Infinity];
        a.forEach(([x, z], i) => {
          for (let k = 0; k < i; k++) own = Math.min(own, Math.hypot(a[k][0] - x, a[k][1] - z));
          for (const [bx, bz] of b) other = Math.min(other, Math.hypot(bx - x, bz - z));
        });
        expect(own).toBeGreaterThanOrEqual(spacing - 1e-4);
        expect(other).toBeGreaterThanOrEqual(Math.max(clearance, 0.5) - 1e-4);
        expect(dense(grown[0], 0, 0, 65, 65)).toBeLessThan(15 * 1.05 + 1);
      }),
      { numRuns: 10 },
    );
  });

  it('thins out a species everywhere by its amount, and never brings others', () => {
    const heath = [habitat('heath', [rule('low', 'heather', 8)])];
    const whole = grow(on([kind('heather', 0)], heath))[0];
    const half = grow(on([kind('heather', 0, { amount: 0.5 })], heath))[0];
    near(half.count, whole.count / 2);
    const stood = new Set(names(whole));
    expect(names(half).every((n) => stood.has(n))).toBe(true);
  });

  it('stands aside for what is set by hand, and leaves out what was removed by hand', () => {
    const heath = [habitat('heath', [rule('low', 'heather', 8)])];
    const [all] = grow(on([kind('heather', 0)], heath));
    const gone = plantId(all, 40);
    const [x, z] = xz(all)[40];
    const plants = [
      {
        id: 'p1',
        version: 1,
        kind: 'plant' as const,
        name: 'gone',
        species: 'heather',
        from: gone,
        at: [x, 1, z] as [number, number, number],
        turn: 0,
        scale: 1,
        gone: true,
        hidden: false,
        out: false,
      },
    ];
    const [left] = grow(on([kind('heather', 0)], heath, { plants }));
    expect(names(left)).toEqual(names(all).filter((n) => n !== gone));
  });
});

describe('what is told of a habitat', () => {
  const species = [kind('heather', 0), kind('gorse', 1)];
  const drawn = habitat('heath', [rule('low', 'heather', 8), rule('thorns', ['gorse', 'heather'], 2)], { area: 'drawn', outlines: [box(0, 0, 64, 128)] });
  const input = on(species, [drawn]);
  const grown = grow(input);

  it('is why here: the rule that lets it grow, agreeing with what stands', () => {
    const parts = grownParts(passesOf(species, [drawn]), grown);
    expect(parts.map((p) => [p.pass.key, p.pass.species.name])).toEqual([
      ['', 'heather'],
      ['', 'gorse'],
      ['heath/low', 'heather'],
      ['heath/thorns', 'gorse'],
      ['heath/thorns', 'heather'],
    ]);
    for (const at of [2, 4]) {
      const [x, z] = xz(parts[at].plants)[3];
      const why = whyHere(input, grown, 'heather', x, z)!;
      expect(why).toMatchObject({ here: true, verdict: `heather grows here (heath, ${parts[at].pass.rule!.name})` });
    }
    const [x, z] = [100, 50];
    const why = whyHere(input, grown, 'heather', x, z)!;
    expect(why.here).toBe(false);
    expect(why.verdict).toContain('heath (not here) says no');
  });

  it('is how much of a rule there is, and how many stand by it', () => {
    const low = ruleShares(input, grown, ruleKey(drawn, drawn.rules[0]))!;
    const at = (x: number, z: number) => low.shares[z * 2 * input.terrain.grid.nx + x * 2];
    expect([at(10, 10), at(100, 10), low.most, low.count]).toEqual([255, 0, 8, countOf(grown, 'heath/low')]);
    const all = ruleShares(input, grown, 'heather')!;
    expect(all.most).toBe(9);
    expect(all.count).toBe(grown[0].count);
  });

  it('is what an area asks: to a density more and less than habitats have, and none', () => {
    for (const density of [3, 9, 14, 0]) {
      const plan = sowArea(input, grown, { species: 'heather', outline: box(20, 20, 50, 50), density, clear: false });
      if (typeof plan === 'string') throw new Error(plan);
      expect(Math.abs(plan.after - density * 9)).toBeLessThan(Math.max(3, density * 9 * 0.08));
    }
  });
});

describe('a habitat that cannot be', () => {
  const good = habitat('heath', [rule('low', 'heather', 8)], { area: 'drawn', outlines: [box(0, 0, 9, 9)] });
  it.each([
    ['an outline of two points', { outlines: [box(0, 0, 9, 9).slice(0, 2)] }, 'at least three corners'],
    [
      'an outline that crosses itself',
      {
        outlines: [
          [
            [0, 0],
            [9, 9],
            [9, 0],
            [0, 9],
          ],
        ],
      },
      'crosses itself',
    ],
    ['a density of a million', { rules: [rule('low', 'heather', 1e6)] }, 'rules.0.density'],
    ['two rules of one id', { rules: [rule('low', 'heather', 1), rule('low', 'gorse', 1)] }, 'two rules are called low'],
    ['a species twice in a mix', { rules: [rule('low', ['heather', 'heather'], 1)] }, 'twice in a mix'],
    ['a mix of nothing', { rules: [rule('low', [], 1)] }, 'one species at least'],
    ['a weight of nothing', { rules: [{ ...rule('low', 'heather', 1), mix: [{ species: 'heather', weight: 0 }] }] }, 'rules.0.mix.0.weight'],
    [
      'a child of what is not there',
      { rules: [rule('low', 'heather', 1, { children: [{ species: 'gorse', about: 'birch', chance: 1, count: [1, 1], spread: 1, size: 1 }] })] },
      'neither in the mix',
    ],
    [
      'fewest over most',
      { rules: [rule('low', 'heather', 1, { children: [{ species: 'gorse', chance: 1, count: [3, 1], spread: 1, size: 1 }] })] },
      'the fewer come first',
    ],
    ['an area that goes by plants', { where: [{ is: { by: 'plants', species: 'heather', band: [0, 1], soft: 0 } }] }, 'does not go by plants'],
    ['an area that goes by crowns', { where: [{ is: { by: 'canopy', band: [0, 1], soft: 0 } }] }, 'does not go by plants'],
  ])('%s is refused', (_, fields, message) => {
    expect(parseObject(good).ok).toBe(true);
    const parsed = parseObject({ ...good, ...fields });
    expect(parsed.ok ? '' : parsed.message).toContain(message);
  });

  it('of species that are gone, or all out of the level, grows nothing and says so', () => {
    const input = on([kind('gorse', 0)], [habitat('heath', [rule('low', 'heather', 8)])]);
    expect(grow(input).map((p) => p.count)).toEqual([0]);
  });
});
