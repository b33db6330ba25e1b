import { liftStack } from '@rammer/core/level/level';
import type { HandLift } from '@rammer/core/level/objects';
import type { Session } from '../store/session';
import { useEarth } from '../store/earthDraft';

/** The hand lift strokes go into: the chosen one, else the topmost that can be sculpted, else the topmost. */
export function handLiftAt(session: Session, chosen: string | undefined): HandLift | undefined {
  const hands = liftStack(session.level).filter((l): l is HandLift => l.lift === 'hand');
  return hands.find((l) => l.id === chosen) ?? hands.filter((l) => l.visible && !l.locked).at(-1) ?? hands.at(-1);
}

/** The hand lift that strokes go into now. Says why where there is none, or where it is kept from hands. */
export function sculptedLift(session: Session): HandLift | undefined {
  const lift = handLiftAt(session, useEarth.getState().lift);
  const fault = !session.writable
    ? 'this level is read only here: take over to edit it'
    : !lift
      ? 'there is no hand lift: add one to sculpt'
      : lift.locked
        ? `${lift.name} is locked: unlock it to sculpt`
        : !lift.visible
          ? 'the hand lift is hidden: show it to sculpt'
          : undefined;
  if (!fault) return lift;
  session.say(fault, true);
  return undefined;
}
