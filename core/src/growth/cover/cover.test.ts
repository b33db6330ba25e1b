import { describe, expect, it } from 'vitest';
import { blockGrid } from '../../block/grid';
import { CoverRound } from '../../cost/coverRound';
import { heightAt } from '../../earth/sample';
import type { Terrain } from '../../earth/compose';
import type { Cover, Species } from '../../level/objects';
import type { Vec3 } from '../../num/vec';
import { SLOTS, type GroundRaster } from '../../surface/ground';
import { testAssets } from '../../testing/assets';
import { growthOn, testSpecies } from '../../testing/growth';
import { terrainOf, testBlock } from '../../testing/levels';
import { meshOf } from '../meshes';
import { PLANT_STRIDE } from '../plants';
import { hostsOf } from '../spot';
import { COVER_CELL, COVER_RINGS, coverCell, type CoverInput, type CoverPlants } from './coverCell';
import { coverSpecies } from './coverSpecies';

const anywhere: Species['rule'] = { on: false, slope: [0, 90], height: [-500, 500], soft: 0, grounds: [] };
const grass = testSpecies('gorse', 0, { rule: anywhere, cutoff: 30 });
const flat = terrainOf(() => 1, 8);
const cover = (surface: string, density: number, more: Partial<Cover> = {}): Cover => ({
  id: `c-${surface}`,
  version: 1,
  kind: 'cover',
  name: 'cover',
  order: 0,
  surface,
  species: grass.id,
  density,
  on: true,
  ...more,
});

/** Ground on which a surface has the share a place asks for, the rest another. */
function paint(ground: GroundRaster, share: (x: number, z: number) => number): void {
  const { nx, nz, spacing } = ground.grid;
  for (let i = 0; i < nx * nz; i++) {
    const w = Math.round(share((i % nx) * spacing, Math.floor(i / nx) * spacing) * 255);
    ground.weights.fill(0, i * SLOTS, (i + 1) * SLOTS);
    ground.weights.set([w, 255 - w], i * SLOTS);
  }
}

function on(terrain: Terrain, share: (x: number, z: number) => number = () => 1, more: Partial<CoverInput> = {}): CoverInput & { surfaces: string[] } {
  const { ground, blocks, meshes } = growthOn(terrain, []);
  paint(ground, share);
  const standable = { terrain, blocks, meshes, ...more };
  return { ground, waters: [], hosts: hostsOf(standable), ...standable, surfaces: ground.surfaces.map((s) => s.id) };
}

const ready = (input: ReturnType<typeof on>, covers: Cover[], species: Species[] = [grass]) =>
  coverSpecies(covers, species, { surfaces: input.surfaces, heights: new Map(species.map((s) => [s.asset, 1])), origin: [0, 0] });
const cellAt = (input: ReturnType<typeof on>, density: number, cx = 1, cz = 1, species = grass) =>
  coverCell(input, ready(input, [cover(input.surfaces[0], density, { species: species.id })], [species])[0], cx, cz);
const places = ({ place, count }: CoverPlants) => Array.from({ length: count }, (_, i) => [...place.subarray(i * PLANT_STRIDE, i * PLANT_STRIDE + 3)] as Vec3);
const names = (p: CoverPlants) => new Set(places(p).map(([x, , z]) => `${x} ${z}`));

describe('ground cover', () => {
  it('is as dense as it is asked, evenly, also where a cell has but a few', () => {
    const input = on(flat);
    for (const density of [40, 90, 400, 1500]) {
      const all = cellAt(input, density);
      const wanted = (density * COVER_CELL * COVER_CELL) / 100;
      expect(Math.abs(all.count - wanted)).toBeLessThanOrEqual(1);
      const quarter = places(all).filter(([x, , z]) => x < 1.5 * COVER_CELL && z < 1.5 * COVER_CELL).length;
      // Strewn by chance alone it would be off by the root of it.
      expect(Math.abs(quarter - wanted / 4)).toBeLessThan(Math.max(4, 0.6 * Math.sqrt(wanted / 4)));
    }
  });

  it('goes by the share of its surface, and is gone where that is painted over', () => {
    const half = on(flat, (x) => (x < 40 ? 0.5 : x < 44 ? 0 : 1));
    const cells = [1, 2].map((cx) => cellAt(half, 600, cx));
    expect(Math.abs(cells[0].count / (3 * COVER_CELL * COVER_CELL) - 1)).toBeLessThan(0.03);
    expect(places(cells[1]).some(([x]) => x > 40.5 && x < 43.5)).toBe(false);
    expect(places(cells[1]).filter(([x]) => x >= 44.5).length / (3.5 * COVER_CELL * 6)).toBeGreaterThan(0.9);
  });

  it('adds up of several surfaces, and only adds where it is denser: what stood stays', () => {
    const input = on(flat, (x) => (x / 32) % 1);
    const both = ready(input, [cover(input.surfaces[0], 200), cover(input.surfaces[1], 200)])[0];
    const one = coverCell(on(flat), ready(input, [cover(input.surfaces[0], 200)])[0], 1, 1);
    expect(names(coverCell(input, both, 1, 1))).toEqual(names(one));
    const [thin, thick] = [cellAt(input, 150), cellAt(input, 300)];
    expect(thick.count).toBeGreaterThan(thin.count);
    for (const name of names(thin)) expect(names(thick).has(name)).toBe(true);
  });

  it('thins by rings: each is an even share of all, and what is left stands where it stood', () => {
    const all = cellAt(on(flat), 800);
    COVER_RINGS.forEach(({ share }, ring) => expect(Math.abs(all.upTo[ring] - share * all.count)).toBeLessThanOrEqual(1));
    const first = places(all).slice(0, all.upTo[0]);
    const west = first.filter(([x]) => x < 1.5 * COVER_CELL).length;
    expect(Math.abs(west / first.length - 0.5)).toBeLessThan(0.06);
  });

  it('stands on the ground, at its own height, in no water, under nothing that is built, and where its species does', () => {
    const slope = terrainOf((x, z) => (x < 24 ? z * 0.05 : 1 + z * 0.05 + (x - 24) * 1.2), 8);
    const on45 = { ...grass, rule: { ...anywhere, slope: [0, 30] as [number, number] } };
    const block = testBlock('box', [6, 2, 6], [20, 0, 24]);
    const blocks = blockGrid([block]);
    const input = on(slope, () => 1, { blocks });
    const found = cellAt(input, 900, 1, 1, on45);
    for (const [x, y, z] of places(found)) {
      expect(y).toBeCloseTo(heightAt(slope, x, z), 4);
      expect(x).toBeLessThan(24.6);
      expect(Math.abs(x - 20) < 3 && Math.abs(z - 24) < 3).toBe(false);
    }
    expect(found.count).toBeGreaterThan(300);
    const leaning = cellAt(input, 900, 1, 1, { ...on45, lean: 0, leanToSlope: 1 });
    expect(leaning.count).toBe(found.count);
    // One in twenty to the south: what lies flat on that leans by 2.9 degrees.
    for (let i = 0; i < leaning.count; i++) if (leaning.place[i * PLANT_STRIDE] < 22) expect(leaning.place[i * PLANT_STRIDE + 6]).toBeCloseTo(2.862, 2);
    for (let i = 0; i < found.count; i++) {
      const tall = found.place[i * PLANT_STRIDE + 4];
      expect(tall).toBeGreaterThanOrEqual(grass.height[0] - 1e-6);
      expect(tall).toBeLessThanOrEqual(grass.height[1] + 1e-6);
    }
  });

  it('has the meshes of its species by weight, and nothing of what is off, gone or without density', () => {
    const mixed = { ...grass, weight: 1, meshes: [{ asset: 'other', weight: 3 }] };
    const input = on(flat);
    const of = coverSpecies([cover(input.surfaces[0], 1500)], [mixed], {
      surfaces: input.surfaces,
      heights: new Map([
        [grass.asset, 1],
        ['other', 0.5],
      ]),
      origin: [0, 0],
    });
    const all = coverCell(input, of[0], 0, 0);
    const others = Array.from({ length: all.count }, (_, i) => meshOf(all, i)).filter((m) => m === 1).length;
    expect(Math.abs(others / all.count - 0.75)).toBeLessThan(0.03);
    const none = [
      cover(input.surfaces[0], 0),
      cover('gone', 90),
      cover(input.surfaces[0], 90, { species: 'gone' }),
      cover(input.surfaces[0], 90, { on: false }),
    ];
    expect(ready(input, none)).toEqual([]);
  });

  it('is at most so dense, however much is asked of a surface', () => {
    const input = on(flat);
    const second = { ...grass, id: 'other' };
    const dense = ready(
      input,
      [cover(input.surfaces[0], 4000), cover(input.surfaces[0], 4000, { species: 'other' }), cover(input.surfaces[1], 500)],
      [grass, second],
    );
    expect(dense.map((d) => [d.density[0], d.density[1]])).toEqual([
      [3000, 500],
      [3000, 0],
    ]);
  });
});

describe('ground cover round an eye', () => {
  const input = on(flat, (x, z) => ((x * 7 + z * 3) % 40) / 40);
  const round = () => new CoverRound(input, ready(input, [cover(input.surfaces[0], 300)]), testAssets());
  const ids = (cells: { key: string; matrices: Float32Array }[]) => new Map(cells.map((c) => [c.key, [...c.matrices].join()]));

  it('is the same wherever the eye came from, and reaches as far as is drawn', () => {
    const walked = round();
    const eyes = Array.from({ length: 30 }, (_, i): Vec3 => [20 + i * 7, 2.6, 120 + Math.sin(i) * 30]);
    for (const eye of eyes) walked.around(eye, 3);
    const at = eyes[eyes.length - 1];
    while (walked.around(at, 3).left > 0);
    expect(ids(walked.around(at).cells)).toEqual(ids(round().around(at).cells));
    // Every plant in reach is there: held against all cells of the level.
    const all = ready(input, [cover(input.surfaces[0], 300)])[0];
    const there = new Set(
      round()
        .around(at)
        .cells.flatMap((c) => Array.from({ length: c.matrices.length / 16 }, (_, i) => `${c.matrices[i * 16 + 12]} ${c.matrices[i * 16 + 14]}`)),
    );
    let inReach = 0;
    for (let cz = 0; cz < 16; cz++)
      for (let cx = 0; cx < 16; cx++)
        for (const [x, y, z] of places(coverCell(input, all, cx, cz))) {
          if (Math.hypot(x - at[0], y - at[1], z - at[2]) > 30) continue;
          inReach++;
          expect(there.has(`${x} ${z}`)).toBe(true);
        }
    expect(inReach).toBeGreaterThan(1000);
  });

  it('makes no more at once than it may, the nearest first; high over the ground there is none', () => {
    const few = round();
    const eye: Vec3 = [128, 2.6, 128];
    const first = few.around(eye, 2);
    expect(new Set(first.cells.map((c) => c.key.split('/')[3])).size).toBe(2);
    expect(first.left).toBeGreaterThan(4);
    expect(few.around([128, 200, 128])).toEqual({ cells: [], left: 0 });
  });

  it('makes anew what lies on ground that changed, and nothing else', () => {
    const kept = round();
    const eye: Vec3 = [128, 2.6, 128];
    const before = new Map(kept.around(eye).cells.map((c) => [c.key, c]));
    kept.forget({ x0: 270, z0: 270, x1: 280, z1: 280 });
    const after = kept.around(eye).cells;
    const anew = after.filter((c) => before.get(c.key) !== c);
    expect(new Set(anew.map((c) => c.key.split('/')[3]))).toEqual(new Set(['8,8']));
    expect(after.length).toBe(before.size);
  });

  it('draws what is far thinner: a cut-off for each ring', () => {
    const cells = round().around([128, 2.6, 128]).cells;
    expect(new Set(cells.map((c) => c.cutoff))).toEqual(new Set([30, 18, 9]));
  });
});
