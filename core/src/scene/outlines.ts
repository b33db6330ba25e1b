import type { Outlined } from '../growth/where';
import { ofKind, type Level } from '../level/level';

/** What is drawn of a level that rules of growth may go by: its play bounds, and the outlines of its habitats. */
export const outlinesOf = (level: Level): Outlined[] => [
  ...ofKind(level, 'playBounds').map(({ id, outline }) => ({ id, outlines: [outline] })),
  ...ofKind(level, 'habitat')
    .filter((h) => h.outlines.length > 0)
    .map(({ id, outlines }) => ({ id, outlines })),
];
