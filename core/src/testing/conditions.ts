import fc from 'fast-check';
import type { GroundCondition } from '../level/objects';

const band = (low: number, high: number) =>
  fc
    .tuple(fc.double({ min: low, max: high, noNaN: true }), fc.double({ min: low, max: high, noNaN: true }))
    .map(([a, b]): [number, number] => (a <= b ? [a, b] : [b, a]));
const soft = fc.double({ min: 0, max: 2, noNaN: true });

/** Conditions of the ground that need no lift. */
export const someCondition: fc.Arbitrary<GroundCondition> = fc.oneof(
  fc.record({ by: fc.constant('slope' as const), band: band(0, 90), soft }),
  fc.record({ by: fc.constant('height' as const), band: band(-1, 9), soft }),
  fc.record({ by: fc.constant('water' as const), band: band(-2, 6), soft }),
  fc.record({ by: fc.constant('shore' as const), band: band(-4, 12), soft }),
  fc.record({ by: fc.constant('curvature' as const), band: band(-0.3, 0.3), soft: fc.constant(0.05), over: fc.double({ min: 0.5, max: 5, noNaN: true }) }),
  fc.record({
    by: fc.constant('noise' as const),
    band: band(0, 1),
    soft: fc.constant(0.1),
    seed: fc.nat(1000),
    scale: fc.double({ min: 2, max: 30, noNaN: true }),
  }),
);
