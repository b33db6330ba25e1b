import { expect, it } from 'vitest';
import { testSpecies } from '../testing/growth';
import { companionsOf, mixOf } from './mix';

it('mixes species as frequently as each is by itself', () => {
  // The mean of 6 and 2 is 4: three to one, and 8 in all are 6 and 2 again.
  expect(mixOf([testSpecies('a', 0, { density: 6 }), testSpecies('b', 1, { density: 2 })])).toEqual({
    mix: [
      { species: 'a', weight: 1.5 },
      { species: 'b', weight: 0.5 },
    ],
    density: 8,
  });
  expect(mixOf([testSpecies('a', 0, { density: 6 }), testSpecies('b', 1, { density: 2 })], 0.5).density).toBe(2);
  expect(mixOf([testSpecies('a', 0, { density: 6 })], 0.5)).toEqual({ mix: [{ species: 'a', weight: 1 }], density: 3 });
  // None has any: all alike, and nothing to grow until it is typed.
  expect(mixOf([testSpecies('a', 0, { density: 0 }), testSpecies('b', 1, { density: 0 })])).toMatchObject({ mix: [{ weight: 1 }, { weight: 1 }], density: 0 });
  expect(mixOf(Array.from({ length: 20 }, (_, i) => testSpecies(`s${i}`, i, { density: 1 }))).mix).toHaveLength(12);
});

it('names what goes with some once each, and neither themselves nor what is gone', () => {
  const birch = testSpecies('birch', 0, { with: ['bracken', 'gone', 'moss'] });
  const bracken = testSpecies('bracken', 1, { with: ['birch', 'moss'] });
  const moss = testSpecies('moss', 2);
  const all = [birch, bracken, moss];
  expect(companionsOf([birch], all).map((s) => s.id)).toEqual(['bracken', 'moss']);
  expect(companionsOf([birch, bracken], all).map((s) => s.id)).toEqual(['moss']);
  expect(companionsOf([moss], all)).toEqual([]);
});
