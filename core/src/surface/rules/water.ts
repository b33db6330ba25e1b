import { shores } from './shores';
import { topValues, type ConditionOf, type FieldKind } from './field';

/** How high the ground lies over the water whose shore is nearest. */
export const water: FieldKind<ConditionOf<'water'>> = {
  name: 'above water',
  unit: 'm',
  cost: 2,
  looksAt: 'waters',
  onTops(_, { terrain: { grid }, waters }, tops) {
    const found = shores(grid, waters);
    const top = topValues(tops, tops.height);
    return { at: (x, z) => (found ? top(x, z) - found.level[z * grid.nx + x] : NaN) };
  },
  make(_, { terrain, waters }) {
    const found = shores(terrain.grid, waters);
    const { nx } = terrain.grid;
    return { at: (x, z) => (found ? terrain.heights[z * nx + x] - found.level[z * nx + x] : NaN) };
  },
};
