import type { ConditionOf, FieldKind } from './field';

export const height: FieldKind<ConditionOf<'height'>> = {
  unit: 'm', cost: 0,
  make: (_, { terrain: { heights, grid } }) => ({ at: (x, z) => heights[z * grid.nx + x] }),
};
