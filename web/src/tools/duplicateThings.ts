import type { Vec3 } from '@rammer/core/num/vec';
import type { PlantObject } from '@rammer/core/level/objects';
import { isMade } from '@rammer/core/level/instance';
import type { Session } from '../store/session';
import { useUi } from '../store/ui';
import { dropThings } from './dropThings';
import { newId, nextName } from '../store/names';
import { many, mm, things, type Thing } from './things';

/** Duplicates stand one snap step (pieces: a cell) beside their originals and are selected. */
export function duplicateThings(session: Session): void {
  const list = things(session);
  const by = list.some((t) => t.kind === 'piece') ? 2 : Math.max(0.5, useUi.getState().snap);
  copyThings(session, list, [by, 0, list.some((t) => t.kind === 'piece') ? 0 : by]);
}

const moved =
  (by: Vec3) =>
  (t: Thing): Thing => ({ ...t, at: [mm(t.at[0] + by[0]), mm(t.at[1] + by[1]), mm(t.at[2] + by[2])] });

/** Duplicates at a distance from their originals, selected: one edit. */
export const copyThings = (session: Session, list: readonly Thing[], by: Vec3): boolean => addThings(session, list.map(moved(by)), `duplicate ${many(list)}`);

/** Things like these, as objects of their own with names that follow, selected: one edit. */
export function addThings(session: Session, list: readonly Thing[], verb: string): boolean {
  if (list.length === 0) return false;
  const next = new Map<string, number>();
  const objects = list.map((t): Thing => {
    const word = t.kind === 'block' && t.name.startsWith(t.shape) ? `${t.shape}${t.op === 'void' ? ' void' : ''}` : t.name.replace(/ \d+$/, '').slice(0, 110);
    const n = next.get(word) ?? Number(/\d+$/.exec(nextName(session.level, word))![0]);
    next.set(word, n + 1);
    // What was made for a copy has a group of that copy's name, which is no group of the level.
    const { from: _, group, ...rest } = t as PlantObject;
    return { ...rest, ...(group !== undefined && !isMade(t.id) ? { group } : {}), id: newId(t.kind), version: 1, name: `${word} ${n}` } as Thing;
  });
  if (!session.commit({ kind: 'add', objects }, verb)) return false;
  useUi.getState().select(objects.map((o) => o.id));
  return true;
}

/** What was cut out last to be pasted, with the middle of its foot; for this page. */
let kept: { list: Thing[]; foot: Vec3 } | undefined;

/** Keeps the selection to be pasted. */
export function keepThings(session: Session): void {
  const list = things(session);
  if (list.length === 0) return;
  const middle = (k: 0 | 2) => (Math.min(...list.map((t) => t.at[k])) + Math.max(...list.map((t) => t.at[k]))) / 2;
  kept = { list, foot: [middle(0), Math.min(...list.map((t) => t.at[1])), middle(2)] };
  session.say(`${many(list)} kept to be pasted`);
}

/**
 * Pastes what was kept with its foot at a point, as it was arranged.
 *
 * @param drop each by itself onto what is below it there: a second edit, so that it alone can be undone
 */
export function pasteThings(session: Session, at: Vec3 | undefined, drop: boolean): void {
  if (!kept) return session.say('nothing is kept to be pasted: select something first and press Ctrl+C', true);
  if (!at) return session.say('point at where it is to be pasted', true);
  const { list, foot } = kept;
  if (addThings(session, list.map(moved([at[0] - foot[0], at[1] - foot[1], at[2] - foot[2]])), `paste ${many(list)}`) && drop) dropThings(session);
}
