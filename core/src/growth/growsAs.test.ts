import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { GROWS_AS, parseObject } from '../level/objects';
import { densest } from './pattern';
import { likelyGrowsAs, startAs } from './growsAs';
import { speciesFrom } from './shippedSpecies';

describe('what something grows as', () => {
  it.each([
    ['tree', { name: 'oak', size: [5, 9, 5] }],
    ['shrub', { name: 'oak', size: [1.5, 1.2, 1.4] }],
    ['grass', { name: 'a17', size: [0.3, 0.4, 0.3] }],
    ['litter', { name: 'a17', size: [0.6, 0.1, 0.5] }],
    ['scatter', { name: 'a17', size: [0.6, 3, 0.5], role: 'prop' }],
    ['scatter', { name: 'mossy Boulder 03', size: [2, 3, 2] }],
    ['flower', { name: 'a17', tags: ['Flower'], size: [0.3, 0.4, 0.3] }],
  ] as const)('is %s by its words, else by its size', (as, of) => {
    expect(likelyGrowsAs(of as unknown as Parameters<typeof likelyGrowsAs>[0])).toBe(as);
  });

  it('starts at a density there is room for, in limits the document takes, with no shadow of grass', () => {
    const size = fc.double({ min: 0.01, max: 60, noNaN: true });
    fc.assert(
      fc.property(fc.constantFrom(...GROWS_AS), size, size, size, (as, w, h, d) => {
        const made = { ...speciesFrom({ id: 'a', name: 'a17' }, 's', 0, 5), ...startAs(as, [w, h, d]) };
        expect(parseObject(made)).toMatchObject({ ok: true });
        expect(made.density).toBeLessThanOrEqual(densest(made.spacing, 5));
        if (as === 'grass' || as === 'litter') expect(made.shadows).toBe(false);
        if (as === 'tree') expect(made.shadows).toBe(true);
      }),
    );
  });

  it('covers about as much ground as its kind does, by hand: trees of 4 m a fifth, in 1.75 on 100 m2', () => {
    expect(startAs('tree', [4, 8, 4])).toMatchObject({ density: 1.75, spacing: 3, clearance: 1, height: [6.4, 9.6], cutoff: 0 });
  });
});
