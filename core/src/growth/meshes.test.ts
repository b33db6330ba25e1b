import { describe, expect, it } from 'vitest';
import { instanceCells } from '../testing/freshParts';
import { trunkColliders } from './trunks';
import { pickPlant } from './pickPlant';
import { plantsAlong } from './plantsAlong';
import { crowns } from './crowns';
import { adopted } from './adopt';
import { makeLevel } from '../level/level';
import { ofKind } from '../level/level';
import { assetBounds } from '../kit/asset';
import type { PlantObject, Species } from '../level/objects';
import { testAssets } from '../testing/assets';
import { growthOn, testSpecies } from '../testing/growth';
import { terrainOf } from '../testing/levels';
import { grow } from './grow';
import { handAsset } from './growing';
import { meshDrawn, meshOf, meshShares, tintOf } from './meshes';
import { PLANT_STRIDE, type Plants } from './plants';

const assets = testAssets();
const anywhere: Species['rule'] = { on: true, slope: [0, 90], height: [-500, 500], soft: 0, grounds: [] };
const own = { rule: anywhere, density: 6, spacing: 1.5, clearance: 0, height: [2, 3] as [number, number], tints: ['#ffffff', '#808080', '#404040'] };
const plain = testSpecies('birch', 0, own);
const mixed: Species = { ...plain, meshes: [{ asset: 'gorse', weight: 3 }] };
const on = (s: Species, plants: PlantObject[] = []) =>
  grow(
    growthOn(
      terrainOf(() => 1, 4),
      [s],
      { plants },
    ),
  )[0];
const of = (plants: Plants, mesh: number) => Array.from({ length: plants.count }, (_, i) => i).filter((i) => meshOf(plants, i) === mesh);

describe('several meshes of a species', () => {
  const [one, two] = [on(plain), on(mixed)];

  it('are had by weight, each as tall as the species is, and change nothing of where and how a plant stands', () => {
    expect(of(two, 1).length / two.count).toBeGreaterThan(0.71);
    expect(of(two, 1).length / two.count).toBeLessThan(0.79);
    expect([...two.id]).toEqual([...one.id]);
    for (let i = 0; i < two.count; i++) {
      const o = i * PLANT_STRIDE;
      expect([...two.place.subarray(o, o + 4)]).toEqual([...one.place.subarray(o, o + 4)]);
      expect(tintOf(two, i)).toBe(tintOf(one, i));
      const tall = two.place[o + 4] * assetBounds(assets.get(['birch', 'gorse'][meshOf(two, i)])!).max[1];
      expect(tall).toBeCloseTo(one.place[o + 4] * assetBounds(assets.get('birch')!).max[1], 2);
      // As near as a size is kept.
      expect(Math.abs(tall / (one.place[o + 4] * assetBounds(assets.get('birch')!).max[1]) - 1)).toBeLessThan(2 / 8192 + 1e-6);
      expect(tall).toBeGreaterThan(2 - 1e-3);
      expect(tall).toBeLessThan(3 + 1e-3);
    }
  });

  it('of which one is gone are had without it; all gone, it is its own', () => {
    const heights = new Map([
      ['birch', 4],
      ['gorse', 1],
    ]);
    const shares = (s: Species, known = heights) => meshShares(s, known);
    const draws = Array.from({ length: 101 }, (_, i) => Math.min(i / 100, 1 - 1e-9));
    expect(new Set(draws.map((d) => meshDrawn(shares({ ...mixed, meshes: [{ asset: 'gone', weight: 9 }] }), d)))).toEqual(new Set([0]));
    expect(new Set(draws.map((d) => meshDrawn(shares({ ...mixed, asset: 'gone' }), d)))).toEqual(new Set([1]));
    expect(new Set(draws.map((d) => meshDrawn(shares(mixed, new Map()), d)))).toEqual(new Set([0]));
    const three = {
      ...mixed,
      weight: 2,
      meshes: [
        { asset: 'gone', weight: 1 },
        { asset: 'gorse', weight: 2 },
      ],
    };
    expect(draws.map((d) => meshDrawn(shares(three), d))).toEqual(draws.map((d) => (d < 0.5 ? 0 : 2)));
  });

  it('are each drawn, met, cut, shaded and stopped by as it is', () => {
    const species = new Map([[mixed.id, mixed]]);
    const objects = ['birch', 'gorse'].map((id) => ({ id, version: 1, kind: 'asset' as const, name: id, role: 'plant' as const, hash: '0'.repeat(64) }));
    const level = makeLevel([...objects, mixed]);
    expect(ofKind(level, 'species')).toHaveLength(1);
    const cells = instanceCells({ level, assets, species: [mixed], grown: [two] }).filter((c) => !c.holds);
    for (const [mesh, id] of ['birch', 'gorse'].entries())
      expect(cells.filter((c) => c.asset === id).reduce((n, c) => n + c.count, 0)).toBe(of(two, mesh).length);
    // Birches have a trunk, gorse has another.
    const trunks = trunkColliders([two], species, assets);
    const radius = (i: number) => assets.get(['birch', 'gorse'][meshOf(two, i)])!.trunk * two.place[i * PLANT_STRIDE + 5];
    for (const t of trunks.slice(0, 40)) {
      const i = Number(t.id.split('/')[1]);
      expect((t.max[0] - t.min[0]) / 2).toBeCloseTo(radius(i), 2);
    }
    expect(trunks.length).toBe(Array.from({ length: two.count }, (_, i) => radius(i)).filter((r) => r > 0).length);
    const shade = crowns([two], species, assets);
    expect(shade.length / 4).toBe(two.count);
    // Looked at from the side at half its height it is met, and the section has it as wide.
    const i = of(two, 1)[0];
    const [x, y, z] = two.place.subarray(i * PLANT_STRIDE, i * PLANT_STRIDE + 3);
    const given = { grown: [two], species, assets };
    const hit = pickPlant(given, { origin: [x, 60, z], direction: [0, -1, 0], far: 100 });
    expect(hit?.index).toBe(i);
    const cut = plantsAlong(given, { x0: x - 20, z0: z, dx: 1, dz: 0 }, [0, 40]).find((c) => Math.abs(c.along - 20) < 1e-3)!;
    const { min, max } = assetBounds(assets.get('gorse')!);
    expect(cut.wide).toBeCloseTo(2 * Math.max(-min[0], max[0], -min[2], max[2]) * two.place[i * PLANT_STRIDE + 5], 3);
    expect(cut.base).toBeCloseTo(y, 4);
  });

  it('are kept of a plant that is set by hand: as it grew, or as it says', () => {
    const i = of(two, 1)[3];
    const object: PlantObject = { ...adopted(two, i, mixed), id: 'p1', version: 1, name: 'p1' };
    expect(object.asset).toBe('gorse');
    const kept = on(mixed, [object]);
    expect(meshOf(kept, kept.count - 1)).toBe(1);
    expect(handAsset(mixed, object, assets)).toBe(assets.get('gorse'));
    expect(handAsset(mixed, { id: 'p1', asset: 'birch' }, assets)).toBe(assets.get('birch'));
    // One that names a mesh the species has no more has one by its own number, the same wherever it is asked.
    const other = on(mixed, [{ ...object, asset: 'gone' }]);
    expect(assets.get(['birch', 'gorse'][meshOf(other, other.count - 1)])).toBe(handAsset(mixed, { id: 'p1', asset: 'gone' }, assets));
    expect(adopted(one, 0, plain)).not.toHaveProperty('asset');
  });
});
