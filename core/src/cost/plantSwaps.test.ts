import { expect, it } from 'vitest';
import { assetBounds } from '../kit/asset';
import { testAssets } from '../testing/assets';
import { testSpecies } from '../testing/growth';
import { lodSwaps } from './lodPixels';
import { plantSwaps, swapText } from './plantSwaps';

const assets = testAssets();
const birch = assets.get('birch')!;
const clear = { covers: false };

it('swaps are those of the mesh, as much farther as its plants are taller; what is beyond the cut-off never happens', () => {
  const tall = assetBounds(birch).max[1];
  const own = testSpecies('birch', 0, { height: [tall, tall * 2], cutoff: 0 });
  const swaps = plantSwaps(own, assets, clear);
  expect(swaps.map((s) => s.what)).toEqual(lodSwaps(birch).map(() => 'swap'));
  lodSwaps(birch).forEach((s, i) => expect(swaps[i].distance).toBeCloseTo(s.distance * 2, 6));
  // Half as far they are twice as large on the screen.
  plantSwaps({ ...own, swap: 0.5 }, assets, clear).forEach((s, i) => {
    expect(s.distance).toBeCloseTo(swaps[i].distance / 2, 6);
    if (swaps[i].pixels === undefined) expect(s.pixels).toBeUndefined();
    else expect(s.pixels).toBeCloseTo(swaps[i].pixels * 2, 6);
  });
  const near = plantSwaps({ ...own, cutoff: swaps[0].distance + 1 }, assets, clear);
  expect(near.map((s) => s.what)).toEqual(['swap', 'left out']);
  const two = plantSwaps(
    {
      ...own,
      meshes: [
        { asset: 'gorse', weight: 1 },
        { asset: 'gone', weight: 1 },
      ],
    },
    assets,
    clear,
  );
  expect(two.length).toBe(lodSwaps(birch).length + lodSwaps(assets.get('gorse')!).length);
});

it('one that is left out is as tall as the eye has it there, and haze takes its share', () => {
  // 2 m at 100 m, half a screen of 540 px is 100 tan 30 = 57.7 m high: 18.7 px.
  const last = plantSwaps(testSpecies('gone', 0, { height: [1, 2], cutoff: 100 }), assets, { covers: false, haze: (d) => 1 - 2 ** (-d / 100) }).at(-1)!;
  expect(last.pixels).toBeCloseTo(18.7, 1);
  expect(last.haze).toBeCloseTo(0.5, 6);
  expect(swapText(last)).toBe('100 m: left out, 19 px tall, haze hides 50 %');
  expect(swapText({ ...last, haze: 0 })).toBe('100 m: left out, 19 px tall');
});

it('cover thins in rings and ends where it is drawn to', () => {
  const list = plantSwaps(testSpecies('gone', 0, { height: [0.1, 0.2], cutoff: 40 }), assets, { covers: true });
  expect(list.map((s) => [s.what, s.distance])).toEqual([
    ['thinner', 12],
    ['thinner', 24],
    ['left out', 40],
  ]);
  expect(swapText(list[0])).toBe('12 m: thinner');
  expect(plantSwaps(testSpecies('gone', 0, { cutoff: 0 }), assets, { covers: true }).at(-1)!.distance).toBe(60);
});
