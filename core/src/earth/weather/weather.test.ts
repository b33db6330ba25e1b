import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { applyEdit, commitChanges } from '../../level/edits/index';
import type { Level } from '../../level/level';
import { parseObject, type NoiseLift, type Weather } from '../../level/objects';
import { slopeDeg } from '../../num/trig';
import { terrainOf, testLevel } from '../../testing/levels';
import { composeTerrain } from '../compose';
import { aroundLift } from '../volume';
import { hydraulic, HYDRAULIC_DEFAULTS, type WeatherMarks } from './hydraulic';
import { thermal } from './thermal';
import { keepWeather, weather, weatherHash } from './weatherLift';
import { expectBits } from '../../testing/bits';

const marksFor = (n: number): WeatherMarks => ({ scour: new Float32Array(n), settle: new Float32Array(n), runoff: new Float32Array(n) });
const everywhere = (n: number) => new Float32Array(n).fill(1);
const sum = (a: ArrayLike<number>) => {
  let s = 0;
  for (let i = 0; i < a.length; i++) s += a[i];
  return s;
};
const grid = terrainOf(() => 0).grid;
const n = grid.nx * grid.nz;
const from = (height: (x: number, z: number) => number) => Float64Array.from(terrainOf(height).heights);
const hill = (x: number, z: number) => 12 * Math.max(0, 1 - Math.hypot(x - 32, z - 32) / 26) + 0.4 * Math.sin(x) * Math.cos(z * 1.3);

describe('thermal weathering', () => {
  it('a tower falls to a cone at the talus angle, within 2 degrees, and no grain is lost', () => {
    for (const talus of [30, 38]) {
      const heights = from((x, z) => (Math.hypot(x - 32, z - 32) < 4 ? 14 : 0));
      const before = sum(heights);
      expect(thermal(heights, grid, { talus, rounds: 2500 }, everywhere(n))).toBe(true);
      expect(Math.abs(sum(heights) / before - 1)).toBeLessThan(1e-9);
      let steepest = 0;
      for (let z = 1; z < grid.nz - 1; z++)
        for (let x = 1; x < grid.nx - 1; x++) {
          const i = z * grid.nx + x;
          steepest = Math.max(steepest, Math.hypot(heights[i + 1] - heights[i - 1], heights[i + grid.nx] - heights[i - grid.nx]));
        }
      expect(Math.abs(slopeDeg(steepest) - talus)).toBeLessThan(2);
    }
  });

  it('leaves ground alone that is not too steep, and what lies outside its area', () => {
    const gentle = from((x) => x * 0.3);
    const before = gentle.slice();
    thermal(gentle, grid, { talus: 34, rounds: 20 }, everywhere(n));
    expect(gentle).toEqual(before);
    const tower = from((x, z) => (Math.hypot(x - 32, z - 32) < 4 ? 14 : 0));
    const share = everywhere(n).map((_, i) => (i % grid.nx > 64 ? 1 : 0));
    const was = tower.slice();
    thermal(tower, grid, { talus: 34, rounds: 50 }, share);
    expect(tower.every((h, i) => share[i] === 1 || h === was[i])).toBe(true);
  });

  it('stops when told to', () => {
    let rounds = 0;
    expect(thermal(from(hill), grid, { talus: 20, rounds: 50 }, everywhere(n), () => ++rounds < 3)).toBe(false);
    expect(rounds).toBe(3);
  });
});

describe('hydraulic weathering', () => {
  it('keeps the mass within 0.5 %, and its marks say what moved', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 9999 }), (seed) => {
        const heights = from(hill);
        const before = heights.slice();
        const marks = marksFor(n);
        expect(hydraulic(heights, grid, { ...HYDRAULIC_DEFAULTS, droplets: 4000, seed }, { share: everywhere(n), marks })).toBe(true);
        expect(Math.abs(sum(heights) / sum(before) - 1)).toBeLessThan(0.005);
        const moved = sum(marks.scour);
        expect(moved).toBeGreaterThan(1);
        expect(Math.abs(sum(marks.settle) / moved - 1)).toBeLessThan(1e-3);
        for (let i = 0; i < n; i += 7) expect(heights[i] - before[i]).toBeCloseTo(marks.settle[i] - marks.scour[i], 3);
      }),
      { numRuns: 6 },
    );
  });

  it('scours what is steep and settles what is not: the foot of a hill gains, its flank loses', () => {
    const heights = from((x, z) => 12 * Math.max(0, 1 - Math.hypot(x - 32, z - 32) / 20));
    const before = heights.slice();
    hydraulic(heights, grid, { ...HYDRAULIC_DEFAULTS, droplets: 12_000 }, { share: everywhere(n), marks: marksFor(n) });
    const change = (r0: number, r1: number) => {
      let d = 0;
      let k = 0;
      for (let i = 0; i < n; i++) {
        const r = Math.hypot((i % grid.nx) / 2 - 32, Math.floor(i / grid.nx) / 2 - 32);
        if (r >= r0 && r < r1) {
          d += heights[i] - before[i];
          k++;
        }
      }
      return d / k;
    };
    expect(change(4, 16)).toBeLessThan(-0.01);
    expect(change(20, 26)).toBeGreaterThan(0.005);
  });

  it('stays inside its area, gives the same for the same seed, another for another, and stops when told to', () => {
    const share = everywhere(n).map((_, i) => (i % grid.nx > 40 && i % grid.nx < 90 ? 1 : 0));
    const run = (seed: number) => {
      const heights = from(hill);
      hydraulic(heights, grid, { ...HYDRAULIC_DEFAULTS, droplets: 2000, seed }, { share, marks: marksFor(n) });
      return heights;
    };
    const [a, b, c] = [run(5), run(5), run(6)];
    expect(a).toEqual(b);
    expect(a).not.toEqual(c);
    const was = from(hill);
    // A drop ends between samples: what it carries may lie one sample beyond.
    expect(
      a.every((h, i) => {
        const x = i % grid.nx;
        return (x >= 40 && x <= 91) || h === was[i];
      }),
    ).toBe(true);
    expect(hydraulic(from(hill), grid, { ...HYDRAULIC_DEFAULTS, droplets: 5000 }, { share, marks: marksFor(n) }, (done) => done < 0.5)).toBe(false);
  });
});

describe('a weather lift', () => {
  const level = () => {
    const l = testLevel(2, 0.5, { seed: 3, height: 6, scale: 30, octaves: 5 });
    const parsed = parseObject({
      id: 'rain',
      version: 1,
      kind: 'lift',
      lift: 'weather',
      name: 'rain',
      order: 50,
      droplets: 3000,
      rounds: 10,
      mask: {
        outline: {
          line: [
            [10, 10],
            [50, 10],
            [50, 50],
            [10, 50],
          ],
          soft: 4,
        },
      },
    });
    if (!parsed.ok) throw new Error(parsed.message);
    l.objects.set('rain', parsed.object);
    return l;
  };
  const rain = (l: Level) => l.object('rain') as Weather;

  it('is kept as rasters with the hash of what it was made from, and told stale when the ground below changes', () => {
    const l = level();
    const terrain = composeTerrain(l);
    const bare = terrain.heights.slice();
    const { below } = aroundLift(l, terrain, 'rain')!;
    const hash = weatherHash(rain(l), below.heights, terrain.grid);
    const made = weather(rain(l), below.heights, terrain.grid)!;
    const applied = applyEdit(l, keepWeather(rain(l), made, hash, terrain.grid, l.tiles));
    if (!applied.ok) throw new Error(applied.message);
    commitChanges(l, applied.changes);
    const after = composeTerrain(l).heights;
    // Inside the mask's own soft edge it counts whole.
    const inside = (i: number) => [i % terrain.grid.nx, Math.floor(i / terrain.grid.nx)].every((k) => k > 26 && k < 94);
    expect(after.every((h, i) => !inside(i) || Math.abs(h - bare[i] - made.moved[i]) < 0.001)).toBe(true);
    expect(after.some((h, i) => Math.abs(h - bare[i]) > 0.05)).toBe(true);
    // Outside its outline nothing moved.
    const { nx } = terrain.grid;
    for (let i = 0; i < after.length; i++) if (i % nx < 19 || i % nx > 101) expect(after[i]).toBe(bare[i]);
    expect(weatherHash(rain(l), aroundLift(l, composeTerrain(l), 'rain')!.below.heights, terrain.grid)).toBe(rain(l).made);
    l.objects.set('noise', { ...(l.object('noise') as NoiseLift), seed: 4 });
    expect(weatherHash(rain(l), aroundLift(l, composeTerrain(l), 'rain')!.below.heights, terrain.grid)).not.toBe(rain(l).made);
    const undo = applyEdit(l, applied.inverse);
    if (!undo.ok) throw new Error(undo.message);
    commitChanges(l, undo.changes);
    expect([...l.tiles.keys()]).toEqual([]);
    expect(rain(l).made).toBeUndefined();
  });

  it('made again replaces what it was; cancelled it leaves nothing', () => {
    const l = level();
    const terrain = composeTerrain(l);
    const { below } = aroundLift(l, terrain, 'rain')!;
    for (const seed of [1, 2]) {
      const lift = { ...rain(l), seed };
      const applied = applyEdit(l, keepWeather(lift, weather(lift, below.heights, terrain.grid)!, String(seed), terrain.grid, l.tiles));
      if (!applied.ok) throw new Error(applied.message);
      commitChanges(l, applied.changes);
    }
    const fresh = level();
    const lift = { ...rain(fresh), seed: 2 };
    const applied = applyEdit(fresh, keepWeather(lift, weather(lift, below.heights, terrain.grid)!, '2', terrain.grid, fresh.tiles));
    if (!applied.ok) throw new Error(applied.message);
    commitChanges(fresh, applied.changes);
    expectBits(composeTerrain(l).heights, composeTerrain(fresh).heights);
    expect(weather(rain(l), below.heights, terrain.grid, (done) => done < 0.4)).toBeUndefined();
  });
});
