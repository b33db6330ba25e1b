import { expect, it } from 'vitest';
import type { Plants } from '../growth/plants';
import type { Assets } from '../kit/placement';
import type { Route } from '../level/objects';
import { testSpecies } from '../testing/growth';
import { plantsInWay } from './plantsInWay';

const birch = testSpecies('birch', 0, { name: 'birch' });
const heather = testSpecies('heather', 1);
const at = (species: string, places: [number, number][], wide = 1): Plants => ({
  species,
  count: places.length,
  place: Float32Array.from(places.flatMap(([x, z]) => [x, 0, z, 0, 1, wide, 0, 0, 1])),
  look: new Uint8Array(places.length),
  id: new Int32Array(places.length * 3),
  hand: [],
});
const way = {
  id: 'track',
  version: 1,
  kind: 'lift',
  lift: 'route',
  name: 'track',
  order: 1,
  visible: true,
  line: [
    [0, 0, 10],
    [60, 0, 10],
  ],
  width: 3,
  shoulder: 1,
  grade: 8,
  crossfall: 0,
  batter: 40,
} as Route;
const assets = new Map([
  ['birch', { trunk: 0.2 }],
  ['heather', {}],
]) as unknown as Assets;
const species = new Map([birch, heather].map((s) => [s.id, s]));
const entry = { id: 'entry', name: 'gate', marker: 'entry' as const, at: [30, 0, 40] as [number, number, number] };
const asked = (grown: Plants[], more: Partial<Parameters<typeof plantsInWay>[0]> = {}) =>
  plantsInWay({ grown, species, assets, stack: [way], markers: [entry], body: { radius: 0.35 }, ...more });

it('tells trunks in the width of a way, by species, at the nearest to its middle', () => {
  // Half the way is 1.5 m; a trunk of 0.2 m stands in it up to 1.7 m from the middle.
  const found = asked([
    at('birch', [
      [20, 11.69],
      [30, 11.71],
      [40, 10.4],
    ]),
  ]);
  expect(found).toHaveLength(1);
  expect(found[0]).toMatchObject({ code: 'plants-in-way', object: 'birch', severity: 'warning' });
  expect(found[0].message).toBe('2 birch stand in the width of track: the nearest 0.4 m from its middle, where 1.5 m are clear');
  expect(found[0].at![0]).toBe(40);
  // As wide as it is grown.
  expect(asked([at('birch', [[30, 11.71]], 2)])).toHaveLength(1);
});

it('lets lie what stops nobody, and what stands beside the end of a way or a way that is hidden', () => {
  expect(asked([at('heather', [[30, 10]])])).toEqual([]);
  expect(asked([at('birch', [[64, 10]])])).toEqual([]);
  expect(asked([at('birch', [[30, 10]])], { stack: [{ ...way, visible: false }] })).toEqual([]);
});

it('tells a trunk on an entry or an objective, not on a note of another kind or a floor above', () => {
  expect(asked([at('birch', [[30.5, 40]])]).map((s) => s.message)).toEqual(['a birch stands on gate: a body of 0.35 m does not fit beside its trunk']);
  expect(asked([at('birch', [[30.6, 40]])])).toEqual([]);
  expect(asked([at('birch', [[30, 40]])], { markers: [{ ...entry, marker: 'threat' }] })).toEqual([]);
  expect(asked([at('birch', [[30, 40]])], { markers: [{ ...entry, at: [30, 5, 40] }] })).toEqual([]);
});
