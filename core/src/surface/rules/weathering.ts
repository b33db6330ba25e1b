import { weatherMarks, type Mark } from '../../earth/weather/marks';
import type { ConditionOf, FieldKind } from './field';

const markKind = <K extends Mark>(mark: K, unit: string, name: string): FieldKind<ConditionOf<K>> => ({
  name,
  unit,
  cost: 5,
  looksAt: 'lifts',
  make: (_, { terrain: { grid }, stack, tiles }) => ({ at: weatherMarks(stack, tiles, grid, mark), ...(mark === 'runoff' ? { open: { above: 1 } } : {}) }),
});

export const scour = markKind('scour', 'm', 'scoured');
export const settle = markKind('settle', 'm', 'settled');
export const runoff = markKind('runoff', '', 'runoff');
