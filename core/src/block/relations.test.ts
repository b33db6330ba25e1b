import { describe, expect, it } from 'vitest';
import { testBlock } from '../testing/levels';
import { nearestNeighbour, overHost } from './relations';

const here = testBlock('box', [4, 2, 4], [0, 1, 0]);

describe('a block among others', () => {
  it('has its nearest neighbour edge to edge, at heights both stand at', () => {
    const east = testBlock('box', [2, 2, 2], [6, 2, 1]);
    const nearer = testBlock('box', [2, 2, 2], [0, 4, 3.5]);
    const found = nearestNeighbour(here, [here, east, nearer], 20)!;
    expect(found.to).toBe(east);
    expect(found.distance).toBeCloseTo(3, 9);
    expect(found.from[0]).toBeCloseTo(2, 9);
    expect(found.at[0]).toBeCloseTo(5, 9);
    expect(found.at[1]).toBe(2);
    expect(nearestNeighbour(here, [east], 2)).toBeUndefined();
    // Corner to corner, as 3, 4, 5.
    expect(nearestNeighbour(here, [testBlock('box', [2, 2, 2], [6, 1, 7])], 20)!.distance).toBeCloseTo(5, 9);
    // What overlaps or touches is not beside it.
    expect(nearestNeighbour(here, [testBlock('box', [4, 2, 4], [3, 1, 0]), testBlock('box', [2, 2, 2], [3, 1, 0])], 20)).toBeUndefined();
  });

  it('stands so far over its host: the least over its corners', () => {
    expect(overHost(here, () => 0.25)).toBe(0.75);
    expect(overHost(here, ([x]) => x * 0.1)).toBeCloseTo(0.8, 9);
  });
});
