import { expect, it } from 'vitest';
import type { Asset } from '../kit/asset';
import { Shape } from '../kit/shape';
import { growthOn, testSpecies } from '../testing/growth';
import { terrainOf } from '../testing/levels';
import { grow } from './grow';
import { PLANT_STRIDE } from './plants';
import { upright } from './upright';

const rock = (open: ('bottom' | 'top')[], role: Asset['role'] = 'prop'): Asset => ({
  name: 'rock',
  role,
  collider: 'box',
  tags: [],
  trunk: 0,
  textureBytes: 0,
  lods: [[new Shape().box([-1, 0, -1], [1, 1, 1], [0.5, 0.5, 0.5], open).done('x')]],
});
const leaning = testSpecies('gorse', 0, { asset: 'rock', lean: 25, density: 3 });
const of = (asset: Asset, more: Record<string, Asset> = {}) => new Map(Object.entries({ rock: asset, ...more }));

it('what is open below does not lean; what is closed, open above, or a plant leans as it is told', () => {
  expect(upright(leaning, of(rock(['bottom']))).lean).toBe(0);
  for (const asset of [rock([]), rock(['top']), rock(['bottom'], 'plant')]) expect(upright(leaning, of(asset))).toBe(leaning);
  expect(upright(leaning, new Map())).toBe(leaning);
  // Any of its meshes is enough: which of them one has is by chance.
  const two = { ...leaning, meshes: [{ asset: 'shell', weight: 1 }] };
  expect(upright(two, of(rock([]), { shell: rock(['bottom']) })).lean).toBe(0);
});

it('as deep as its range says along its own z, as wide as ever', () => {
  const flat = terrainOf(() => 0);
  const rule = { on: true, slope: [0, 90] as [number, number], height: [-9, 9] as [number, number], soft: 0, grounds: [] };
  const round = testSpecies('gorse', 0, { density: 12, spacing: 1, rule });
  const own = grow(growthOn(flat, [round]))[0];
  const long = grow(growthOn(flat, [{ ...round, depth: [1.5, 2] }]))[0];
  expect(long.count).toBe(own.count);
  const shares: number[] = [];
  for (let i = 0; i < own.count; i++) {
    const [a, b] = [own, long].map((p) => p.place.subarray(i * PLANT_STRIDE, (i + 1) * PLANT_STRIDE));
    expect([...b.subarray(0, 8)]).toEqual([...a.subarray(0, 8)]);
    expect(a[8]).toBe(a[5]);
    shares.push(b[8] / b[5]);
  }
  expect(Math.min(...shares)).toBeGreaterThanOrEqual(1.5 - 1e-5);
  expect(Math.max(...shares)).toBeLessThanOrEqual(2 + 1e-5);
  expect(shares.reduce((a, b) => a + b, 0) / shares.length).toBeCloseTo(1.75, 1);
});
