import { topValues, type ConditionOf, type FieldKind } from './field';

export const height: FieldKind<ConditionOf<'height'>> = {
  unit: 'm',
  cost: 0,
  onTops: (_, __, tops) => ({ at: topValues(tops, tops.height) }),
  make: (_, { terrain: { heights, grid } }) => ({ at: (x, z) => heights[z * grid.nx + x] }),
};
