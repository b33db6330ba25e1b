import type { Level } from '../level/level';
import { MOST_MADE, presentOf } from '../level/present';
import type { Snag } from './finding';

/** Copies that are not made, for their blocks would be too many: the level lacks them everywhere. */
export function tooManyCopies(level: Level): Snag[] {
  const left = presentOf(level.objects).leftOut;
  if (left.length === 0) return [];
  const [first] = left;
  return [
    {
      code: 'copies-too-many',
      severity: 'blocking',
      at: first.at,
      object: first.id,
      message:
        `${left.length === 1 ? `${first.name} is` : `${left.length} copies, ${first.name} the first of them, are`} ` +
        `not made: all copies together have more than ${MOST_MADE} members`,
      mend: 'take copies out, or make their master of fewer members; cast its blocks to a mesh',
    },
  ];
}
