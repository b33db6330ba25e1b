import { describe, expect, it } from 'vitest';
import fc from 'fast-check';
import { distanceToMarked, nearestMarked } from './nearest';

describe('nearest marked cell', () => {
  it('is as near as looking at every cell finds it', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 13 }),
        fc.integer({ min: 1, max: 13 }),
        fc.double({ min: 0, max: 0.6, noNaN: true }),
        fc.nat(),
        (nx, nz, share, seed) => {
          let state = seed | 1;
          const marked = Uint8Array.from({ length: nx * nz }, () => {
            state = (Math.imul(state, 1664525) + 1013904223) >>> 0;
            return state / 4294967296 < share ? 1 : 0;
          });
          const distance = distanceToMarked(marked, nx, nz);
          const near = nearestMarked(marked, nx, nz);
          for (let z = 0; z < nz; z++)
            for (let x = 0; x < nx; x++) {
              let best = Infinity;
              for (let k = 0; k < marked.length; k++) if (marked[k]) best = Math.min(best, ((k % nx) - x) ** 2 + (Math.floor(k / nx) - z) ** 2);
              expect(distance[z * nx + x]).toBeCloseTo(Math.sqrt(best), 5);
              if (best < Infinity) expect(marked[near[z * nx + x]]).toBe(1);
              else expect(near[z * nx + x]).toBe(-1);
            }
        },
      ),
      { numRuns: 200 },
    );
  });
});
