import { expect, it } from 'vitest';
import { applyEdit, commitChanges } from '../level/edits/index';
import { makeLevel, ofKind, type Level } from '../level/level';
import type { AssetObject, Habitat, LevelObject, Species } from '../level/objects';
import { testSpecies } from '../testing/growth';
import { testObjects } from '../testing/levels';
import { groundDefaults } from '../surface/surfaces';
import { habitatFrom, habitatIn, keepHabitat, readKept } from './keptHabitat';

const asset = (id: string, hash = id): AssetObject => ({
  id,
  version: 1,
  kind: 'asset',
  name: id,
  role: 'plant',
  hash: Buffer.from(hash).toString('hex').padEnd(64, '0'),
});
/** Ids of meshes and species are of one level. */
const kind = (name: string, order: number): Species => testSpecies(name, order, { asset: `mesh-${name}` });
const heath: Habitat = {
  id: 'heath',
  version: 3,
  kind: 'habitat',
  name: 'my heath',
  order: 2,
  area: 'drawn',
  outlines: [
    [
      [0, 0],
      [9, 0],
      [9, 9],
    ],
  ],
  soft: 6,
  where: [{ is: { by: 'route', band: [2, 100], soft: 1, route: 'road' } }],
  rules: [
    {
      id: 'low',
      name: 'low',
      on: true,
      density: 9,
      mix: [
        { species: 'heather', weight: 2 },
        { species: 'gone', weight: 1 },
      ],
      where: [
        { is: { by: 'lift', band: [0, 3], soft: 1, lift: 'heap' } },
        { is: { by: 'plants', band: [0, 4], soft: 1, species: 'birch' }, or: true },
        { is: { by: 'outline', band: [0, 50], soft: 1, of: 'wood' } },
      ],
      children: [{ species: 'foxglove', about: 'heather', chance: 0.4, count: [1, 2], spread: 1, size: 1 }],
    },
    { id: 'lost', name: 'lost', on: true, density: 2, mix: [{ species: 'gone', weight: 1 }] },
  ],
  on: true,
};
const level = (more: LevelObject[]): Level => makeLevel([...testObjects(2, 0.5, { seed: 1, height: 1, scale: 30, octaves: 1 }), ...groundDefaults(), ...more]);
const from = level([
  ...['heather', 'foxglove', 'birch', 'gorse'].map((name) => asset(`mesh-${name}`, name)),
  { ...kind('birch', 0), with: ['foxglove', 'gorse'], rule: { ...kind('birch', 0).rule, grounds: ['turf', 'moss'] } },
  { ...kind('heather', 1), meshes: [{ asset: 'mesh-gorse', weight: 0.5 }] },
  kind('foxglove', 2),
  kind('gorse', 3),
  heath,
]);
const kept = keepHabitat(from, heath);
let n = 0;
const newId = (kind: string) => `${kind}-new-${n++}`;
const added = (to: Level): Level => {
  const applied = applyEdit(to, { kind: 'add', objects: habitatFrom(to, kept, newId) });
  if (!applied.ok) throw new Error(applied.message);
  commitChanges(to, applied.changes);
  return to;
};

it('is kept with the species it grows by and goes by, their meshes and grounds, and nothing else; without its outlines', () => {
  expect(kept.map((o) => o.id).sort()).toEqual([
    'birch',
    'foxglove',
    'heath',
    'heather',
    'mesh-birch',
    'mesh-foxglove',
    'mesh-gorse',
    'mesh-heather',
    'moss',
    'turf',
  ]);
  expect(habitatIn(kept)).toMatchObject({ outlines: [], rules: [{ id: 'low', mix: [{ species: 'heather', weight: 2 }] }] });
  expect(readKept(JSON.parse(JSON.stringify(kept)))).toEqual(kept);
});

it('brings along what another level has not, and goes by what it has', () => {
  const empty = added(level([]));
  const habitat = ofKind(empty, 'habitat')[0];
  const species = new Map(ofKind(empty, 'species').map((s): [string, Species] => [s.id, s]));
  expect([...species.values()].map((s) => s.name).sort()).toEqual(['birch', 'foxglove', 'heather']);
  const [rule] = habitat.rules;
  expect(species.get(rule.mix[0].species)!.name).toBe('heather');
  expect(species.get(rule.children![0].about!)!.name).toBe('heather');
  // A lift and an outline are of the other level; the condition after it is joined to nothing now. A way is any way.
  expect(rule.where).toEqual([{ is: { by: 'plants', band: [0, 4], soft: 1, species: [...species.values()].find((s) => s.name === 'birch')!.id } }]);
  expect(habitat.where).toEqual([{ is: { by: 'route', band: [2, 100], soft: 1 } }]);
  expect([...species.values()].find((s) => s.name === 'birch')!.rule).toMatchObject({ on: false, grounds: ['turf', 'moss'] });
  // Gorse goes with birches and is in no rule: it is not brought along for that.
  expect([...species.values()].find((s) => s.name === 'birch')!.with).toEqual([[...species.values()].find((s) => s.name === 'foxglove')!.id]);
  for (const s of species.values()) for (const id of [s.asset, ...(s.meshes ?? []).map((m) => m.asset)]) expect(empty.object(id)?.kind).toBe('asset');

  const has = level([asset('mine', 'heather'), { ...testSpecies('heather', 0), id: 'h', asset: 'mine' }]);
  added(has);
  expect(
    ofKind(has, 'species')
      .filter((s) => s.name === 'heather')
      .map((s) => s.id),
  ).toEqual(['h']);
  expect(ofKind(has, 'habitat')[0].rules[0].mix[0].species).toBe('h');
  // Twice in the same level: the species are there already.
  added(has);
  expect(ofKind(has, 'species')).toHaveLength(3);
  expect(ofKind(has, 'habitat')).toHaveLength(2);
});

it('is not read where it is none', () => {
  for (const bad of [null, {}, [], [{ kind: 'habitat' }], [...kept, { ...heath, id: 'other' }], [...kept, { id: 'x', version: 1, kind: 'note', name: 'x' }]])
    expect(readKept(bad)).toBeUndefined();
});
