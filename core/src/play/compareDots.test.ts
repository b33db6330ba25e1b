import { expect, it } from 'vitest';
import { compareDots } from './compareDots';

it('tells who can get where: one body, the other, or both, and keeps floors over each other apart', () => {
  const adult = Float32Array.from([0, 0, 0, 1, 1, 0, 0, 1, 2, 0, 0, 0, 0, 3, 0, 1]);
  const ram = Float32Array.from([0, 0.1, 0, 1, 5, 0, 5, 1, 2, 0, 0, 1]);
  const dots = compareDots(adult, ram);
  const read = Array.from({ length: dots.length / 4 }, (_, i) => [...dots.subarray(i * 4, i * 4 + 4)]);
  // The adult's unlinked dot at x 2 does not count as the adult's.
  expect(read).toEqual([
    [0, 0, 0, 3],
    [1, 0, 0, 1],
    [0, 3, 0, 1],
    [5, 0, 5, 2],
    [2, 0, 0, 2],
  ]);
});
