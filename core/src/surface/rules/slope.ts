import { gradientAtSample } from '../../earth/sample';
import { slopeDeg, tanDeg } from '../../num/trig';
import { clamp } from '../../num/vec';
import type { ConditionOf, FieldKind } from './field';

/** Slope of the ground, compared as rise over run. */
export const slope: FieldKind<ConditionOf<'slope'>> = {
  unit: '°',
  around: (_, spacing) => spacing,
  make: (_, { terrain }) => ({
    at(x, z) {
      const g = gradientAtSample(terrain, x, z);
      return Math.sqrt(g[0] * g[0] + g[1] * g[1]);
    },
    end: (deg) => tanDeg(clamp(deg, 0, 89.5)),
    read: slopeDeg,
    open: { below: 0, above: 90 },
  }),
};
