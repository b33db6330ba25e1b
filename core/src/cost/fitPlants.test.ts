import { plantCells } from './plantCells';
import { describe, expect, it } from 'vitest';
import { grow } from '../growth/grow';
import { densest } from '../growth/pattern';
import type { AssetObject, Species } from '../level/objects';
import { testAssets } from '../testing/assets';
import { growthOn, testSpecies } from '../testing/growth';
import { terrainOf } from '../testing/levels';
import { viewTally } from './tally';
import { cameraOf } from './camera';
import { fitPlants, whatIf } from './fitPlants';
import { DEVICES, frameOf } from './frame';
import { instanceDrawables } from './instances';

const flat = terrainOf(() => 1, 4);
const device = DEVICES['pocket-30'];
const spacing = flat.grid.spacing;
const rule: Species['rule'] = { on: true, slope: [0, 90], height: [-500, 500], soft: 0, grounds: [] };
const species = [
  testSpecies('birch', 0, { density: 1.5, spacing: 4, rule }),
  testSpecies('gorse', 1, { density: 8, spacing: 1.4, clearance: 0.4, rule }),
  testSpecies('heather', 2, { density: 40, spacing: 0.7, clearance: 0.2, rule }),
];
const places = [0, 90].map((yaw) => ({
  name: `looking ${yaw}`,
  camera: cameraOf({ view: 'stand', target: [64, 1, 64], yaw, pitch: 0, distance: 10 }, device.width / device.height, 1.65),
}));
const drawn = (list: readonly Species[]) => {
  const assets = testAssets();
  const byId = new Map(list.map((s) => [s.id, s]));
  const names = new Map<string, AssetObject | Species>(byId);
  return instanceDrawables(plantCells(grow(growthOn(flat, [...list])), byId, assets), assets, names);
};
const frame = (list: readonly Species[]) => Math.max(...places.map((p) => frameOf(device, viewTally(drawn(list), p.camera, spacing).all).frame));
const fit = (budget: number) => fitPlants({ drawables: drawn(species), species, places, device, spacing, budget });
const after = (patches: ReturnType<typeof fit>['patches']) => species.map((s) => ({ ...s, ...patches.find((p) => p.id === s.id)?.set }) as Species);
const least = frameOf(device, viewTally([], places[0].camera, spacing).all).frame;

describe('plants fitted to a budget', () => {
  const full = frame(species);

  it('are left as they are where they are inside it', () => {
    expect(fit(full + 0.01)).toMatchObject({ steps: [], patches: [], inside: true, before: { frame: full } });
  });

  it.each([0.8, 0.5])('come under it where a share of %s of their time is left, as it is once they have grown again', (share) => {
    const budget = least + (full - least) * share;
    const made = fit(budget);
    expect(made.inside).toBe(true);
    expect(made.after.frame).toBeLessThanOrEqual(budget);
    // What each line says it saves is what all save together.
    expect(made.steps.reduce((sum, s) => sum + s.ms, 0)).toBeGreaterThan((made.before.frame - made.after.frame) * 0.6);
    const real = frame(after(made.patches));
    expect(Math.abs(real - made.after.frame)).toBeLessThan((full - least) * 0.06);
    expect(real).toBeLessThan(full);
  });

  it('lose less to see for a millisecond where little is to be saved than where much is', () => {
    const price = (share: number) => {
      const { steps } = fit(least + (full - least) * share);
      return steps.reduce((sum, s) => sum + s.seen, 0) / steps.reduce((sum, s) => sum + s.ms, 0);
    };
    expect(price(0.9)).toBeLessThan(price(0.4));
  });

  it('never thins below two fifths, and says where it cannot be', () => {
    const made = fit(least * 0.5);
    expect(made.inside).toBe(false);
    for (const { id, set } of made.patches) {
      const of = species.find((s) => s.id === id)!;
      if (set.amount !== undefined) expect(set.amount * of.density).toBeGreaterThanOrEqual(Math.min(of.density, densest(of.spacing, of.seed)) * 0.4 - 2e-2);
      if (set.cutoff !== undefined) expect(set.cutoff).toBeGreaterThanOrEqual(30);
    }
  });

  it('asks nothing of a level without places', () => {
    expect(fitPlants({ drawables: drawn(species), species, places: [], device, spacing, budget: 1 })).toMatchObject({ steps: [], inside: true });
  });

  it.each(['shadows', 'cut-off', 'amount', 'LODs'] as const)('"what if" takes one step of %s of what is picked alone, as it is once that is done', (what) => {
    const given = { drawables: drawn(species), species, places, device, spacing, budget: 1 };
    const { steps, patches, before, after: now } = whatIf(given, new Set(['gorse']), what);
    expect(steps).toMatchObject([{ species: 'gorse', what }]);
    expect(patches.map((p) => p.id)).toEqual(['gorse']);
    expect(before.frame).toBe(full);
    // Another place may be the dearest then.
    expect(steps[0].ms).toBeGreaterThanOrEqual(before.frame - now.frame - 1e-9);
    expect(steps[0].seen).toBeGreaterThan(0);
    const real = frame(after(patches));
    expect(Math.abs(real - now.frame)).toBeLessThan((full - least) * 0.02);
    expect(real).toBeLessThanOrEqual(full);
    // Of what is not drawn, or not there, there is nothing to take.
    expect(whatIf(given, new Set(['nobody']), what)).toMatchObject({ steps: [], patches: [] });
  });
});
