import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Species } from '../level/objects';
import { wrapDeg } from '../num/pose';
import { distance, type Vec3 } from '../num/vec';
import { growthOn, testSpecies } from '../testing/growth';
import { terrainOf } from '../testing/levels';
import { handDab, handRule, HandRoom, type HandBrush, type HandCast } from './brushByHand';
import { leanOfPose } from './plants';

const flat = terrainOf(() => 0);
const given = growthOn(flat, []);
const open: Species['rule'] = { on: true, slope: [0, 90], height: [-500, 500], soft: 0, grounds: [] };
const heather = (more: Partial<Species> = {}) => testSpecies('heather', 0, { density: 30, spacing: 0.8, clearance: 0.3, lean: 0, rule: open, ...more });
const gorse = (more: Partial<Species> = {}) => testSpecies('gorse', 1, { density: 5, spacing: 1.6, clearance: 0.9, lean: 0, rule: open, ...more });

/** A floor at 0 under a slab from 3 to 4 metres: a ray meets what is below where it begins, or above it. */
const twoStoreys: HandCast = ([x, y, z], [, dy], far) => {
  if (dy > 0) return y < 3 && 3 - y <= far ? { at: [x, 3, z], normal: [0, -1, 0], terrain: false } : undefined;
  const top = y >= 4 ? 4 : 0;
  return dy < 0 && y - top <= far ? { at: [x, top, z], normal: [0, 1, 0], terrain: top === 0 } : undefined;
};

function brush(list: readonly Species[], more: Partial<HandBrush> = {}): HandBrush {
  return {
    list: list.map((s) => ({ s })),
    to: 1,
    room: new HandRoom(new Map(list.map((s) => [s.id, s]))),
    cast: twoStoreys,
    ground: given.ground,
    assetHeights: given.assetHeights,
    origin: [0, 0],
    ...more,
  };
}
const dab = (at: Vec3, radius = 4) => ({ at, normal: [0, 1, 0] as Vec3, radius });
const places = (made: { plants: { species: string; at: Vec3 }[] }[]) => made.flatMap((m) => m.plants);

describe('a brush that sets plants by hand', () => {
  it('keeps spacing to its own kind and clearance to others over any strokes', () => {
    const stroke = fc.array(fc.tuple(fc.double({ min: 5, max: 40, noNaN: true }), fc.double({ min: 5, max: 40, noNaN: true })), { minLength: 1, maxLength: 8 });
    fc.assert(
      fc.property(stroke, fc.double({ min: 0.5, max: 4, noNaN: true }), (at, to) => {
        const of = brush([heather(), gorse()], { to });
        const all = places(at.map(([x, z], i) => handDab(of, dab([x, 0, z]), [1, i])));
        for (const [i, a] of all.entries())
          for (const b of all.slice(i + 1)) {
            const keep = a.species !== b.species ? 0.9 : a.species === 'heather' ? 0.8 : 1.6;
            expect(distance(a.at, b.at)).toBeGreaterThan(keep - 0.002);
          }
      }),
      { numRuns: 25 },
    );
  });

  it('comes up to the density of each and no farther, however often one goes over a place', () => {
    const of = brush([heather(), gorse()]);
    const all = places(Array.from({ length: 40 }, (_, i) => handDab(of, dab([20, 0, 20], 6), [2, i])));
    const count = (species: string) => all.filter((p) => p.species === species).length;
    // pi 36 m2: 33.9 and 5.65 by hand; a part of a plant stands by chance.
    expect([33, 34]).toContain(count('heather'));
    expect([5, 6]).toContain(count('gorse'));
    // Under the slab, though the brush is wider than it is high there.
    expect(new Set(all.map((p) => p.at[1]))).toEqual(new Set([0]));
  });

  it('sets on the storey that is under it, and lets nothing on another keep it away', () => {
    const of = brush([heather({ density: 20 })]);
    const below = handDab(of, dab([20, 0, 20], 3), [3, 0]).plants;
    const above = handDab(of, dab([20, 4, 20], 3), [3, 1]).plants;
    expect(below.length).toBeGreaterThan(3);
    expect(above.length).toBeGreaterThan(3);
    expect(new Set(below.map((p) => p.at[1]))).toEqual(new Set([0]));
    expect(new Set(above.map((p) => p.at[1]))).toEqual(new Set([4]));
  });

  it('keeps to a rule where that is asked, and sets without it where not', () => {
    const high = heather({ rule: { ...open, height: [2, 10] } });
    const ruled = (y: number) => handDab(brush([high], { list: [{ s: high, rule: handRule(high, given.ground) }] }), dab([20, y, 20]), [4, 0]).plants.length;
    expect(ruled(0)).toBe(0);
    expect(ruled(4)).toBeGreaterThan(8);
    expect(handDab(brush([high]), dab([20, 0, 20]), [4, 0]).plants.length).toBeGreaterThan(8);
  });

  it('stops at the ceilings and tells how many it kept out', () => {
    // Squares of 10 m, as growth has them: the brush lies in one of them.
    const of = brush([heather({ ceiling: 10 })]);
    const made = Array.from({ length: 10 }, (_, i) => handDab(of, dab([25, 0, 25], 4.5), [5, i]));
    expect(places(made)).toHaveLength(10);
    expect(of.room.count([25, 0, 25], 'heather')).toBe(10);
    expect(made.reduce((n, m) => n + m.held, 0)).toBeGreaterThan(0);
    expect(places([handDab(brush([heather()], { ceiling: 0 }), dab([20, 0, 20]), [5, 0])])).toEqual([]);
  });

  it('on a flank only what climbs stands, and leans out of it', () => {
    const [s, c] = [Math.sin((70 * Math.PI) / 180), Math.cos((70 * Math.PI) / 180)];
    const flank: HandCast = (from) => ({ at: from, normal: [s, c, 0], terrain: true });
    const on = (species: Species) => handDab(brush([species], { cast: flank }), { at: [20, 5, 20], normal: [s, c, 0], radius: 3 }, [6, 0]).plants;
    expect(on(heather({ rule: { ...open, slope: [0, 30] } }))).toEqual([]);
    const climbing = on(heather({ rule: { ...open, slope: [0, 30] }, leanToSlope: 1 }));
    expect(climbing.length).toBeGreaterThan(4);
    for (const p of climbing) {
      const [turn, lean, to] = leanOfPose(p);
      expect(lean).toBeCloseTo(70, 1);
      // Up leans towards +x: about the axis that lies along -z.
      expect(Math.abs(wrapDeg(to + 90))).toBeLessThan(0.5);
      expect(Number.isFinite(turn)).toBe(true);
    }
  });

  it('sets the same for the same stroke, another for the next, and no hole where nothing was', () => {
    const set = (stroke: number) => handDab(brush([heather()]), dab([20, 0, 20]), [stroke, 0]).plants;
    expect(set(7)).toEqual(set(7));
    expect(set(8)).not.toEqual(set(7));
    for (const p of set(7)) expect(p).not.toHaveProperty('was');
  });
});
