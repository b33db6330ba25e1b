import { ownerOf, isMade } from '@rammer/core/level/instance';
import { isStanding, type PlantObject, type Standing } from '@rammer/core/level/objects';
import { presentOf } from '@rammer/core/level/present';
import type { Vec3 } from '@rammer/core/num/vec';
import type { Session } from '../store/session';
import { useUi } from '../store/ui';
import { overridesOf, withoutOverrides } from './overrides';
import { withPivots, type Patch } from './pivots';

/**
 * What can be selected and moved: anything that stands in the level. One that is made for a copy of an assembly is among
 * them by the id it has there; what is set on it is overridden in its copy. Each action is one edit.
 */
export type Thing = Standing;

export const mm = (v: number): number => Math.round(v * 1000) / 1000;
export const isThing = isStanding;

/** A thing by its id: of the document, or as it stands in a copy. */
export function thing(session: Session, id: string): Thing | undefined {
  const o = isMade(id) ? presentOf(session.level.objects).get(id) : session.level.object(id);
  return isThing(o) ? o : undefined;
}

export const things = (session: Session, ids: readonly string[] = useUi.getState().selection): Thing[] => ids.flatMap((id) => thing(session, id) ?? []);

export const many = (list: readonly Thing[]): string => (list.length === 1 ? list[0].name : `${list.length} things`);

/** Whether a thing is kept from hands: it, or the copy it stands in. */
export const isLocked = (session: Session, t: Thing): boolean => (isMade(t.id) ? thing(session, ownerOf(t.id))?.locked : t.locked) === true;

/** Those of a list that are not locked; says which others stay as they are. */
export function unlocked<T extends Thing>(session: Session, list: readonly T[]): T[] {
  const locked = list.filter((t) => isLocked(session, t));
  if (locked.length === 1) session.say(`${locked[0].name} is locked: unlock first to change it`, true);
  else if (locked.length > 1) session.say(`${locked.length} things are locked: unlock first to change them`, true);
  return list.filter((t) => !isLocked(session, t));
}

/** Fields that lie beside what a lock protects. */
const LOOSE = ['hidden', 'out', 'group', 'name', 'locked'];

/** @param set new fields of a thing; `null` takes an optional one away */
export function setThings(session: Session, list: readonly Thing[], set: (thing: Thing) => Record<string, unknown>, verb: string): boolean {
  const wanted = list.map((thing) => ({ thing, set: set(thing) }));
  const loose = wanted.every((w) => Object.keys(w.set).every((k) => LOOSE.includes(k)));
  const free = new Set(loose ? list : unlocked(session, list));
  const own: Patch[] = [];
  const made: { thing: Thing; set: Record<string, unknown> }[] = [];
  for (const w of wanted) {
    if (!free.has(w.thing)) continue;
    if (isMade(w.thing.id)) made.push(w);
    else own.push({ id: w.thing.id, set: w.set });
  }
  const overridden = overridesOf(session, made);
  if (typeof overridden === 'string') {
    session.say(overridden, true);
    return false;
  }
  const patches = [...withPivots(session, own), ...overridden];
  return patches.length > 0 && session.commit({ kind: 'set', patches }, `${verb} ${many([...free])}`);
}

export function moveThings(session: Session, ids: readonly string[], by: Vec3): void {
  setThings(session, things(session, ids), (t) => ({ at: [mm(t.at[0] + by[0]), mm(t.at[1] + by[1]), mm(t.at[2] + by[2])] }), 'move');
}

/**
 * Deletes what is selected. A plant that was generated once stays away: it becomes one that is gone. What is made for a
 * copy is taken out of that copy. What is overridden on a member of an assembly goes with it.
 */
export function removeThings(session: Session): void {
  const list = unlocked(session, things(session));
  if (list.length === 0) return;
  const kept = list.filter((t) => !isMade(t.id) && t.kind === 'plant' && ((t as PlantObject).from !== undefined || (t as PlantObject).was !== undefined));
  const made = list.filter((t) => isMade(t.id));
  const ids = list.filter((t) => !isMade(t.id) && !kept.includes(t)).map((t) => t.id);
  const out = overridesOf(
    session,
    made.map((thing) => ({ thing, set: { out: true } })),
  );
  const patches = [...kept.map((t) => ({ id: t.id, set: { gone: true } })), ...(typeof out === 'string' ? [] : out)];
  const stripped = withoutOverrides(session, new Set(ids), patches);
  const parts = [...(ids.length > 0 ? [{ kind: 'remove' as const, ids }] : []), ...(stripped.length > 0 ? [{ kind: 'set' as const, patches: stripped }] : [])];
  if (session.commit(parts.length === 1 ? parts[0] : { kind: 'together', parts }, `delete ${many(list)}`)) useUi.getState().select([]);
}

export const hideThings = (session: Session, list: readonly Thing[] = things(session)): void => {
  const hidden = !list.every((t) => t.hidden);
  if (list.length > 0) setThings(session, list, () => ({ hidden }), hidden ? 'hide' : 'show');
};

export const takeOutThings = (session: Session, list: readonly Thing[] = things(session)): void => {
  const out = !list.every((t) => t.out);
  if (list.length > 0) setThings(session, list, () => ({ out }), out ? 'take out' : 'put back');
};

/** A lock keeps from being picked, moved, changed and deleted. */
export const lockThings = (session: Session, list: readonly Thing[], locked: boolean): boolean =>
  setThings(session, list, () => ({ locked: locked || null }), locked ? 'lock' : 'unlock');

/** One name for all, numbered in their order. */
export const renameThings = (session: Session, list: readonly Thing[], name: string): boolean => {
  const numbers = new Map(list.map((t, i) => [t.id, i + 1]));
  return setThings(session, list, (t) => ({ name: list.length === 1 ? name : `${name} ${numbers.get(t.id)}` }), 'rename');
};
