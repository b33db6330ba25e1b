import type { BodyFigures } from '../body/bodies';
import type { Terrain } from '../earth/compose';
import type { Block } from '../level/objects';
import type { Reach } from '../play/reach';
import { blockOutside } from './blockOutside';
import { buriedBlock } from './buriedBlock';
import type { Snag } from './finding';
import { floatingBlock } from './floatingBlock';
import { levelTooLarge } from './levelTooLarge';
import { objectiveUnreachable } from './objectiveUnreachable';

/** Every check of ground, blocks and reach, blocking ones first. A check is one file; adding one is a line here. */
export function findSnags(terrain: Terrain, blocks: readonly Block[], body: BodyFigures, reach: Reach): Snag[] {
  const found = [
    ...objectiveUnreachable(reach),
    ...floatingBlock(terrain, blocks),
    ...buriedBlock(terrain, blocks),
    ...blockOutside(terrain.grid, blocks),
    ...levelTooLarge(terrain.grid, body),
  ];
  return [...found.filter((s) => s.severity === 'blocking'), ...found.filter((s) => s.severity !== 'blocking')];
}
