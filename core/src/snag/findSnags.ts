import { isMade, ownerOf } from '../level/instance';
import { blockOutside } from './blockOutside';
import { buriedBlock } from './buriedBlock';
import { colliders } from './collider';
import { coplanar } from './coplanar';
import { declaredGap } from './declaredGap';
import { denserThanSpacing } from './denserThanSpacing';
import { doorway } from './doorway';
import type { Snag } from './finding';
import { floatingBlock } from './floatingBlock';
import { handPlant } from './handPlant';
import type { SnagInput } from './input';
import { hollowSeen } from './hollowSeen';
import { island } from './island';
import { joinFit } from './joinFit';
import { levelTooLarge } from './levelTooLarge';
import { nearDetail } from './nearDetail';
import { objectiveUnreachable } from './objectiveUnreachable';
import { opening } from './opening';
import { piecePlace, pieceSize } from './piece';
import { playBoundsChecks } from './playBounds';
import { poking } from './poking';
import { doubled, twins } from './samePlace';
import { steepRamp } from './steepRamp';
import { blockStep, step } from './step';

/** Every check but the budget's, in the order they are told. A check is one file; adding one is a line here. */
const CHECKS: ((input: SnagInput) => Snag[])[] = [
  ({ reach }) => objectiveUnreachable(reach),
  opening,
  step,
  blockStep,
  steepRamp,
  island,
  ({ terrain, blocks, placed }) => floatingBlock(terrain, blocks, placed),
  ({ terrain, blocks }) => buriedBlock(terrain, blocks),
  piecePlace,
  pieceSize,
  joinFit,
  doubled,
  coplanar,
  twins,
  hollowSeen,
  poking,
  colliders,
  nearDetail,
  doorway,
  handPlant,
  denserThanSpacing,
  declaredGap,
  playBoundsChecks,
  ({ terrain, blocks }) => blockOutside(terrain.grid, blocks),
  ({ terrain, body }) => levelTooLarge(terrain.grid, body),
];

/** What is wrong with a copy's block is about the copy. */
const ofOwner = (s: Snag): Snag => (s.object && isMade(s.object) ? { ...s, object: ownerOf(s.object) } : s);

/** What a body that is not the player's sees that it should not. */
export const seenBy = (input: Parameters<typeof hollowSeen>[0]): Snag[] => hollowSeen(input).map(ofOwner);

/** All findings of a level, blocking ones first. */
export function findSnags(input: SnagInput): Snag[] {
  const found = CHECKS.flatMap((check) => check(input)).map(ofOwner);
  return [...found.filter((s) => s.severity === 'blocking'), ...found.filter((s) => s.severity !== 'blocking')];
}
