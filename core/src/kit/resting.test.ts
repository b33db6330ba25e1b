import { describe, expect, it } from 'vitest';
import { testPiece } from '../testing/pieces';
import { Resting } from './resting';

describe('what stood on the ground', () => {
  it('is told once the ground is elsewhere, and no more when it is back', () => {
    const resting = new Resting();
    const things = [
      testPiece('on', [1, 5, 1]),
      testPiece('sunk', [2, 4.7, 1], { sink: 0.3 }),
      testPiece('in the air', [3, 6, 1]),
      testPiece('nearly', [4, 5.015, 1]),
    ];
    resting.prime(things, () => 5);
    const ids = (list: readonly { id: string }[]) => list.map((t) => t.id);
    expect(ids(resting.moved(things, () => 5.01).off)).toEqual([]);
    // Little by little counts as all at once: it is against where it stood.
    expect(ids(resting.moved(things, () => 5.03).off)).toEqual(['on', 'sunk']);
    expect(ids(resting.moved(things, () => 4).off)).toEqual(['on', 'sunk', 'nearly']);
    const back = resting.moved(things, () => 5);
    expect([ids(back.off), ids(back.on)]).toEqual([[], ['on', 'sunk', 'nearly']]);
  });

  it('knows nothing of what came while the ground moved, nor of what was moved by hand since', () => {
    const resting = new Resting();
    const [before, after] = [testPiece('a', [1, 5, 1]), testPiece('a', [1, 5.5, 1])];
    resting.prime([before], () => 5);
    expect(resting.moved([after], () => 4)).toEqual({ off: [], on: [] });
    expect(resting.moved([after], () => 3)).toEqual({ off: [], on: [] });
  });
});
