import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Species } from '../level/objects';
import { addRasters } from '../num/fixed';
import { signedArea, type Point2 } from '../num/outline';
import { growthOn, testSpecies } from '../testing/growth';
import { terrainOf } from '../testing/levels';
import { grow, type GrowthInput } from './grow';
import { PLANT_STRIDE, plantId, type Plants } from './plants';
import { sowArea, type AreaPlan } from './sowArea';

const hills = terrainOf((x, z) => 3 * Math.sin(x / 9) * Math.cos(z / 7) + x * 0.05);
const rule = (on: boolean): Species['rule'] => ({ on, slope: [0, 90], height: [-500, 500], soft: 0, grounds: [] });
const heather = (more: Partial<Species> = {}) => testSpecies('heather', 0, { density: 10, spacing: 0.7, clearance: 0, rule: rule(false), ...more });
const gorse = testSpecies('gorse', 1, { density: 12, spacing: 1, clearance: 0, rule: rule(true) });
const field: Point2[] = [
  [8, 10],
  [50, 14],
  [54, 48],
  [20, 52],
];
const plan = (input: GrowthInput, order: Partial<Parameters<typeof sowArea>[2]>): AreaPlan => {
  const made = sowArea(input, grow(input), { species: 'heather', outline: field, density: 20, clear: false, ...order });
  if (typeof made === 'string') throw new Error(made);
  return made;
};
const sown = (input: GrowthInput, { deltas }: AreaPlan): GrowthInput => {
  const tiles = new Map(input.tiles);
  for (const { key, delta } of deltas) tiles.set(key, tiles.has(key) ? addRasters(tiles.get(key)!, delta) : delta);
  return { ...input, tiles };
};
/** What is sown is known to the nearest sample, half a metre apart: a few plants along an edge go the one way or the other. */
const EDGE = 8;

/** Plants in the field, by crossings counted one by one. */
function inField({ place, count }: Plants): number {
  let n = 0;
  for (let i = 0; i < count; i++) {
    const [x, z] = [place[i * PLANT_STRIDE], place[i * PLANT_STRIDE + 2]];
    let inside = false;
    for (let a = 0, b = field.length - 1; a < field.length; b = a++)
      if (field[a][1] > z !== field[b][1] > z && x < ((field[b][0] - field[a][0]) * (z - field[a][1])) / (field[b][1] - field[a][1]) + field[a][0])
        inside = !inside;
    if (inside) n++;
  }
  return n;
}

describe('an area that is sown', () => {
  it('may be the whole level, to its last sample', () => {
    const input = growthOn(hills, [heather()]);
    const { width, depth } = input.terrain.grid;
    const outline: Point2[] = [
      [0, 0],
      [width, 0],
      [width, depth],
      [0, depth],
    ];
    const made = plan(input, { outline, density: 15 });
    const asked = (15 * width * depth) / 100;
    expect(made.area).toBe(width * depth);
    expect(Math.abs(made.after - asked)).toBeLessThan(asked * 0.05);
    const [grown] = grow(sown(input, made));
    expect(grown.count).toBe(made.after);
    // As densely along its edges: a quarter of it lies within 0.067 of them.
    const edge = 0.067 * width;
    let along = 0;
    for (let i = 0; i < grown.count; i++) {
      const [x, z] = [grown.place[i * PLANT_STRIDE], grown.place[i * PLANT_STRIDE + 2]];
      if (Math.min(x, z, width - x, depth - z) < edge) along++;
    }
    expect(along / grown.count).toBeCloseTo(0.25, 1);
  });

  it('has the density that was asked, within 5 % or what its edge takes, whether the rule grows there already or not', () => {
    for (const on of [true, false])
      for (const density of [6, 18, 34]) {
        const made = plan(growthOn(hills, [heather({ rule: rule(on) })]), { density });
        expect(made.short).toBe(false);
        const asked = (density * Math.abs(signedArea(field))) / 100;
        // By the twentieth, or what the raster's samples cut of its 160 m of edge.
        expect(Math.abs(made.after - asked)).toBeLessThan(Math.max(asked * 0.05, EDGE));
        expect(made.area).toBe(Math.abs(signedArea(field)));
      }
  });

  it('has as many as were asked in all, to one that spacing or an edge takes', () => {
    for (const total of [0, 1, 9, 40, 333]) {
      const made = plan(growthOn(hills, [heather({ rule: rule(true), density: 10 }), gorse]), { total, density: 3 });
      expect(Math.abs(made.after - total)).toBeLessThanOrEqual(total === 0 ? 3 : 1);
      expect(made.short).toBe(false);
    }
    expect(plan(growthOn(hills, [heather()]), { total: 5000, density: 3 }).short).toBe(true);
  });

  it('comes to what was said before it was done, and changes nothing outside', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0, max: 38, noNaN: true }),
        fc.boolean(),
        fc.option(fc.integer({ min: 8, max: 40 }), { nil: undefined }),
        (density, clear, ceiling) => {
          const input = growthOn(hills, [heather({ rule: rule(true) }), gorse], { ceiling });
          const made = plan(input, { density, clear });
          const [before, after] = [grow(input), grow(sown(input, made))];
          expect([inField(after[0]), inField(after[1])]).toEqual([made.after, made.others.after]);
          expect([inField(before[0]), inField(before[1])]).toEqual([made.before, made.others.before]);
          if (clear) expect(made.others.after).toBeLessThan(EDGE);
          if (ceiling === undefined) expect(Math.abs(after[0].count - made.after - before[0].count + made.before)).toBeLessThan(EDGE);
          const stood = new Set(Array.from({ length: before[0].count }, (_, i) => plantId(before[0], i)));
          expect(
            Math.abs(made.added.count - Array.from({ length: after[0].count }, (_, i) => plantId(after[0], i)).filter((id) => !stood.has(id)).length),
          ).toBeLessThan(EDGE);
        },
      ),
      { numRuns: 12 },
    );
  });

  it('says where more is asked than can be sown, and why it cannot be at all', () => {
    expect(plan(growthOn(hills, [heather()]), { density: 45 }).short).toBe(true);
    const none = growthOn(hills, [heather({ density: 0 })]);
    expect(sowArea(none, grow(none), { species: 'heather', outline: field, density: 5, clear: false })).toBe('heather has a density of 0: give it one first');
    const far = field.map(([x, z]): Point2 => [x + 900, z]);
    expect(sowArea(none, [], { species: 'nobody', outline: field, density: 5, clear: false })).toBe('its species is not in the level');
    const some = growthOn(hills, [heather()]);
    expect(sowArea(some, grow(some), { species: 'heather', outline: far, density: 5, clear: false })).toBe('the outline lies outside the level');
  });
});
