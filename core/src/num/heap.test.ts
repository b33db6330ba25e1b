import fc from 'fast-check';
import { expect, it } from 'vitest';
import { Heap } from './heap';

it('gives back what was pushed, the least first, equal ones by number, in whatever order it came', () => {
  fc.assert(
    fc.property(fc.array(fc.tuple(fc.nat(50), fc.integer({ min: -5, max: 5 })), { maxLength: 80 }), (pairs) => {
      const heap = new Heap();
      for (const [item, price] of pairs) heap.push(item, price);
      const wanted = [...pairs].sort((a, b) => a[1] - b[1] || a[0] - b[0]).map(([item]) => item);
      expect(pairs.map(() => heap.pop())).toEqual(wanted);
      expect(heap.pop()).toBeUndefined();
    }),
  );
});
