import { expect, it } from 'vitest';
import type { Plants } from '../growth/plants';
import { lookOf } from '../growth/meshes';
import { testAssets } from '../testing/assets';
import { testSpecies } from '../testing/growth';
import { plantTwins } from './plantTwins';

const birch = testSpecies('birch', 0);
const species = new Map([['birch', birch]]);
const eyes = [{ name: 'the gate', at: [0, 1.65, 0] as [number, number, number] }];

type Tree = [x: number, z: number, turn: number, size: number, look?: number];
const grove = (...trees: Tree[]): Plants => ({
  species: 'birch',
  count: trees.length,
  place: Float32Array.from(trees.flatMap(([x, z, turn, size]) => [x, 0, z, turn, size, size, 0, 0, size])),
  look: Uint8Array.from(trees, (t) => t[4] ?? 0),
  id: new Int32Array(trees.length * 3),
  hand: [],
});
const told = (...trees: Tree[]) => plantTwins({ grown: [grove(...trees)], species, assets: testAssets(), eyes }).map((s) => s.message);

it('trees that stand side by side alike near an eye are told, and only those', () => {
  expect(told([10, 0, 20, 1], [12, 0, 24, 1.02])).toEqual(['two birch stand side by side the same way round and as tall, 10 m from the gate']);
  // Turned, sized, tinted or of another mesh one tells them apart.
  expect(told([10, 0, 20, 1], [12, 0, 60, 1])).toEqual([]);
  expect(told([10, 0, 20, 1], [12, 0, 20, 1.1])).toEqual([]);
  expect(told([10, 0, 20, 1], [12, 0, 20, 1, lookOf(1, 0)])).toEqual([]);
  expect(told([10, 0, 20, 1], [12, 0, 20, 1, lookOf(0, 1)])).toEqual([]);
  // Far from each other, or from every eye, one does not compare them.
  expect(told([10, 0, 20, 1], [29, 0, 20, 1])).toEqual([]);
  expect(told([40, 0, 20, 1], [42, 0, 20, 1])).toEqual([]);
  // North is north whichever way round it is counted.
  expect(told([10, 0, 358, 1], [12, 0, 2, 1])).toHaveLength(1);
  expect(told([10, 0, 20, 1], [12, 0, 20, 1], [13, 1, 20, 1])).toEqual([
    'two birch stand side by side the same way round and as tall, 10 m from the gate (3 such pairs are seen)',
  ]);
});

it('what is low is one of many', () => {
  expect(told([10, 0, 20, 0.1], [12, 0, 20, 0.1])).toEqual([]);
});
