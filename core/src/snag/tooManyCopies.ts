import { copiesLeftOut, MOST_MADE } from '../level/copies';
import type { Level } from '../level/level';
import type { Snag } from './finding';

/** Copies that are not made, for their blocks would be too many: the level lacks them everywhere. */
export function tooManyCopies(level: Level): Snag[] {
  const left = copiesLeftOut(level.objects);
  if (left.length === 0) return [];
  const [first] = left;
  return [{
    code: 'copies-too-many', severity: 'blocking', at: first.at, object: first.id,
    message: `${left.length === 1 ? `${first.name} is` : `${left.length} copies, ${first.name} the first of them, are`} not made: all copies together have more than ${MOST_MADE} blocks`,
    mend: 'take copies out, or make their master of fewer blocks; cast it to a mesh',
  }];
}
