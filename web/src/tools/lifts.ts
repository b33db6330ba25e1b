import type { Point2 } from '@rammer/core/num/outline';
import { duplicateLift, insertLift, mergeDown, moveLift } from '@rammer/core/earth/stack';
import { heightAt } from '@rammer/core/earth/sample';
import { assetBounds } from '@rammer/core/kit/asset';
import { assetOf } from '@rammer/core/kit/bentAsset';
import { liftStack } from '@rammer/core/level/level';
import type { Lift, Pad } from '@rammer/core/level/objects';
import { placedPad } from '@rammer/core/level/padFoot';
import type { Session } from '../store/session';
import { useEarth } from '../store/earthDraft';
import { useUi } from '../store/ui';
import { newId, nextName } from '../store/names';
import { mm } from './things';

type New<L> = L extends Lift ? Omit<L, 'id' | 'version' | 'kind' | 'order' | 'visible' | 'name'> : never;

/** Adds a lift where its kind belongs in the stack, and chooses it. */
export function addLift(session: Session, given: New<Lift>): boolean {
  const lift = { id: newId('lift'), version: 1, kind: 'lift', order: 0, visible: true, name: nextName(session.level, given.lift), ...given } as Lift;
  if (!session.commit(insertLift(liftStack(session.level), lift), `add ${lift.name}`)) return false;
  useEarth.setState({ lift: lift.id, water: undefined });
  return true;
}

/** The chosen lift, or none. */
export const chosenLift = (session: Session, id: string | undefined): Lift | undefined => liftStack(session.level).find((l) => l.id === id);

/** Says so and answers true where a lift is locked. */
export function refuseLocked(session: Session, lift: Lift): boolean {
  if (lift.locked) session.say(`${lift.name} is locked: unlock it first`, true);
  return lift.locked === true;
}

/** Changes fields of a lift; a locked one says so. */
export function setLift(session: Session, lift: Lift, set: Record<string, unknown>, label: string): boolean {
  const only = Object.keys(set);
  if (only.some((f) => f !== 'locked' && f !== 'visible') && refuseLocked(session, lift)) return false;
  return session.commit({ kind: 'set', patches: [{ id: lift.id, set }] }, label);
}

export function removeLift(session: Session, lift: Lift): void {
  if (!refuseLocked(session, lift)) session.commit({ kind: 'remove', ids: [lift.id] }, `delete ${lift.name}`);
}

/** @param to place in the stack, 0 the lowest */
export function placeLift(session: Session, lift: Lift, to: number): void {
  const edit = moveLift(liftStack(session.level), lift.id, to);
  if (edit && !refuseLocked(session, lift)) session.commit(edit, `move ${lift.name} in the stack`);
}

export function copyLift(session: Session, lift: Lift): void {
  const id = newId('lift');
  const edit = duplicateLift(session.level, lift.id, { id, name: nextName(session.level, lift.name.replace(/ \d+$/, '')) });
  if (edit && session.commit(edit, `duplicate ${lift.name}`)) useEarth.setState({ lift: id });
}

export function mergeLift(session: Session, lift: Lift): void {
  const id = newId('lift');
  const merged = mergeDown(session.level, session.terrain, lift.id, { id, name: nextName(session.level, 'merged') });
  if (!merged.ok) session.say(merged.message, true);
  else if (session.commit(merged.edit, `merge ${lift.name} down`)) useEarth.setState({ lift: id });
}

/** A pad under what is selected; it follows when that moves. */
export function padUnderSelection(session: Session): void {
  const things = useUi
    .getState()
    .selection.map((id) => session.level.object(id))
    .filter((o) => (o?.kind === 'block' && o.op !== 'void') || o?.kind === 'piece');
  const follows: NonNullable<Pad['follows']> = things.flatMap((o) => {
    if (o!.kind === 'block') return [{ id: o!.id }];
    const asset = o!.kind === 'piece' ? assetOf(session.scene.placed.assets, o!) : undefined;
    return asset ? [{ id: o!.id, foot: footOf(assetBounds(asset)) }] : [];
  });
  if (follows.length === 0) {
    session.say('select the blocks or pieces the pad is to lie under first', true);
    return;
  }
  const { outline, height } = placedPad(session.level, { outline: [] as Point2[], height: 0, follows });
  if (addLift(session, { lift: 'pad', outline, height, ...useEarth.getState().pad, follows })) useUi.getState().setTool('select');
}

const footOf = ({ min, max }: ReturnType<typeof assetBounds>): Point2[] => [
  [mm(min[0]), mm(min[2])],
  [mm(max[0]), mm(min[2])],
  [mm(max[0]), mm(max[2])],
  [mm(min[0]), mm(max[2])],
];

/** Mean height of the ground at some places, to a centimetre. */
export const meanGround = (session: Session, places: readonly Point2[]): number =>
  Math.round((places.reduce((sum, [x, z]) => sum + heightAt(session.terrain, x, z), 0) / places.length) * 100) / 100;
