import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { PlantObject, Species } from '../level/objects';
import { growthOn, testSpecies } from '../testing/growth';
import { terrainOf } from '../testing/levels';
import { densityAt } from './densityAt';
import { densityMap } from './densityMap';
import { grow } from './grow';
import { plantId, PLANT_STRIDE, type Plants } from './plants';
import { whyHere } from './why';

const flat = terrainOf(() => 1);
const rule: Species['rule'] = { on: true, slope: [0, 90], height: [-500, 500], soft: 0, grounds: [] };
const heather = testSpecies('heather', 0, { density: 40, spacing: 0.8, clearance: 0, rule });
const gorse = testSpecies('gorse', 1, { density: 12, spacing: 1, clearance: 0, rule });
const ids = (p: Plants) => Array.from({ length: p.count }, (_, i) => plantId(p, i));

/** Plants in each square of 10 m, by looking at all. */
function squares(grown: readonly Plants[]): Map<string, number> {
  const out = new Map<string, number>();
  for (const { place, count } of grown)
    for (let i = 0; i < count; i++) {
      const key = `${Math.floor(place[i * PLANT_STRIDE] / 10)},${Math.floor(place[i * PLANT_STRIDE + 2] / 10)}`;
      out.set(key, (out.get(key) ?? 0) + 1);
    }
  return out;
}

describe('the ceiling of a level', () => {
  it('is never passed on any 100 m2, and what stands under it is of what would have grown, earlier species first', () => {
    const free = grow(growthOn(flat, [heather, gorse]));
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 70 }), (ceiling) => {
        const held = grow(growthOn(flat, [heather, gorse], { ceiling }));
        expect(Math.max(0, ...squares(held).values())).toBeLessThanOrEqual(ceiling);
        const before = new Set(ids(free[0]));
        expect(ids(held[0]).every((id) => before.has(id))).toBe(true);
        expect(held[0].count + (held[0].over ?? 0)).toBe(free[0].count);
        // Gorse has what heather leaves.
        const heathers = squares([held[0]]);
        for (const [key, n] of squares([held[1]])) expect(n).toBeLessThanOrEqual(ceiling - (heathers.get(key) ?? 0));
      }),
      { numRuns: 12 },
    );
  });

  it('changes nothing where it is not reached', () => {
    const [a, b] = [grow(growthOn(flat, [heather, gorse])), grow(growthOn(flat, [heather, gorse], { ceiling: 500 }))];
    expect(b).toEqual(a);
    expect(b[0]).not.toHaveProperty('over');
  });

  it('counts those set by hand and takes none of them', () => {
    const byHand = Array.from({ length: 30 }, (_, i): PlantObject => ({
      id: `h${i}`,
      version: 1,
      kind: 'plant',
      name: `h${i}`,
      species: 'gorse',
      at: [12 + (i % 6), 1, 12 + Math.floor(i / 6)],
      turn: 0,
      scale: 1,
      gone: false,
      hidden: false,
      out: false,
    }));
    const grown = grow(growthOn(flat, [heather, gorse], { ceiling: 20, plants: byHand }));
    const here = squares(grown);
    expect(here.get('1,1')).toBe(30);
    expect(grown[1].hand.length).toBe(30);
    expect(squares([grown[0]]).get('1,1')).toBeUndefined();
    expect(here.get('3,3')).toBe(20);
  });

  it('is what "why here" names where a square is full', () => {
    const input = growthOn(flat, [heather], { ceiling: 5 });
    const grown = grow(input);
    const free = grow(growthOn(flat, [heather]))[0];
    const kept = new Set(ids(grown[0]));
    const i = ids(free).findIndex((id) => !kept.has(id));
    const why = whyHere(input, grown, 'heather', free.place[i * PLANT_STRIDE], free.place[i * PLANT_STRIDE + 2])!;
    expect(why).toMatchObject({ here: false, verdict: 'no heather: these 100 m² hold 5 plants already' });
    const k = ids(free).findIndex((id) => kept.has(id));
    expect(whyHere(input, grown, 'heather', free.place[k * PLANT_STRIDE], free.place[k * PLANT_STRIDE + 2])!.here).toBe(true);
  });
});

describe('the ceiling of a species', () => {
  it('holds its density, however much is sown', () => {
    const tiles = new Map([['heather/sown/0,0', new Int32Array(65 * 65).fill(4096)]]);
    const density = (more: Partial<Species>) => {
      const [{ count, place }] = grow(growthOn(flat, [{ ...heather, ...more }], { tiles }));
      let inside = 0;
      for (let i = 0; i < count; i++) if (place[i * PLANT_STRIDE] < 30 && place[i * PLANT_STRIDE + 2] < 30) inside++;
      return inside / 9;
    };
    expect(density({ density: 15 })).toBeGreaterThan(55);
    expect(Math.abs(density({ density: 15, ceiling: 25 }) - 25)).toBeLessThan(1.5);
    expect(density({ density: 15, ceiling: 0 })).toBe(0);
  });

  it('is told as what holds the density', () => {
    const input = growthOn(flat, [{ ...heather, ceiling: 10 }]);
    expect(whyHere(input, grow(input), 'heather', 20, 20)!.parts.find((p) => p.what === 'ceiling')).toEqual({
      what: 'ceiling',
      value: 'no more than 10 of it on 100 m²',
      factor: 0.25,
    });
  });
});

describe('the map of density', () => {
  it('counts what stands on 100 m2 about each square metre, as one counts it there', () => {
    const grown = grow(growthOn(flat, [heather, gorse]));
    const { across, of } = densityMap(grown, flat.grid);
    for (let z = 8; z < 56; z += 5)
      for (let x = 8; x < 56; x += 5) {
        const counted = densityAt(grown, x + 0.5, z + 0.5);
        // The circle's edge of 35 m cuts squares of a metre.
        expect(Math.abs(of[z * across + x] - counted)).toBeLessThanOrEqual(Math.max(6, counted * 0.15));
      }
    expect(densityMap([], flat.grid).of.every((v) => v === 0)).toBe(true);
  });
});
