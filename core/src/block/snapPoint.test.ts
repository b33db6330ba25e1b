import { describe, expect, it } from 'vitest';
import { testBlock } from '../testing/levels';
import { blockEdges } from './edges';
import { snapMove, snapPoint } from './snapPoint';

const box = testBlock('box', [4, 2, 4], [10, 0, 10]);
const none = new Map();

describe('snapping', () => {
  it('takes a corner before the middle of an edge before the edge', () => {
    expect(snapPoint([11.9, 1.9, 11.8], [box], none, 0.5)).toEqual({ at: [12, 2, 12], on: 'corner', of: box.id });
    expect(snapPoint([10.1, 2, 12.1], [box], none, 0.5)).toEqual({ at: [10, 2, 12], on: 'middle', of: box.id });
    expect(snapPoint([11.2, 2.1, 12.1], [box], none, 0.5)).toEqual({ at: [11.2, 2, 12], on: 'edge', of: box.id });
    expect(snapPoint([10, 2, 10], [box], none, 0.5)).toBeUndefined();
    expect(snapPoint([30, 2, 10], [box], none, 0.5)).toBeUndefined();
  });

  it('moves a block on to stand corner to corner, else flush with a side', () => {
    expect(snapMove([testBlock('box', [2, 2, 2], [13.2, 0, 10.9])], [box], none, 0.5)!.map((v) => Number(v.toFixed(6)))).toEqual([-0.2, 0.1]);
    const flush = snapMove([testBlock('box', [2, 2, 2], [13.15, 0, 9.5])], [box], none, 0.4)!;
    expect(flush[0]).toBeCloseTo(-0.15, 9);
    expect(flush[1]).toBeCloseTo(0, 9);
    expect(snapMove([testBlock('box', [2, 2, 2], [16, 0, 10])], [box], none, 0.5)).toBeUndefined();
    expect(snapMove([testBlock('box', [2, 2, 2], [13.2, 9, 10.9])], [box], none, 0.5)).toBeUndefined();
  });

  it('has twelve edges on a box, nine on a ramp, and none down the sides of a cylinder', () => {
    expect(blockEdges(box)).toHaveLength(24);
    expect(blockEdges(testBlock('ramp', [4, 2, 2], [0, 0, 0]))).toHaveLength(18);
    expect(blockEdges(testBlock('cylinder', [4, 2, 4], [0, 0, 0]))).toHaveLength(2 * 2 * 24);
  });
});
