import { expect, it } from 'vitest';
import { SHIPPED_BODIES } from '../body/bodies';
import { loadKernels } from '../testing/kernels';
import { terrainOf } from '../testing/levels';
import { limitsOf } from './limits';
import { steepAhead } from './steepAhead';
import { makeWalker } from './walker';

const limits = limitsOf(SHIPPED_BODIES.adult);
/** A face of 60 degrees across the level from x 30 on, as high as is said. */
const face = (rise: number) => terrainOf((x) => Math.min(rise, Math.max(0, (x - 30) * Math.sqrt(3))));
const nothing = () => false;

it('tells a face too steep to walk once the body comes to it, and which way it rises', () => {
  const terrain = face(5 * Math.sqrt(3));
  const from = (x: number, dx: number, dz: number, covered: Parameters<typeof steepAhead>[3] = nothing) =>
    steepAhead(terrain, limits, { x, z: 20, dx, dz }, covered);
  // An adult's side is 0.35 + 0.025 m.
  expect(from(29.5, 1, 0)).toBeUndefined();
  const wall = from(29.8, 1, 0)!;
  expect([wall[0], wall[1]].map((v) => Math.round(v * 1e6) / 1e6)).toEqual([1, 0]);
  expect(from(29.8, Math.SQRT1_2, Math.SQRT1_2)![0]).toBeCloseTo(1, 6);
  expect([from(29.8, 0, 1), from(29.8, -1, 0), from(29.8, 1, 0, () => true)]).toEqual([undefined, undefined, undefined]);
  // Down the face and off its foot nothing rises.
  expect(from(31, -1, 0)).toBeUndefined();
});

it('lets a body step up what is steep and no higher than a step, whatever the samples', () => {
  // 0.4 m over half a metre is 38.7 degrees; 0.6 m is 50.2 and more than a step of 0.41.
  expect(steepAhead(face(0.4), limits, { x: 29.8, z: 20, dx: 1, dz: 0 }, nothing)).toBeUndefined();
  expect(steepAhead(face(0.6), limits, { x: 29.8, z: 20, dx: 1, dz: 0 }, nothing)).toEqual([1, 0]);
  // With samples a quarter of a metre apart 0.35 m are 54.5 degrees, and a step all the same; 0.45 are not.
  const fine = (rise: number) =>
    steepAhead(
      terrainOf((x) => Math.min(rise, Math.max(0, (x - 30) * 2)), 2, 0.25),
      limits,
      { x: 29.8, z: 20, dx: 1, dz: 0 },
      nothing,
    );
  expect([fine(0.35), fine(0.45)]).toEqual([undefined, [1, 0]]);
});

it('lets a body go along the face it comes to at an angle', async () => {
  const { rapier } = await loadKernels();
  const walker = makeWalker(rapier, SHIPPED_BODIES.adult, { terrain: face(5 * Math.sqrt(3)), blocks: [] }, [28, 0.03, 20]);
  for (let i = 0; i < 60 * 8; i++) walker.step({ x: Math.SQRT1_2, z: Math.SQRT1_2, run: false, jump: false });
  // It leans on the face (a rim's width up it at most) and has gone on along it: 2 m/s at 45 degrees for most of 8 s.
  expect(walker.at[0]).toBeLessThan(30.1);
  expect(walker.at[1]).toBeLessThan(0.7);
  expect(walker.at[2]).toBeGreaterThan(28);
  walker.dispose();
});
