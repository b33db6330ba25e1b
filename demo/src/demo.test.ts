import { isCover } from '@rammer/core/cost/drawable';
import { BUDGET_SHARE, DEVICES } from '@rammer/core/cost/frame';
import { costPlaces } from '@rammer/core/cost/places';
import { assemble, sceneOf } from '@rammer/core/scene/parts';
import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { composeTerrain, wholeRect } from '@rammer/core/earth/compose';
import { loadSolidKernel } from '@rammer/core/block/loadKernel';
import { PLANT_STRIDE } from '@rammer/core/growth/plants';
import { readAssets } from '@rammer/core/io/readAssets';
import { composeGround, groundNameAt, makeGround, strongestOf } from '@rammer/core/surface/ground';
import { surfacesOf } from '@rammer/core/surface/surfaces';
import { routeLine } from '@rammer/core/earth/routeLine';
import { aroundLift } from '@rammer/core/earth/volume';
import { underWater } from '@rammer/core/earth/water';
import { waterBodies } from '@rammer/core/earth/waters';
import { weatherHash } from '@rammer/core/earth/weather/weatherLift';
import type { Route, Weather } from '@rammer/core/level/objects';
import { makeLargeDemo } from './large';
import { heightAt, slopeAt } from '@rammer/core/earth/sample';
import { readPackage, writePackage } from '@rammer/core/io/package';
import { liftStack, marker, ofKind, presentBlocks } from '@rammer/core/level/level';
import { makeSmallDemo } from './make';
import { PIT, TERRACES } from './quarry';

describe('the small demo', () => {
  const level = makeSmallDemo();
  const terrain = composeTerrain(level);

  it('is what its script makes, byte for byte', () => {
    const shipped = new Uint8Array(readFileSync(new URL('../harrow-ledge-small.rammer.zip', import.meta.url)));
    const opened = readPackage(shipped);
    expect(opened.ok).toBe(true);
    expect(Buffer.compare(Buffer.from(writePackage(level)), Buffer.from(shipped))).toBe(0);
  });

  it('has three terraces, a pit below them and an incline that can be walked', () => {
    const floors = [0, 1, 2, 3].map((i) => heightAt(terrain, 100, [110, 78, 50, 28][i]));
    floors.forEach((h, i) => expect(Math.abs(h - TERRACES[i].height)).toBeLessThan(0.6));
    expect(heightAt(terrain, PIT.x, PIT.z)).toBeCloseTo(PIT.floor, 0);
    for (let z = 30; z < 102; z += 1) expect(slopeAt(terrain, 122, z)).toBeLessThan(30);
  });

  it('has its markers on the ground and its blocks inside the level', () => {
    for (const which of ['entry', 'objective'] as const) {
      const m = marker(level, which)!;
      expect(Math.abs(m.at[1] - heightAt(terrain, m.at[0], m.at[2]))).toBeLessThan(0.01);
    }
    const blocks = presentBlocks(level);
    expect(blocks.length).toBeGreaterThan(15);
    for (const b of blocks) expect(b.at[0] > 0 && b.at[0] < 160 && b.at[2] > 0 && b.at[2] < 160).toBe(true);
  });

  it('is planted by its rules: none in the water, heather and birch off the gravel, spaced as they say', async () => {
    const assets = await readAssets(level);
    if (!assets.ok) throw new Error(assets.message);
    const parts = await assemble(level, assets.value, await loadSolidKernel());
    // The adit is cut: its mass less gallery and niche.
    const mass = parts.built.find((b) => b.name === 'adit mass')!;
    expect(mass.voids).toHaveLength(2);
    expect(mass.volume).toBeLessThan(6 * 5.2 * 8 - 2.4 * 2.5 * 5);
    const counts = Object.fromEntries(parts.grown.map((g) => [g.species, g.count]));
    expect(counts.birch + counts['birch-2'] + counts['birch-3']).toBeGreaterThan(80);
    expect(counts.gorse).toBeGreaterThan(25);
    expect(counts.heather).toBeGreaterThan(600);
    const water = parts.waters[0];
    let onGravel = 0;
    for (const { place, count, id, species } of parts.grown) {
      for (let i = 0; i < count; i++) {
        const [x, y, z] = place.subarray(i * PLANT_STRIDE, i * PLANT_STRIDE + 3);
        expect(underWater([water], x, y, z)).toBe(false);
        if (species !== 'slate-chips' && id[i * 3 + 2] >= 0 && groundNameAt(parts.ground, x, z, false) === 'gravel') onGravel++;
      }
    }
    // Where gravel frays into turf the rule lets a few through.
    expect(onGravel).toBeLessThan(80);
    expect(parts.pieces.length).toBeGreaterThan(200);
  });
});

describe('the large demo', () => {
  const shipped = new Uint8Array(readFileSync(new URL('../harrow-ledge-large.rammer.zip', import.meta.url)));
  const opened = readPackage(shipped);
  if (!opened.ok) throw new Error(opened.message);
  const large = opened.value;

  it('is what its script makes, byte for byte; its rain is not stale', () => {
    expect(Buffer.compare(Buffer.from(writePackage(makeLargeDemo(large))), Buffer.from(shipped))).toBe(0);
    const rain = large.object('rain') as Weather;
    const { below } = aroundLift(large, composeTerrain(large), 'rain')!;
    expect(weatherHash(rain, below.heights, below.grid)).toBe(rain.made);
  });

  it('is a kilometre of lifts alone: a lake that holds, a road no steeper than it says, seven grounds by rule', () => {
    const ground = composeTerrain(large);
    expect([ground.grid.width, ground.grid.depth]).toEqual([1024, 1024]);
    expect([...large.tiles.keys()].every((k) => k.startsWith('rain/'))).toBe(true);
    const { bodies } = waterBodies(ground, ofKind(large, 'water'));
    expect(bodies[0].leak).toBeUndefined();
    expect(bodies[0].area).toBeGreaterThan(50_000);
    const road = routeLine(large.object('road') as Route);
    for (let i = 1; i < road.count; i++)
      expect(Math.abs(road.y[i] - road.y[i - 1]) / Math.hypot(road.x[i] - road.x[i - 1], road.z[i] - road.z[i - 1])).toBeLessThan(0.1205);
    const { surfaces, rules } = surfacesOf(large);
    const made = makeGround(ground.grid, surfaces);
    composeGround(made, { terrain: ground, stack: liftStack(large), tiles: large.tiles, waters: bodies, rules }, wholeRect(ground.grid));
    const counts = surfaces.map(() => 0);
    for (let i = 0; i < ground.heights.length; i++) counts[strongestOf(made, i)]++;
    counts.forEach((n, i) => expect([surfaces[i].name, n / ground.heights.length > 0.01]).toEqual([surfaces[i].name, true]));
  });

  it('has 250,000 plants and ground cover within the budget of Den 60 wherever it is measured from, and over that of Pocket 30', async () => {
    const assets = await readAssets(large);
    if (!assets.ok) throw new Error(assets.message);
    const scene = (await sceneOf(large, assets.value))!;
    expect(scene.plants.grown.reduce((n, g) => n + g.count, 0)).toBeGreaterThan(250_000);
    const places = costPlaces(large);
    const worst = (device: 'den-60' | 'pocket-30') => scene.cost.at(places, device)[0];
    expect(worst('den-60').frame.frame).toBeLessThan(DEVICES['den-60'].target * BUDGET_SHARE);
    expect(worst('pocket-30').frame.frame).toBeGreaterThan(DEVICES['pocket-30'].target * BUDGET_SHARE);
    const cover = scene.drawables.list.filter(isCover).reduce((n, d) => n + d.instances, 0);
    expect(cover).toBeGreaterThan(20_000);
  });
});
