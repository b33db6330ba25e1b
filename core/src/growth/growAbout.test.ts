import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { PlantObject, Species } from '../level/objects';
import { growthOn, testSpecies } from '../testing/growth';
import { terrainOf } from '../testing/levels';
import { grow } from './grow';
import { grownParts, passesOf } from './passes';
import { PLANT_STRIDE, plantId, type Plants } from './plants';
import { ruleFault } from './ruleFault';
import { whyHere } from './why';

const flat = terrainOf(() => 1, 4);
const rule: Species['rule'] = { on: true, slope: [0, 90], height: [-500, 500], soft: 0, grounds: [] };
const birch = testSpecies('birch', 0, { density: 1.2, spacing: 6, clearance: 0.5, rule });
const fern = (about: Partial<NonNullable<Species['about']>> = {}, more: Partial<Species> = {}) =>
  testSpecies('bracken', 1, {
    density: 1,
    spacing: 0.3,
    clearance: 0.2,
    rule,
    about: { species: 'birch', chance: 0.5, count: [2, 6], spread: 2.5, ...about },
    ...more,
  });
const xz = ({ place, count }: Plants) => Array.from({ length: count }, (_, i) => [place[i * PLANT_STRIDE], place[i * PLANT_STRIDE + 2]] as const);
const gap = ([ax, az]: readonly [number, number], [bx, bz]: readonly [number, number]) => Math.hypot(ax - bx, az - bz);
/** How many stand nearest to each of the parents. */
function perParent(parents: Plants, children: Plants): number[] {
  const out = xz(parents).map(() => 0);
  for (const child of xz(children)) {
    let best = 0;
    xz(parents).forEach((p, i) => {
      if (gap(p, child) < gap(xz(parents)[best], child)) best = i;
    });
    out[best]++;
  }
  return out;
}

describe('what grows about another species', () => {
  it('has chance, count and spread in the mean, and keeps what both keep', () => {
    const [parents, children] = grow(growthOn(flat, [birch, fern({ chance: 0.6 }, { spacing: 0.1 })]));
    const counts = perParent(parents, children);
    const some = counts.filter((n) => n > 0);
    expect(parents.count).toBeGreaterThan(120);
    // 60 % have any; these have 4 in the mean. Of 150 parents: within three standard errors.
    expect(Math.abs(some.length / parents.count - 0.6)).toBeLessThan(0.13);
    expect(Math.abs(children.count / some.length - 4)).toBeLessThan(0.6);
    const far = xz(children).map((c) => Math.min(...xz(parents).map((p) => gap(p, c))));
    for (const d of far) {
      expect(d).toBeGreaterThanOrEqual(0.5);
      expect(d).toBeLessThanOrEqual(2.5);
    }
    // Evenly over the ring: the mean of r is 2/3 (R^3 - r^3) / (R^2 - r^2).
    const mean = far.reduce((a, b) => a + b, 0) / far.length;
    expect(Math.abs(mean - ((2 / 3) * (2.5 ** 3 - 0.5 ** 3)) / (2.5 ** 2 - 0.5 ** 2))).toBeLessThan(0.12);
  });

  it('keeps spacing and clearances under any figures', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0.1, max: 1.5, noNaN: true }),
        fc.double({ min: 0, max: 2, noNaN: true }),
        fc.double({ min: 0.5, max: 6, noNaN: true }),
        fc.integer({ min: 0, max: 1e6 }),
        (spacing, clearance, spread, seed) => {
          const [parents, children] = grow(growthOn(flat, [birch, fern({ chance: 1, count: [3, 9], spread }, { spacing, clearance, seed })]));
          const [trees, list] = [xz(parents), xz(children)];
          let [toParent, toOwn] = [Infinity, Infinity];
          list.forEach((c, i) => {
            for (const p of trees) toParent = Math.min(toParent, gap(p, c));
            for (let k = 0; k < i; k++) toOwn = Math.min(toOwn, gap(list[k], c));
          });
          expect(toParent).toBeGreaterThanOrEqual(Math.max(0.5, clearance) - 1e-4);
          expect(toOwn).toBeGreaterThanOrEqual(spacing - 1e-4);
        },
      ),
      { numRuns: 12 },
    );
  });

  it('stands where it stood for every parent that stays: others may go and come', () => {
    const all = grow(growthOn(flat, [birch, fern()]));
    const half = grow(growthOn(flat, [{ ...birch, rule: { ...rule, where: [{ is: { by: 'noise', band: [0.5, 1], soft: 0, seed: 3, scale: 30 } }] } }, fern()]));
    const before = new Map(xz(all[1]).map((p, i) => [plantId(all[1], i), p]));
    expect(half[1].count).toBeGreaterThan(10);
    expect(half[1].count).toBeLessThan(all[1].count);
    xz(half[1]).forEach((p, i) => expect(before.get(plantId(half[1], i))).toEqual(p));
    expect(new Set(before.keys()).size).toBe(all[1].count);
  });

  it('goes by its own rule, grows about those set by hand too, and about those that grow about others', () => {
    const byHand: PlantObject = {
      id: 'h1',
      version: 1,
      kind: 'plant',
      name: 'h1',
      species: 'birch',
      at: [20, 1, 20],
      turn: 0,
      scale: 1,
      gone: false,
      hidden: false,
      out: false,
    };
    const none = { ...birch, rule: { ...rule, on: false } };
    const flower = testSpecies('foxglove', 2, {
      density: 1,
      spacing: 0.05,
      clearance: 0,
      rule,
      about: { species: 'bracken', chance: 1, count: [2, 2], spread: 0.6 },
    });
    const [, ferns, flowers] = grow(growthOn(flat, [none, fern({ chance: 1, count: [8, 8] }), flower], { plants: [byHand] }));
    expect(ferns.count).toBeGreaterThan(4);
    for (const p of xz(ferns)) expect(gap(p, [20, 20])).toBeLessThanOrEqual(2.5);
    expect(flowers.count).toBeGreaterThan(ferns.count);
    for (const p of xz(flowers)) expect(Math.min(...xz(ferns).map((f) => gap(f, p)))).toBeLessThanOrEqual(0.6);
    const steep = fern({ chance: 1 }, { rule: { ...rule, slope: [30, 90] } });
    expect(grow(growthOn(flat, [birch, steep]))[1].count).toBe(0);
  });

  it('says what keeps it away: too far, what both keep, its rule, or a species that is gone or comes later', () => {
    const asked = (species: Species[], x: number, z: number) => {
      const input = growthOn(flat, species);
      const grown = grow(input);
      return whyHere(input, grown, 'bracken', x, z)!;
    };
    const [parents] = grow(growthOn(flat, [birch]));
    const [x, z] = xz(parents)[5];
    expect(asked([birch, fern()], x, z).verdict).toBe('no bracken: too near to birch');
    const [gone] = grow(growthOn(flat, [birch, fern()])).slice(1);
    const [cx, cz] = xz(gone)[0];
    expect(asked([birch, fern()], cx, cz)).toMatchObject({ here: true, verdict: 'bracken grows here, about birch' });
    expect(asked([birch, fern({ spread: 0.4 })], cx, cz).verdict).toBe('no bracken: it keeps 0.5 m from birch and stands 0.4 m from it at most');
    expect(asked([birch, fern({}, { rule: { ...rule, height: [5, 9] } })], cx, cz).verdict).toBe('no bracken: height (1.0 m in 5 to 9 m) says no');
    expect(asked([birch, fern({ species: 'nobody' })], cx, cz).verdict).toBe('no bracken: the species it grows about is not in the level');
    expect(asked([{ ...birch, order: 2 }, fern()].reverse(), cx, cz).verdict).toBe('no bracken: birch does not take its place before it');
    const lonely = growthOn(flat, [fern({ species: 'bracken' })]);
    expect(ruleFault(lonely, grownParts(passesOf(lonely.species), grow(lonely)), 0)).toBe('nothing stands that it could grow about: bracken');
  });
});
