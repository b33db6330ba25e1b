import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { cellsOf, nearestPair } from './island';

describe('the nearest linked ground', () => {
  it('of an island is the one a look at every pair finds, the first of those that are as near', () => {
    const place = fc.record({ x: fc.integer({ min: -5, max: 90 }), z: fc.integer({ min: -5, max: 90 }), linked: fc.boolean() });
    fc.assert(
      fc.property(fc.array(place, { minLength: 2, maxLength: 120 }), (places) => {
        const dots = Float32Array.from(places.flatMap((p) => [p.x, 0, p.z, p.linked ? 1 : 0]));
        const linked = places.flatMap((p, i) => (p.linked ? [i] : []));
        const members = places.flatMap((p, i) => (p.linked ? [] : [i]));
        fc.pre(linked.length > 0 && members.length > 0);
        let best = { d: Infinity, from: -1, to: -1 };
        for (const from of members) {
          for (const to of linked) {
            const d = (places[from].x - places[to].x) ** 2 + (places[from].z - places[to].z) ** 2;
            if (d < best.d) best = { d, from, to };
          }
        }
        expect(nearestPair(dots, members, cellsOf(dots, linked))).toEqual(best);
      }),
    );
  });

  it('is found among a million pairs of a wide level without looking at each', () => {
    const side = 700;
    const dots = new Float32Array(side * side * 4);
    for (let i = 0; i < side * side; i++) dots.set([i % side, 0, Math.floor(i / side), i % side < 340 ? 1 : 0], i * 4);
    const all = Array.from({ length: side * side }, (_, i) => i);
    const members = all.filter((i) => i % side > 360);
    const { d } = nearestPair(
      dots,
      members,
      cellsOf(
        dots,
        all.filter((i) => i % side < 340),
      ),
    );
    expect(d).toBe(22 * 22);
  });
});
