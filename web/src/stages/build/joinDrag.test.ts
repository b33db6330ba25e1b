import { describe, expect, it } from 'vitest';
import type { Vec3 } from '@rammer/core/num/vec';
import { draggedBy, snapped, turnedTo, type Project } from './joinDrag';

/** Looked at from the south and above, 100 pixels a metre: east goes right, south goes down, up goes up. */
const picture: Project = ([x, y, z]) => [200 + 100 * x, 300 + 50 * z - 80 * y];

describe('a join that is dragged over its picture', () => {
  it('goes level, or upright, as far as the pointer', () => {
    const level = draggedBy(picture, [1, 0, 0], [50, 25], false);
    [0.5, 0, 0.5].forEach((v, k) => expect(level[k]).toBeCloseTo(v, 6));
    const up = draggedBy(picture, [1, 0, 0], [50, -40], true);
    [0, 0.5, 0].forEach((v, k) => expect(up[k]).toBeCloseTo(v, 6));
  });

  it('stays where the picture does not show that way', () => {
    const side: Project = ([x, y]) => [100 * x, -100 * y];
    expect(draggedBy(side, [0, 0, 0], [30, 30], false)).toEqual([0, 0, 0]);
    const above: Project = ([x, , z]) => [100 * x, 100 * z];
    expect(draggedBy(above, [0, 0, 0], [30, 30], true)).toEqual([0, 0, 0]);
  });

  it('takes sides and the middle of its part, else steps of 5 cm', () => {
    const box: [Vec3, Vec3] = [
      [-1, 0, -0.15],
      [1, 3, 0.15],
    ];
    expect(snapped({ box }, [0.96, 0.03, 0.13])).toEqual([1, 0, 0.15]);
    snapped({ box }, [0.62, 1.13, -0.3]).forEach((v, k) => expect(v).toBeCloseTo([0.6, 1.15, -0.3][k], 9));
  });

  it('looks where its arrow is dragged: 0 to the right, -90 to the front', () => {
    const at: Vec3 = [1, 0, 0];
    expect(turnedTo({ at }, [3, 0, 0.1], false)).toBe(0);
    expect(turnedTo({ at }, [1, 0, 2], false)).toBe(-90);
    expect(turnedTo({ at }, [-4, 0, 0], false)).toBe(180);
    expect(turnedTo({ at }, [2, 0, -1], true)).toBeCloseTo(45, 6);
  });
});
