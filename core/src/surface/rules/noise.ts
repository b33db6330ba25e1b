import { fractalNoise } from '../../num/noise';
import { clamp } from '../../num/vec';
import type { ConditionOf, FieldKind } from './field';

/** Fractal noise of a few octaves varies little about its middle; so much stretched, its band is about the share of ground it lets in. */
const STRETCH = 0.8;

/** Seeded patches, 0 to 1. */
export const noise: FieldKind<ConditionOf<'noise'>> = {
  name: 'patches',
  unit: '',
  cost: 9,
  onTops: (c, source, { rect }) => noise.make(c, source, rect),
  make({ seed, scale }, { terrain: { grid } }) {
    const made = fractalNoise(seed, 3);
    const per = grid.spacing / scale;
    return { at: (x, z) => clamp(0.5 + made.at(x * per + grid.ox / scale, z * per + grid.oz / scale) * STRETCH, 0, 1), open: { below: 0, above: 1 } };
  },
};
