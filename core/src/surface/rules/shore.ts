import { shores } from './shores';
import type { ConditionOf, FieldKind } from './field';

/** Distance to the nearest shore. */
export const shore: FieldKind<ConditionOf<'shore'>> = {
  name: 'from shore',
  unit: 'm',
  cost: 2,
  looksAt: 'waters',
  onTops: (c, source, { rect }) => shore.make(c, source, rect),
  make(_, { terrain, waters }) {
    const found = shores(terrain.grid, waters);
    const { nx } = terrain.grid;
    return { at: (x, z) => (found ? found.distance[z * nx + x] : NaN) };
  },
};
