import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { beginStroke, BRUSH_DEFAULTS, endStroke } from '../earth/brush';
import { composeRect, composeTerrain, wholeRect } from '../earth/compose';
import { dab } from '../earth/dab';
import { composeLean, earthOf, composeSlab, joinSlabs, slabJobs, slabRects } from '../earth/slab';
import { waterBodies } from '../earth/waters';
import { liftStack, settingsOf, type Level } from '../level/level';
import type { GroundRule, Surface, Water } from '../level/objects';
import { parseObject } from '../level/objects';
import { gridOf, tileKey, TILE_SAMPLES } from '../level/tiles';
import { addRasters } from '../num/fixed';
import { someCondition } from '../testing/conditions';
import { testLevel } from '../testing/levels';
import { composeGround, makeGround } from './ground';
import { composeGroundSlab, groundSlabJobs, joinGround } from './slab';
import { groundDefaults } from './surfaces';
import { expectBits } from '../testing/bits';

/** Across a worker's border and back: what arrives there is a copy. */
const sent = <T>(value: T): T => structuredClone(value);

/** Five tiles square, noise, a heap masked by the slope below it, hand work over tile edges, paint that masks a second heap. */
function worked(): Level {
  const level = testLevel(5, 0.5, { seed: 7, height: 5, scale: 30, octaves: 3 });
  for (const given of [
    {
      id: 'heap',
      order: 10,
      lift: 'landform',
      line: [
        [60, 60],
        [100, 64],
        [90, 110],
      ],
      height: 5,
      foot: 8,
      mask: { slope: { band: [0, 14], soft: 6 } },
    },
    {
      id: 'bank',
      order: 20,
      lift: 'landform',
      line: [
        [20, 30],
        [140, 34],
        [130, 90],
      ],
      height: 3,
      foot: 5,
      mask: { painted: 'moss', slope: { band: [3, 40], soft: 3 } },
    },
  ]) {
    const parsed = parseObject({ version: 1, kind: 'lift', name: given.id, visible: true, ...given });
    if (!parsed.ok) throw new Error(parsed.message);
    level.objects.set(given.id, parsed.object);
  }
  const terrain = composeTerrain(level);
  const buffer = beginStroke('hand', terrain.grid);
  for (const [x, z] of [
    [32, 32],
    [64, 96],
    [96, 64],
    [128, 140],
  ])
    dab(buffer, level.tiles, terrain, { ...BRUSH_DEFAULTS, radius: 9, strength: 1 }, { x, z });
  for (const { key, delta } of endStroke(buffer)) level.tiles.set(key, addRasters(level.tiles.get(key) ?? new Int32Array(TILE_SAMPLES), delta));
  for (let t = 0; t < 25; t++)
    level.tiles.set(
      tileKey('moss', 'paint', t % 5, Math.floor(t / 5)),
      Int32Array.from({ length: TILE_SAMPLES }, (_, i) => (i * 37 + t * 91) % 1025),
    );
  return level;
}

describe('a level in slabs', () => {
  it('cuts the rows of whole tiles, each once, whatever the count', () => {
    const grid = gridOf({ tilesX: 3, tilesZ: 5, spacing: 1 });
    for (const count of [1, 2, 3, 5, 9]) {
      const rects = slabRects(grid, count);
      expect(rects.length).toBe(Math.min(5, count));
      expect(rects.reduce((n, r) => n + r.z1 - r.z0 + 1, 0)).toBe(grid.nz);
      rects.forEach((r, i) => {
        expect(r.z0).toBe(i === 0 ? 0 : rects[i - 1].z1 + 1);
        expect([r.x0, r.x1]).toEqual([0, 192]);
      });
      expect(rects.at(-1)!.z1).toBe(320);
    }
  });

  it('is composed part by part to the bits of the whole, and for a picture to near them', () => {
    const level = worked();
    const whole = composeTerrain(level);
    const lean = composeLean(earthOf(level));
    expectBits(lean.heights, whole.heights);
    expect(lean.noise.size).toBe(0);
    // 321 x 321 samples are one part, 513 x 2561 are two.
    const long = testLevel(2, 0.5, { seed: 7, height: 5, scale: 30, octaves: 3 });
    Object.assign(long.objects.get('settings')!, { tilesX: 8, tilesZ: 40 });
    const [a, b] = [composeLean(earthOf(long)), composeTerrain(long)];
    expectBits(a.heights, b.heights);
    const coarse = composeLean(earthOf(long), 4);
    const off = coarse.heights.map((h, i) => Math.abs(h - b.heights[i]));
    // Straight over 2 m of waves 7.5 m long of 1.25 m: at most about half a metre; at the looks themselves, the bits.
    expect(Math.max(...off.subarray(0, 100_000))).toBeLessThan(0.7);
    for (const [x, z] of [
      [0, 0],
      [8, 4],
      [504, 2000],
    ])
      expect(coarse.heights[z * b.grid.nx + x]).toBe(b.heights[z * b.grid.nx + x]);
  });

  it('is composed to the bits of the whole, its noise made on the way or known before', () => {
    const level = worked();
    const whole = composeTerrain(level);
    const wild = testLevel(5, 0.5, { seed: 99, height: 900, scale: 10, octaves: 3 });
    const jobOf = (l: Level) => slabJobs({ grid: gridOf(settingsOf(l)), noise: new Map(), stack: liftStack(l), tiles: l.tiles }, 1)[0];
    const other = jobOf(wild);
    composeSlab(jobOf(testLevel(2, 0.5, { seed: 3, height: 2, scale: 10, octaves: 2 })));
    for (const count of [1, 2, 4]) {
      for (const known of [new Map<string, Float32Array>(), whole.noise]) {
        const noise = new Map(known);
        const jobs = sent(slabJobs({ grid: whole.grid, noise, stack: liftStack(level), tiles: level.tiles }, count));
        // Before each comes a slab of another level of that size, which leaves its heights in the worker's rasters.
        const joined = joinSlabs(
          whole.grid,
          noise,
          sent(
            jobs.map((job) => {
              composeSlab(other);
              return composeSlab(job);
            }),
          ),
        );
        expectBits(joined.heights, whole.heights);
        expect([...joined.noise.keys()]).toEqual([...whole.noise.keys()]);
        for (const [hash, raster] of joined.noise) expectBits(raster, whole.noise.get(hash)!);
      }
    }
  });

  it('sends a slab only its own tiles', () => {
    const level = worked();
    const terrain = composeTerrain(level);
    const [north, south] = slabJobs({ ...terrain, stack: liftStack(level), tiles: level.tiles }, 2);
    const rows = (job: typeof north) => new Set(job.tiles.map(([key]) => Number(key.split(',')[1])));
    expect([...rows(north)].sort()).toEqual([0, 1, 2, 3]);
    expect([...rows(south)].sort()).toEqual([2, 3, 4]);
    // A second round knows the noise and sends its rows alone.
    expect(north.noise[0][1].data.buffer.byteLength).toBeLessThan(terrain.heights.byteLength * 0.7);
  });

  it('has the ground of the whole, byte for byte, whatever the rules go by', () => {
    const level = worked();
    const terrain = composeTerrain(level);
    const surfaces = groundDefaults().filter((o): o is Surface => o.kind === 'surface');
    const pool: Water = { id: 'sea', version: 1, kind: 'water', form: 'sea', name: 'sea', height: 0.5, hidden: false, out: false } as Water;
    const waters = waterBodies(terrain, [pool]).bodies;
    expect(waters.length).toBe(1);
    const byLift: GroundRule = {
      id: 'by-lift',
      version: 1,
      kind: 'groundRule',
      name: 'on the heap',
      order: 0,
      surface: 'gravel',
      share: 1,
      where: [{ by: 'lift', lift: 'heap', band: [0.5, 9], soft: 1 }],
      wins: false,
      on: true,
    };
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.constantFrom(...surfaces.map((s) => s.id)), someCondition, fc.boolean()), { maxLength: 4 }),
        fc.integer({ min: 1, max: 4 }),
        (list, count) => {
          const rules = [byLift, ...list.map(([surface, c, wins], i): GroundRule => ({ ...byLift, id: `r${i}`, surface, where: [c], wins }))];
          const from = { terrain, stack: liftStack(level), tiles: level.tiles, waters, rules };
          const whole = makeGround(terrain.grid, surfaces);
          composeGround(whole, from, wholeRect(terrain.grid));
          const joined = joinGround(terrain.grid, surfaces, sent(groundSlabJobs(surfaces, from, count)).map(composeGroundSlab));
          for (const part of ['of', 'weights', 'topOf', 'tops'] as const) expectBits(joined[part], whole[part]);
        },
      ),
      { numRuns: 12 },
    );
  });

  it('as any rectangle of it: hidden lifts and lifts without weight count for nothing', () => {
    const level = worked();
    level.objects.set('noise', { ...level.object('noise')!, visible: false } as never);
    const terrain = composeTerrain(level);
    const stack = liftStack(level);
    const joined = joinSlabs(gridOf(settingsOf(level)), new Map(), slabJobs({ ...terrain, stack, tiles: level.tiles }, 3).map(composeSlab));
    expectBits(joined.heights, terrain.heights);
    expect(joined.noise.size).toBe(0);
    composeRect(joined, stack, level.tiles, { x0: 3, z0: 60, x1: 200, z1: 70 });
    expectBits(joined.heights, terrain.heights);
  });
});
