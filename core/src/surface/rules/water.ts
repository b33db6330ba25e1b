import { shores } from './shores';
import type { ConditionOf, FieldKind } from './field';

/** How high the ground lies over the water whose shore is nearest. */
export const water: FieldKind<ConditionOf<'water'>> = {
  name: 'above water', unit: 'm', cost: 2, looksAt: 'waters',
  make(_, { terrain, waters }) {
    const found = shores(terrain.grid, waters);
    const { nx } = terrain.grid;
    return { at: (x, z) => (found ? terrain.heights[z * nx + x] - found.level[z * nx + x] : NaN) };
  },
};
