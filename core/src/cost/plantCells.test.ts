import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { grow } from '../growth/grow';
import type { Pose, Species } from '../level/objects';
import { testAssets } from '../testing/assets';
import { growthOn, testSpecies } from '../testing/growth';
import { terrainOf } from '../testing/levels';
import { batchList, wholeLevel } from './batches';
import type { Drawable } from './drawable';
import { castersOf, shadowBatches } from './shadows';
import { tally } from './tally';
import { cameraOf } from './camera';
import { instanceDrawables } from './instances';
import { plantCells } from './plantCells';

const assets = testAssets();
const anywhere: Species['rule'] = { on: true, slope: [0, 90], height: [-500, 500], soft: 0, grounds: [] };
const ground = terrainOf((x, z) => Math.sin(x * 0.05) * 4 + z * 0.02, 16);
const birch = testSpecies('birch', 0, { rule: anywhere, density: 0.6, spacing: 3, clearance: 0, cutoff: 0 });
const grown = grow(growthOn(ground, [birch]));
const byId = (s: Species) => new Map([[s.id, s]]);
const cells = (s = birch) => plantCells(grown, byId(s), assets);
const drawables = (s = birch): Drawable[] => instanceDrawables(cells(s), assets, byId(s));
const single = (list: readonly Drawable[]) => list.filter((d) => !d.holds);
const places = (keys: readonly string[]) => {
  const wanted = new Set(keys);
  return cells()
    .filter((c) => wanted.has(c.key))
    .flatMap((c) => Array.from({ length: c.count }, (_, i) => `${c.matrices[i * 16 + 12]} ${c.matrices[i * 16 + 14]}`));
};

describe('cells that are drawn together', () => {
  it('hold what the single ones have, each plant once at each width, and say what changed', () => {
    const all = cells();
    for (const side of ['@128', '@64']) {
      const wide = all.filter((c) => c.key.endsWith(side));
      expect(wide.length).toBeGreaterThan(3);
      for (const w of wide) expect(w.count).toBe(w.holds!.reduce((n, key) => n + all.find((c) => c.key === key)!.count, 0));
    }
    const twice = new Map(cells().map((c) => [c.key, c.print]));
    expect(all.every((c) => twice.get(c.key) === c.print)).toBe(true);
    const moved = { ...grown[0], place: grown[0].place.slice() };
    moved.place[0] += 0.001;
    const other = plantCells([moved], byId(birch), assets);
    const changed = other.filter((c) => c.print !== twice.get(c.key));
    // The cell it stands in, and what holds that.
    expect(changed.filter((c) => !c.holds)).toHaveLength(1);
    expect(changed.length).toBeLessThanOrEqual(3);
  });

  it('from anywhere are what each by itself is: the same plants at the same LOD, in view and none left out, in fewer draws', () => {
    const list = drawables();
    const alone = single(list);
    fc.assert(
      fc.property(
        fc.constantFrom<Pose['view']>('orbit', 'stand', 'plan'),
        fc.integer({ min: 0, max: 512 }),
        fc.integer({ min: 0, max: 512 }),
        fc.integer({ min: 0, max: 359 }),
        fc.constantFrom(1, 2, 0.5),
        (view, x, z, yaw, coarseness) => {
          const camera = cameraOf({ view, target: [x, 4, z], yaw, pitch: -12, distance: 90 }, 1.6, 1.65);
          const [a, b] = [batchList(list, camera, 1, coarseness), batchList(alone, camera, 1, coarseness)];
          const lods = new Map(a.flatMap((batch) => places([batch.key]).map((p) => [p, batch.lod] as const)));
          expect(lods.size).toBe(a.reduce((n, batch) => n + batch.instances, 0));
          for (const batch of b) for (const p of places([batch.key])) expect(lods.get(p)).toBe(batch.lod);
          // One that reaches into view where its own have nothing there is a draw more.
          expect(tally(a).all.draws).toBeLessThanOrEqual(tally(b).all.draws + 4);
        },
      ),
      { numRuns: 30 },
    );
    const across = cameraOf({ view: 'stand', target: [10, 4, 500], yaw: 45, pitch: 0, distance: 10 }, 1.6, 1.65);
    expect(tally(batchList(list, across, 1, 1)).all.draws).toBeLessThan(0.7 * tally(batchList(alone, across, 1, 1)).all.draws);
  });

  it('cast no shadow and count for nothing as cells of their own; what is left out beyond a distance is so cell by cell', () => {
    const list = drawables();
    const camera = cameraOf({ view: 'stand', target: [256, 4, 256], yaw: 20, pitch: 0, distance: 10 }, 1.6, 1.65);
    expect(wholeLevel(list).reduce((n, b) => n + b.instances, 0)).toBe(grown[0].count);
    const order = (l: { key: string }[]) => l.map((b) => b.key).sort();
    expect(order(shadowBatches(list, camera, 1))).toEqual(order(shadowBatches(single(list), camera, 1)));
    expect(castersOf(list, camera, 1, 1).every((c) => !c.drawable.holds)).toBe(true);
    const cut = drawables({ ...birch, cutoff: 210 });
    const seen = (l: Drawable[]) => batchList(l, camera, 1, 1).reduce((n, b) => n + b.instances, 0);
    // A wide one that lies across the edge is not drawn.
    const edge = seen(cut) - seen(single(cut));
    expect(edge).toBeGreaterThanOrEqual(0);
    expect(edge).toBeLessThan(seen(cut) * 0.35);
    const reach = new Set(batchList(single(cut), camera, 1, 1).flatMap((b) => places([b.key])));
    expect(batchList(cut, camera, 1, 1).flatMap((b) => places([b.key])).length).toBeGreaterThanOrEqual(reach.size);
  });

  it('make no matrix before it is asked for', () => {
    const [cell] = cells();
    expect(Object.getOwnPropertyDescriptor(cell, 'matrices')).toBeUndefined();
    expect((cell as unknown as { made?: unknown }).made).toBeUndefined();
    expect(cell.matrices).toHaveLength(cell.count * 16);
    expect(cell.matrices).toBe(cell.matrices);
  });
});
