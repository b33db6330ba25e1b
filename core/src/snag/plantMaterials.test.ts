import { expect, it } from 'vitest';
import type { Asset } from '../kit/asset';
import { testSpecies } from '../testing/growth';
import { plantMaterials } from './plantMaterials';

/** Drawn near with n of them, and far as one picture with another. */
const wears = (name: string, n: number) => ({ name, lods: [Array.from({ length: n }, () => ({})), [{}]] }) as unknown as Asset;

it('tells of plants that wear more than two materials, by the worst of their meshes', () => {
  const assets = new Map([
    ['bark and leaf', wears('birch', 2)],
    ['many', wears('old birch', 5)],
    ['three', wears('young birch', 3)],
    ['plain', wears('plain', 1)],
  ]);
  const of = (asset: string, ...meshes: string[]) => testSpecies('birch', 0, { asset, meshes: meshes.map((m) => ({ asset: m, weight: 1 })) });
  expect(plantMaterials([of('bark and leaf'), of('plain'), of('gone')], assets)).toEqual([]);
  expect(plantMaterials([of('bark and leaf', 'three', 'many')], assets)).toMatchObject([
    {
      code: 'materials-many',
      object: 'birch',
      message: expect.stringMatching(/^old birch, a mesh of birch, wears 5 materials, 2 are advised for a plant: 3 draws more/),
    },
  ]);
  // What is out of the level costs nothing.
  expect(plantMaterials([{ ...of('many'), out: true }], assets)).toEqual([]);
});
