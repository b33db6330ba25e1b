import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { blockGrid } from '../../block/grid';
import { wholeRect } from '../../earth/rect';
import { waterBodies } from '../../earth/waters';
import type { GrowthCondition, GrowthWhere, Species } from '../../level/objects';
import { speciesObject } from '../../level/objects';
import type { Point2 } from '../../num/outline';
import { distance } from '../../num/vec';
import { readyCondition } from '../../surface/rules';
import { someCondition } from '../../testing/conditions';
import { growthOn, testSpecies } from '../../testing/growth';
import { terrainOf, testBlock } from '../../testing/levels';
import { grow, type GrowthInput } from '../grow';
import { PLANT_STRIDE, type Plants } from '../plants';
import { whyHere } from '../why';
import { readyWhere, whereSource } from './index';

const hills = terrainOf((x, z) => 3 * Math.sin(x / 9) * Math.cos(z / 7) + x * 0.05);
const flat = terrainOf(() => 1);
const everywhere = (where: GrowthWhere[]): Species['rule'] => ({ on: true, slope: [0, 90], height: [-500, 500], soft: 0, grounds: [], where });
const of = (input: GrowthInput, where: GrowthWhere[], grown: Plants[] = []) => readyWhere(where, whereSource(input, grown));
const one = (is: GrowthCondition, more: Partial<GrowthWhere> = {}): GrowthWhere => ({ is, ...more });
const places = (p: Plants) => Array.from({ length: p.count }, (_, i) => [p.place[i * PLANT_STRIDE], p.place[i * PLANT_STRIDE + 2]] as const);
const somewhere = fc.tuple(fc.double({ min: 0, max: 60, noNaN: true }), fc.double({ min: 0, max: 60, noNaN: true }));

describe('conditions of growth', () => {
  it('are those of the ground at the nearest sample, bit for bit, and turned round by "not"', () => {
    const input = growthOn(hills, []);
    const { spacing } = hills.grid;
    fc.assert(
      fc.property(someCondition, somewhere, (condition, [x, z]) => {
        const ready = readyCondition(condition, whereSource(input, []), wholeRect(hills.grid));
        const share = ready.share(Math.round(x / spacing), Math.round(z / spacing));
        expect(of(input, [one(condition)]).share(x, z)).toBe(share);
        expect(of(input, [one(condition, { not: true })]).share(x, z)).toBe(1 - share);
      }),
      { numRuns: 60 },
    );
  });

  it('of which all must hold, those joined by "or" as one whose largest counts', () => {
    const input = growthOn(hills, []);
    fc.assert(
      fc.property(fc.array(fc.tuple(someCondition, fc.boolean()), { minLength: 1, maxLength: 4 }), somewhere, (list, [x, z]) => {
        const where = list.map(([is, or]) => one(is, { or }));
        let expected = 1;
        let group = 0;
        list.forEach(([is, or], i) => {
          const share = of(input, [one(is)]).share(x, z);
          if (i > 0 && !or) [expected, group] = [expected * group, 0];
          group = Math.max(group, share);
        });
        expect(of(input, where).share(x, z)).toBeCloseTo(expected * group, 12);
      }),
      { numRuns: 60 },
    );
  });

  it('tell how far a marker is, and nothing where there is none of its kind', () => {
    const input = growthOn(flat, [], { markers: [{ marker: 'entry', at: [10, 1, 10] }] });
    const near = of(input, [one({ by: 'marker', band: [0, 5], soft: 0 })]);
    expect([near.share(13, 14), near.share(14, 14)]).toEqual([1, 0]);
    expect(near.parts(13, 14)).toEqual([{ what: 'from marker', value: '5.0 m, in 0 to 5 m', factor: 1 }]);
    const threat = of(input, [one({ by: 'marker', band: [0, 50], soft: 0, marker: 'threat' })]);
    expect(threat.parts(10, 10)).toEqual([{ what: 'from marker', value: 'none here, in 0 to 50 m', factor: 0 }]);
  });

  it('tell how far the nearest doorway is; none where there is none', () => {
    const is: GrowthCondition = { by: 'doorway', band: [0, 5], soft: 0 };
    const input = growthOn(flat, [], {
      doorways: [
        [10, 10],
        [40, 10],
      ],
    });
    const near = of(input, [one(is)]);
    expect([near.share(13, 14), near.share(14, 14), near.share(37, 6)]).toEqual([1, 0, 1]);
    expect(near.parts(13, 14)[0]).toEqual({ what: 'from doorway', value: '5.0 m, in 0 to 5 m', factor: 1 });
    expect(of(growthOn(flat, []), [one(is)]).parts(10, 10)[0]).toMatchObject({ value: 'none here, in 0 to 5 m', factor: 0 });
  });

  it('tell how far inside an outline a place lies, by the one it lies deepest in, negative outside', () => {
    const square = (x: number, side: number): Point2[] => [
      [x, 10],
      [x + side, 10],
      [x + side, 10 + side],
      [x, 10 + side],
    ];
    const input = growthOn(flat, [], { outlines: [{ id: 'wood', outlines: [square(10, 20), square(40, 10)] }] });
    const inside = (x: number, z: number, band: [number, number] = [-20, 20]) =>
      of(input, [one({ by: 'outline', band, soft: 0, of: 'wood' })]).parts(x, z)[0].value;
    expect(inside(20, 20)).toBe('10.0 m, in -20 to 20 m');
    expect(inside(13, 25)).toMatch(/^3\.0 m/);
    expect(inside(45, 15)).toMatch(/^5\.0 m/);
    expect(inside(20, 6)).toMatch(/^-4\.0 m/);
    // Between both the nearer edge counts; a corner is round outside.
    expect(inside(32, 12)).toMatch(/^-2\.0 m/);
    expect(inside(7, 6)).toMatch(/^-5\.0 m/);
    // The edge is a smoothstep: a quarter of the way in it is 3/16 less 1/32.
    const share = of(input, [one({ by: 'outline', band: [0, 200], soft: 4, of: 'wood' })]);
    expect([share.share(12, 20), share.share(10, 20), share.share(9, 20), share.share(5, 20)]).toEqual([1, 0.5, 0.15625, 0]);
    expect(of(input, [one({ by: 'outline', band: [0, 200], soft: 0, of: 'gone' })]).share(20, 20)).toBe(0);
    // However wide the band is, what is looked at stays small.
    expect(of(input, [one({ by: 'outline', band: [-1e12, 1e12], soft: 0, of: 'wood' })]).share(20, 20)).toBe(1);
  });

  it('tell how far a block is in plan, turned as it is, to the distance between samples', () => {
    const wall = testBlock('box', [12, 3, 0.3], [30, 1, 30], 45);
    const input = growthOn(flat, [], { blocks: blockGrid([wall]) });
    const far = (x: number, z: number) =>
      Number(
        of(input, [one({ by: 'block', band: [0, 100], soft: 0 })])
          .parts(x, z)[0]
          .value.split(' ')[0],
      );
    fc.assert(
      fc.property(fc.double({ min: -12, max: 12, noNaN: true }), fc.double({ min: -12, max: 12, noNaN: true }), (along, across) => {
        // The wall runs to the north-east: along (c, -s), across (s, c).
        const k = Math.SQRT1_2;
        const [x, z] = [30 + along * k + across * k, 30 - along * k + across * k];
        const exact = Math.hypot(Math.max(0, Math.abs(along) - 6), Math.max(0, Math.abs(across) - 0.15));
        expect(Math.abs(far(x, z) - exact)).toBeLessThanOrEqual(flat.grid.spacing + 0.06);
      }),
      { numRuns: 80 },
    );
    expect(far(30, 30)).toBe(0);
  });

  it('tell the side of a slope by its bearing, and level ground has none', () => {
    // It falls to the west.
    const slope = growthOn(
      terrainOf((x) => x * 0.3),
      [],
    );
    const falls = (towards: number) => of(slope, [one({ by: 'side', band: [0, 180], soft: 0, towards })]).parts(20, 20)[0].value;
    expect([falls(270), falls(0), falls(90), falls(225)].map((v) => v.split('°')[0])).toEqual(['0.00', '90.0', '180', '45.0']);
    expect(of(growthOn(flat, []), [one({ by: 'side', band: [0, 180], soft: 0, towards: 0 })]).share(20, 20)).toBe(0);
  });
});

describe('a rule with conditions', () => {
  const birch = testSpecies('birch', 0, { density: 4, spacing: 3, rule: everywhere([]) });

  it('grows what it grew without, but where they do not hold: the same plants, not others', () => {
    const all = grow(growthOn(hills, [birch]))[0];
    const where: GrowthWhere[] = [one({ by: 'noise', band: [0.5, 1], soft: 0, seed: 3, scale: 14 })];
    const input = growthOn(hills, [{ ...birch, rule: everywhere(where) }]);
    const some = grow(input)[0];
    const ready = of(input, where);
    const expected = places(all).filter(([x, z]) => ready.share(x, z) === 1);
    expect(places(some)).toEqual(expected);
    expect(some.count).toBeGreaterThan(all.count * 0.2);
    expect(some.count).toBeLessThan(all.count * 0.8);
  });

  it('keeps off what stands, and off what grew before; a companion keeps near to it', () => {
    const wall = testBlock('box', [12, 3, 0.3], [30, 1, 30], 30);
    const gorse = (where: GrowthWhere[]) => testSpecies('gorse', 1, { density: 60, spacing: 0.8, clearance: 0, rule: everywhere(where) });
    const input = growthOn(
      flat,
      [birch, gorse([one({ by: 'block', band: [2, 200], soft: 0 }), one({ by: 'plants', band: [0, 2.5], soft: 0, species: 'birch' })])],
      {
        blocks: blockGrid([wall]),
      },
    );
    const [trees, round] = grow(input);
    expect(round.count).toBeGreaterThan(20);
    for (const [x, z] of places(round)) {
      expect(Math.min(...places(trees).map(([tx, tz]) => distance([x, 0, z], [tx, 0, tz])))).toBeLessThanOrEqual(2.5);
      expect(of(input, [one({ by: 'block', band: [1.9, 200], soft: 0 })]).share(x, z)).toBe(1);
    }
  });

  it('says which of them it was that said no, with its value', () => {
    const input = growthOn(flat, [{ ...birch, rule: everywhere([one({ by: 'marker', band: [8, 200], soft: 2 })]) }], {
      markers: [{ marker: 'entry', at: [30, 1, 30] }],
    });
    const why = whyHere(input, grow(input), 'birch', 31, 30)!;
    expect(why.here).toBe(false);
    expect(why.verdict).toMatch(/^no birch: from marker \(\d\.\d+ m, in 8 to 200 m\) says no$/);
    expect(why.parts.find((p) => p.what === 'from marker')!.factor).toBe(0);
    expect(whyHere(input, grow(input), 'birch', 50, 50)!.verdict).not.toMatch(/marker/);
  });

  it('sees no plants of a species that comes after it, of itself, or that is gone: it grows nothing there and says so', () => {
    for (const species of ['gorse', 'birch', 'nobody']) {
      const input = growthOn(flat, [{ ...birch, rule: everywhere([one({ by: 'plants', band: [0, 50], soft: 0, species })]) }, testSpecies('gorse', 1)]);
      const grown = grow(input);
      expect(grown[0].count).toBe(0);
      expect(whyHere(input, grown, 'birch', 20, 20)!.verdict).toMatch(/from plants \(none here, in 0 to 50 m\) says no/);
    }
  });

  it('goes by water as the ground does', () => {
    const bowl = terrainOf((x, z) => Math.hypot(x - 30, z - 30) * 0.2);
    const waters = waterBodies(bowl, [
      { id: 'w', version: 1, kind: 'water', form: 'plane', name: 'pool', height: 1, x0: 0, z0: 0, x1: 64, z1: 64, hidden: false, out: false },
    ]).bodies;
    const input = growthOn(bowl, [{ ...birch, rule: everywhere([one({ by: 'shore', band: [0, 3], soft: 0 })]) }], { waters });
    const grown = places(grow(input)[0]);
    expect(grown.length).toBeGreaterThan(3);
    // The shore lies 5 m from the middle; it is known to half a sample, and asked at the nearest.
    for (const [x, z] of grown) expect(Math.hypot(x - 30, z - 30)).toBeLessThan(5 + 3 + 0.7);
  });
});

describe('a species in the document', () => {
  const asked = (where: unknown) => speciesObject.safeParse({ ...testSpecies('birch', 0), rule: { ...everywhere([]), where } });

  it('takes conditions of the ground and of its own, and refuses what is none by its place', () => {
    expect(asked([one({ by: 'slope', band: [0, 30], soft: 4 }), one({ by: 'block', band: [1, 200], soft: 1 }, { not: true, or: true })]).success).toBe(true);
    const wrong = asked([one({ by: 'slope', band: [0, 30], soft: 4 }), { is: { by: 'luck', band: [0, 1], soft: 0 } }]);
    expect(wrong.error!.issues[0].path).toEqual(['rule', 'where', 1, 'is', 'by']);
    expect(asked([one({ by: 'block', band: [5, 1], soft: 0 })]).success).toBe(false);
    expect(asked(Array.from({ length: 13 }, () => one({ by: 'height', band: [0, 1], soft: 0 }))).error!.issues[0].message).toBe(
      'a rule has at most 12 conditions',
    );
  });
});

it('canopy is the sky that crowns of earlier plants take: all at a stem, none at a rim, none of what is low or comes later', () => {
  const birch = testSpecies('birch', 0, { rule: everywhere([]), density: 0.8, spacing: 6, clearance: 0, height: [6, 8], lean: 0 });
  const shrub = testSpecies('gorse', 1, { rule: everywhere([]), density: 6, spacing: 1, clearance: 0, height: [1, 1.5] });
  const input = growthOn(flat, [birch, shrub]);
  const grown = grow(input);
  const is: GrowthCondition = { by: 'canopy', band: [0, 1], soft: 0 };
  const at = (list: Plants[]) => {
    const source = whereSource(input, list);
    return (x: number, z: number) =>
      Number(
        readyWhere([one(is)], source)
          .parts(x, z)[0]
          .value.split(',')[0],
      );
  };
  const under = at([grown[0]]);
  const radius = (i: number) => input.assetWidths!.get('birch')! * grown[0].place[i * PLANT_STRIDE + 5];
  // By hand: of the one crown that reaches a place a quarter of the way out, three quarters.
  places(grown[0]).forEach(([x, z], i) => {
    expect(under(x, z)).toBe(1);
    const alone = places(grown[0]).every(([ox, oz], k) => k === i || Math.hypot(ox - x - radius(i) / 4, oz - z) > radius(k));
    if (alone) expect(under(x + radius(i) / 4, z)).toBeCloseTo(0.75, 2);
  });
  expect(at([])(...places(grown[0])[0])).toBe(0);
  expect(at([grown[1]])(...places(grown[1])[0])).toBe(0);
  // What grows in the open stands under none; what grows in shade under some.
  const open = grow({ ...input, species: [birch, { ...shrub, rule: everywhere([one({ by: 'canopy', band: [0, 0.1], soft: 0 })]) }] });
  const shade = grow({ ...input, species: [birch, { ...shrub, rule: everywhere([one({ by: 'canopy', band: [0, 0.1], soft: 0 }, { not: true })]) }] });
  expect(open[1].count).toBeGreaterThan(50);
  expect(shade[1].count).toBeGreaterThan(8);
  for (const [x, z] of places(open[1])) expect(under(x, z)).toBeLessThanOrEqual(0.1);
  for (const [x, z] of places(shade[1])) expect(under(x, z)).toBeGreaterThan(0.09);
  expect(open[1].count + shade[1].count).toBe(grown[1].count);
});
