import { expect, it } from 'vitest';
import type { Species } from '../level/objects';
import { growthOn, testSpecies } from '../testing/growth';
import { terrainOf } from '../testing/levels';
import { grow } from './grow';
import { PLANT_STRIDE, type Plants } from './plants';

const rule: Species['rule'] = { on: true, slope: [0, 90], height: [-500, 500], soft: 0, grounds: [] };
const flat = terrainOf(() => 1, 4);
const grown = (patch?: number): Plants =>
  grow(
    growthOn(flat, [testSpecies('gorse', 0, { density: 12, spacing: 1.2, tints: ['#ffffff', '#aaaaaa', '#555555'], rule, ...(patch ? { patch } : {}) })]),
  )[0];

/** Share of plants whose neighbours nearer than so far have their own look. */
function alike({ place, look, count }: Plants, far: number): number {
  let [same, all] = [0, 0];
  for (let i = 0; i < count; i++)
    for (let k = 0; k < i; k++) {
      if (Math.hypot(place[i * PLANT_STRIDE] - place[k * PLANT_STRIDE], place[i * PLANT_STRIDE + 2] - place[k * PLANT_STRIDE + 2]) > far) continue;
      all++;
      if (look[i] === look[k]) same++;
    }
  return same / all;
}

it('gives plants of one look places together, each of the tints some, and moves none', () => {
  const [chance, patches] = [grown(), grown(20)];
  expect(patches.place).toEqual(chance.place);
  // By chance a third of neighbours are alike.
  expect(Math.abs(alike(chance, 3) - 1 / 3)).toBeLessThan(0.04);
  expect(alike(patches, 3)).toBeGreaterThan(0.6);
  // Farther off than a patch they are no more alike than by chance.
  expect(alike(patches, 3)).toBeGreaterThan(alike(patches, 60) + 0.15);
  for (const t of [0, 1, 2]) expect(patches.look.filter((v) => v === t).length / patches.count).toBeGreaterThan(0.12);
});
