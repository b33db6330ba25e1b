import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { PlantObject } from '../level/objects';
import { growthOn, testSpecies } from '../testing/growth';
import { terrainOf } from '../testing/levels';
import { grow } from './grow';
import { keptLean, keptSize, keptTurn, packedBytes, packPlants, unpacked } from './packedPlants';
import { PLANT_STRIDE, type Plants } from './plants';

const bits = (a: Float32Array) => [...new Int32Array(a.buffer, a.byteOffset, a.length)];
/** All of some plants as plain values, numbers by their bits. */
const state = ({ place, id, look, ...rest }: Plants) => ({ ...rest, place: bits(place), id: [...id], look: [...look] });

const rule = { on: true, slope: [0, 60] as [number, number], height: [-500, 500] as [number, number], soft: 5, grounds: [] };
const hill = terrainOf((x, z) => x * 0.2 + Math.abs(z - 30) * 0.1);
const plant = (id: string, species: string, more: Partial<PlantObject> = {}): PlantObject => ({
  id,
  version: 1,
  kind: 'plant',
  name: id,
  species,
  at: [12.3, 4.5, 6.7],
  turn: 33.3333,
  scale: [0.777, 1.234, 0.9],
  was: [12, 6],
  radius: 0,
  gone: false,
  ...more,
});

describe('packed plants', () => {
  it('come back bit for bit as they grew: leaning with the ground, by three axes, in clusters, set by hand', () => {
    const species = [
      testSpecies('birch', 0, { density: 1, rule }),
      testSpecies('gorse', 1, { density: 9, leanToSlope: 0.7, lean: 20, depth: [0.5, 2], tints: ['#ffffff', '#ff0000'], patch: 6, rule }),
      testSpecies('heather', 2, { about: { species: 'birch', chance: 1, count: [1, 5], spread: 3 }, rule }),
    ];
    const plants = [plant('p1', 'birch'), plant('p2', 'gorse', { tilt: [0.1, 0.2, 0, 0.9746] }), plant('p3', 'birch', { at: [-4, 1, 900], scale: 300 })];
    const grown = grow(growthOn(hill, species, { plants }));
    expect(grown.map((p) => p.hand.length)).toEqual([2, 1, 0]);
    for (const p of grown) {
      expect(p.count).toBeGreaterThan(p.hand.length + 20);
      const packed = packPlants(p);
      expect(state(unpacked(packed))).toEqual(state(p));
      // Nothing that grew is told apart from how it is packed: only hands set other numbers.
      expect(packed.odd.length).toBeLessThanOrEqual(p.hand.length);
    }
  });

  it('take 32 bytes at most where a species is dense, and a byte for each of their looks', () => {
    const [p] = grow(growthOn(hill, [testSpecies('gorse', 0, { density: 30, spacing: 0.6, rule })]));
    expect(p.count).toBeGreaterThan(500);
    const packed = packPlants(p);
    // 12 of place, 10 of turn, lean and two sizes, a look, a slot; the rest is of runs.
    expect(packed.deep).toBeUndefined();
    expect(packedBytes(packed) / p.count).toBeGreaterThan(25);
    expect(packedBytes(packed) / p.count).toBeLessThan(28);
    expect(p.place.byteLength + p.id.byteLength + p.look.byteLength).toBe(49 * p.count);
  });

  it('give back anything, whatever their numbers are', () => {
    const number = fc.oneof(fc.float({ noNaN: true }), fc.float({ min: 0, max: 360, noNaN: true }));
    fc.assert(
      fc.property(
        fc.array(
          fc.tuple(
            fc.array(number, { minLength: PLANT_STRIDE, maxLength: PLANT_STRIDE }),
            fc.tuple(fc.integer({ min: -3, max: 3 }), fc.integer(), fc.integer({ min: -1, max: 70_000 })),
          ),
          { maxLength: 40 },
        ),
        (list) => {
          const p: Plants = {
            species: 's',
            count: list.length,
            place: Float32Array.from(list.flatMap(([place]) => place)),
            look: Uint8Array.from(list, (_, i) => i),
            id: Int32Array.from(list.flatMap(([, id]) => id)),
            hand: ['h'],
            over: 3,
            by: [{ pass: '', count: list.length }],
          };
          const back = unpacked(packPlants(p));
          expect([...back.place]).toEqual([...p.place].map((v) => (v === 0 ? expect.closeTo(0, 9) : v)));
          expect([...back.id]).toEqual([...p.id]);
          expect({ ...back, place: 0, id: 0 }).toEqual({ ...p, place: 0, id: 0 });
        },
      ),
    );
  });

  it('give back sizes to the last bit: deeper than wide among others, and any bit that is not kept', () => {
    const of = (sizes: [tall: number, wide: number, deep: number][]): Plants => ({
      species: 's',
      count: sizes.length,
      place: Float32Array.from(sizes.flatMap(([tall, wide, deep]) => [1, 2, 3, 0, tall, wide, 0, 0, deep])),
      look: new Uint8Array(sizes.length),
      id: new Int32Array(sizes.length * 3),
      hand: [],
    });
    const mixed = of([
      [1, 1.5, 0.5],
      [2, 1.25, 1.25],
    ]);
    expect(packPlants(mixed).odd).toHaveLength(0);
    expect(state(unpacked(packPlants(mixed)))).toEqual(state(mixed));
    // 1 and one of the 23 bits of its mantissa: the upper twelve are kept, what has one below stands beside.
    const bit = Array.from({ length: 23 }, (_, k) => 1 + 2 ** (k - 23));
    for (const where of [0, 1, 2]) {
      const each = of(bit.map((v) => [0, 1, 2].map((k) => (k === where ? v : 1)) as [number, number, number]));
      const packed = packPlants(each);
      expect([...packed.odd]).toEqual([0, 1, 2, 3, 4, 5, 6, 7, 8, 9, 10]);
      expect(state(unpacked(packed))).toEqual(state(each));
    }
    // What is out of range stands beside as well.
    const far = of([0.001, 0.00390625, 255.9375, 256, 0, -1].map((v) => [v, 1, 1]));
    expect([...packPlants(far).odd]).toEqual([0, 3, 4, 5]);
    expect(state(unpacked(packPlants(far)))).toEqual(state(far));
  });

  it('are kept as near as they are promised', () => {
    fc.assert(
      fc.property(fc.double({ min: 0.004, max: 255, noNaN: true }), fc.double({ min: 0, max: 179, noNaN: true }), (size, angle) => {
        expect(Math.abs(keptSize(size) / size - 1)).toBeLessThanOrEqual(1 / 8192 + 1e-7);
        expect(keptSize(keptSize(size))).toBe(keptSize(size));
        expect(Math.abs(keptLean(angle) - angle)).toBeLessThanOrEqual(0.0014);
        const off = Math.abs(keptTurn(angle * 2 - 100) - (angle * 2 - 100)) % 360;
        expect(Math.min(off, 360 - off)).toBeLessThanOrEqual(0.003);
      }),
    );
  });

  it('are copied unpacked, as workers and spreads copy', () => {
    const [p] = grow(growthOn(hill, [testSpecies('gorse', 0, { density: 9, rule })]));
    const at = unpacked(packPlants(p));
    expect(state(structuredClone(at))).toEqual(state(p));
    expect(state({ ...at })).toEqual(state(p));
    // Read twice it is the same array: readers may hold on to it.
    expect(at.place).toBe(at.place);
  });
});
