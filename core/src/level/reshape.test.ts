import { describe, expect, it } from 'vitest';
import { composeTerrain } from '../earth/compose';
import { heightAt } from '../earth/sample';
import { grow } from '../growth/grow';
import { plantId, PLANT_STRIDE } from '../growth/plants';
import { growthOn, testSpecies } from '../testing/growth';
import { testLevel } from '../testing/levels';
import { parseObject, type Landform, type Route } from './objects';
import { outside, reshape } from './reshape';
import { rasterToTiles } from '../io/package';
import { gridOf } from './tiles';
import { settingsOf, type Level } from './level';

/** Two tiles a side with noise, a ragged heap, a way, hand work all over, and blocks. */
function worked(): Level {
  const level = testLevel(2, 0.5, { seed: 4, height: 3, scale: 25, octaves: 4 });
  const heap: Landform = {
    id: 'heap',
    version: 1,
    kind: 'lift',
    lift: 'landform',
    name: 'heap',
    order: 1,
    visible: true,
    line: [
      [20, 20],
      [44, 22],
      [40, 44],
    ],
    radius: 10,
    height: 4,
    foot: 6,
    cut: false,
    crown: 'domed',
    ragged: 2,
    seed: 3,
  };
  const way: Route = {
    id: 'way',
    version: 1,
    kind: 'lift',
    lift: 'route',
    name: 'way',
    order: 9,
    visible: true,
    line: [
      [6, 1, 50],
      [30, 2, 54],
      [58, 3, 48],
    ],
    width: 3,
    shoulder: 0.5,
    grade: 12,
    crossfall: 0,
    batter: 40,
  };
  level.objects.set('heap', heap);
  level.objects.set('way', way);
  const grid = gridOf(settingsOf(level));
  const values = (f: (x: number, z: number) => number) =>
    Int32Array.from({ length: grid.nx * grid.nz }, (_, i) => f((i % grid.nx) / 2, Math.floor(i / grid.nx) / 2));
  for (const [key, tile] of rasterToTiles(
    values((x, z) => Math.round(300 * Math.sin(x / 4) * Math.cos(z / 5))),
    'hand',
    'delta',
    grid,
  ))
    level.tiles.set(key, tile);
  for (const [key, tile] of rasterToTiles(
    values((x) => (x > 40 ? 1024 : 0)),
    'hand',
    'weight',
    grid,
  ))
    level.tiles.set(key, tile);
  for (const [key, tile] of rasterToTiles(
    values((x) => (x > 40 ? 5 * 1024 : 0)),
    'hand',
    'held',
    grid,
  ))
    level.tiles.set(key, tile);
  return level;
}

describe('a level at another size', () => {
  const level = worked();
  const terrain = composeTerrain(level);

  it('grown west and north by whole metres has the same ground, moved, to the last bit of a float', () => {
    const made = reshape(level, { tilesX: 4, tilesZ: 3, spacing: 0.5, west: 32, north: 16 });
    const ground = composeTerrain(made);
    expect([ground.grid.width, ground.grid.depth]).toEqual([128, 96]);
    for (let z = 0; z <= 128; z += 3)
      for (let x = 0; x <= 128; x += 3) expect(ground.heights[(z + 32) * ground.grid.nx + x + 64]).toBeCloseTo(terrain.heights[z * 129 + x], 4);
    expect(outside(made)).toBe(0);
    expect(settingsOf(made).origin).toEqual([-32, -16]);
    for (const o of made.objects.values()) expect(parseObject(o).ok).toBe(true);
  });

  it('cut and grown again has what was kept where it was, and everything that stands in it', () => {
    const cut = reshape(level, { tilesX: 2, tilesZ: 2, spacing: 0.25, west: -16, north: -16 });
    const back = reshape(cut, { tilesX: 2, tilesZ: 2, spacing: 0.5, west: 16, north: 16 });
    const ground = composeTerrain(back);
    for (let z = 36; z <= 92; z += 7) for (let x = 36; x <= 92; x += 7) expect(ground.heights[z * 129 + x]).toBeCloseTo(terrain.heights[z * 129 + x], 2);
    expect([...back.objects.values()].map((o) => ('at' in o ? [o.id, o.at] : [o.id]))).toEqual(
      [...level.objects.values()].map((o) => ('at' in o ? [o.id, o.at] : [o.id])),
    );
    expect((back.objects.get('way') as Route).line).toEqual((level.objects.get('way') as Route).line);
  });

  it('at twice the samples keeps held ground flat up to its edge: a zero that is not held is no height', () => {
    const fine = composeTerrain(reshape(level, { tilesX: 4, tilesZ: 4, spacing: 0.25, west: 0, north: 0 }));
    for (let x = 40.5; x <= 60; x += 0.25) expect(heightAt(fine, x, 10)).toBeCloseTo(5, 3);
    for (let z = 2; z < 60; z += 4.5) for (let x = 2; x < 38; x += 4.5) expect(heightAt(fine, x, z)).toBeCloseTo(heightAt(terrain, x, z), 0);
  });

  it('plants stay where they stood, by their names', () => {
    const gorse = testSpecies('gorse', 0, { density: 8, rule: { on: true, slope: [0, 60], height: [-500, 500], soft: 5, grounds: [] } });
    const before = grow(growthOn(terrain, [gorse]))[0];
    const wider = composeTerrain(reshape(level, { tilesX: 4, tilesZ: 4, spacing: 0.5, west: 32, north: 32 }));
    const after = grow(growthOn(wider, [gorse]))[0];
    const places = new Map(
      Array.from({ length: after.count }, (_, i) => [plantId(after, i), [after.place[i * PLANT_STRIDE], after.place[i * PLANT_STRIDE + 2]]]),
    );
    expect(before.count).toBeGreaterThan(100);
    let found = 0;
    for (let i = 0; i < before.count; i++) {
      const at = places.get(plantId(before, i));
      if (!at) continue;
      found++;
      expect(Math.abs(at[0] - 32 - before.place[i * PLANT_STRIDE]) + Math.abs(at[1] - 32 - before.place[i * PLANT_STRIDE + 2])).toBeLessThan(1e-3);
    }
    // At the old rim slopes now look at ground that was not there.
    expect(found / before.count).toBeGreaterThan(0.97);
  });
});
