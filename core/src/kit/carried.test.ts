import { describe, expect, it } from 'vitest';
import { placeMesh } from '../block/placedMesh';
import { testBlock } from '../testing/levels';
import { testPiece } from '../testing/pieces';
import { boxMesh } from './assetMesh';
import { carriedBy } from './carried';

const ids = (list: readonly { id: string }[]) => list.map((t) => t.id).sort();

describe('what a thing carried before it moved', () => {
  const block = testBlock('box', [4, 1, 4], [10, 2, 10]);
  const table = placeMesh('table', 'table', boxMesh([-1, 0, -1], [1, 0.8, 1]), (x, y, z) => [20 + x, 2 + y, 10 + z]);

  it('is what stood on its top: not beside it, over it, within it or on the ground under it', () => {
    const things = [
      testPiece('on the block', [9, 3, 10]),
      testPiece('let into it', [11, 2.8, 10], { sink: 0.2 }),
      testPiece('over it', [9, 3.5, 10]),
      testPiece('beside it', [13, 3, 10]),
      testPiece('within it', [10, 2.5, 10]),
      testPiece('on the table', [20.5, 2.8, 10.5]),
      testPiece('under the table', [20, 2, 10]),
      testPiece('table', [20, 2, 10]),
    ];
    expect(ids(carriedBy([block], things))).toEqual(['let into it', 'on the block']);
    expect(ids(carriedBy([table], things))).toEqual(['on the table']);
    expect(ids(carriedBy([block, table], things))).toEqual(['let into it', 'on the block', 'on the table']);
    expect(carriedBy([], things)).toEqual([]);
  });

  it('follows a ramp as it rises', () => {
    // 4 m long, 2 m high, from x 8 at height 2 to x 12 at height 4.
    const ramp = testBlock('ramp', [4, 2, 4], [10, 2, 10]);
    const things = [testPiece('up', [11, 3.5, 10]), testPiece('under', [11, 3, 10]), testPiece('over', [9, 3.5, 10])];
    expect(ids(carriedBy([ramp], things))).toEqual(['up']);
  });
});
