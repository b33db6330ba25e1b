import { expect, it } from 'vitest';
import type { Block, Kit, Piece } from '../level/objects';
import { terrainOf, testBlock } from '../testing/levels';
import { testAssets } from '../testing/assets';
import { doorwaysOf } from './doorways';

const terrain = terrainOf((x) => (x > 30 ? 2 : 0));
const given = { pieces: [], kits: [], assets: testAssets(), blocks: [], terrain };
const hole = (size: [number, number, number], at: [number, number, number]): Block => ({ ...testBlock('box', size, at, 0), op: 'void' }) as Block;

it('doorways are door parts of kits where they stand', () => {
  const kits = [
    {
      parts: [
        { asset: 'door', use: 'door' },
        { asset: 'wall', use: 'wall' },
      ],
    },
  ] as unknown as Kit[];
  const piece = (asset: string, more: Partial<Piece> = {}) => ({ asset, at: [7, 1, 8], out: false, ...more }) as Piece;
  expect(doorwaysOf({ ...given, kits, pieces: [piece('door'), piece('wall'), piece('door', { out: true })] })).toEqual([[7, 8]]);
});

it('and voids as high and wide as one that reach the ground: no window, no gate of a hangar, no pit', () => {
  const of = (...blocks: Block[]) => doorwaysOf({ ...given, blocks });
  expect(of(hole([1.2, 2.2, 0.6], [10, 0, 12]))).toEqual([[10, 12]]);
  // Its foot is looked for at the ground there.
  expect(of(hole([1.2, 2.2, 0.6], [40, 2, 12]))).toEqual([[40, 12]]);
  expect(of(hole([1.2, 2.2, 0.6], [10, 1.1, 12]))).toEqual([]);
  expect(of(hole([1.2, 0.9, 0.6], [10, 0, 12]))).toEqual([]);
  expect(of(hole([6, 5, 6], [10, 0, 12]))).toEqual([]);
  expect(of({ ...hole([1.2, 2.2, 0.6], [10, 0, 12]), op: 'solid' } as Block)).toEqual([]);
});
