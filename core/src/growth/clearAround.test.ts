import { describe, expect, it } from 'vitest';
import type { Species } from '../level/objects';
import type { Point2 } from '../num/outline';
import { growthOn, testSpecies } from '../testing/growth';
import { terrainOf } from '../testing/levels';
import { clearAround } from './clearAround';
import { grow } from './grow';
import { PLANT_STRIDE } from './plants';

const rule: Species['rule'] = { on: true, slope: [0, 90], height: [-9, 9], soft: 0, grounds: [] };
const input = growthOn(
  terrainOf(() => 0),
  [testSpecies('heather', 0, { density: 40, spacing: 0.8, clearance: 0, rule }), testSpecies('gorse', 1, { density: 10, spacing: 1.2, clearance: 0, rule })],
);
const square: Point2[] = [
  [20, 20],
  [30, 20],
  [30, 26],
  [20, 26],
];
const off = ([x, z]: readonly [number, number]) => Math.hypot(Math.max(20 - x, 0, x - 30), Math.max(20 - z, 0, z - 26));
const stood = (of: number, deltas: ReturnType<typeof clearAround>) => {
  const { place, count } = grow({ ...input, tiles: new Map(deltas.map(({ key, delta }) => [key, delta])) })[of];
  return Array.from({ length: count }, (_, i) => [place[i * PLANT_STRIDE], place[i * PLANT_STRIDE + 2]] as const);
};
const clear = (species: string[], outlines = [square], margin = 3) => clearAround({ grid: input.terrain.grid, tiles: new Map() }, species, outlines, margin);

describe('a margin cleared round things', () => {
  it('has none of these species in it, and all else as it was', () => {
    const before = stood(0, []);
    const after = stood(0, clear(['heather']));
    expect(before.filter((p) => off(p) < 3).length).toBeGreaterThan(40);
    for (const p of after) expect(off(p)).toBeGreaterThan(3 - 0.3);
    // What is sown is taken between samples: nothing farther than one of them goes.
    expect(after.filter((p) => off(p) > 3.8)).toEqual(before.filter((p) => off(p) > 3.8));
    expect(stood(1, clear(['heather']))).toEqual(stood(1, []));
    for (const p of stood(1, clear(['heather', 'gorse']))) expect(off(p)).toBeGreaterThan(2.7);
  });

  it('is nothing where it is clear already, or beside the level', () => {
    const deltas = clear(['heather']);
    const tiles = new Map(deltas.map(({ key, delta }) => [key, delta]));
    expect(clearAround({ grid: input.terrain.grid, tiles }, ['heather'], [square], 3)).toEqual([]);
    expect(clear(['heather'], [square.map(([x, z]): Point2 => [x + 500, z])])).toEqual([]);
    expect(clear(['heather'], [])).toEqual([]);
  });
});
