import { liftStack } from '@rammer/core/level/level';
import type { HandLift } from '@rammer/core/level/objects';
import type { Session } from '../store/session';
import { useUi } from '../store/ui';

/** The hand lift strokes go into: the chosen one, else the topmost that can be sculpted. Says why where there is none. */
export function sculptedLift(session: Session): HandLift | undefined {
  const hands = liftStack(session.level).filter((l): l is HandLift => l.lift === 'hand');
  const chosen = hands.find((l) => l.id === useUi.getState().lift);
  const lift = chosen ?? hands.filter((l) => l.visible && !l.locked).at(-1) ?? hands.at(-1);
  const fault = !session.writable ? 'this level is read only here: take over to edit it' : !lift ? 'there is no hand lift: add one to sculpt' : lift.locked ? `${lift.name} is locked: unlock it to sculpt` : !lift.visible ? 'the hand lift is hidden: show it to sculpt' : undefined;
  if (!fault) return lift;
  session.say(fault, true);
  return undefined;
}
