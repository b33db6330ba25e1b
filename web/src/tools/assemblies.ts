import { blockBounds, boundsOf } from '@rammer/core/block/solid';
import { ofKind } from '@rammer/core/level/level';
import type { Assembly, Block, CopyObject } from '@rammer/core/level/objects';
import type { Vec3 } from '@rammer/core/num/vec';
import type { Session } from '../store/session';
import { useUi } from '../store/ui';
import { blocksOfCopy } from './asBlock';
import { newId, nextName } from './names';
import { mm } from './things';

/** Places a linked copy of a group beside it; the group becomes its master. One edit. */
export function copyGroup(session: Session, group: string): boolean {
  const masters = ofKind(session.level, 'block').filter((b) => b.group === group && !b.out);
  if (masters.length === 0) {
    session.say(`every block of ${group} is taken out of the level: put one back to copy it`, true);
    return false;
  }
  const { min, max } = boundsOf(masters.flatMap((b) => { const box = blockBounds(b); return [box.min, box.max]; }));
  const known = ofKind(session.level, 'assembly').find((a) => a.group === group);
  const assembly: Assembly = known ?? { id: newId('assembly'), version: 1, kind: 'assembly', name: group, group, pivot: [mm((min[0] + max[0]) / 2), mm(min[1]), mm((min[2] + max[2]) / 2)] };
  const copy: CopyObject = { id: newId('copy'), version: 1, kind: 'copy', name: nextName(session.level, `${group} copy`), assembly: assembly.id, at: [mm(assembly.pivot[0] + max[0] - min[0] + 1), assembly.pivot[1], assembly.pivot[2]], turn: 0, hidden: false, out: false };
  if (!session.commit({ kind: 'add', objects: known ? [copy] : [assembly, copy] }, `copy ${group}`)) return false;
  useUi.getState().select([copy.id]);
  return true;
}

/** Makes copies blocks of their own, each in a group of its name: they follow their master no more. One edit. */
export function detachCopies(session: Session, copies: readonly CopyObject[]): boolean {
  const made = copies.flatMap((c) => blocksOfCopy(session, c));
  const objects = made.map((b): Block => ({ ...b, id: newId('block'), version: 1, name: b.name.slice(0, 120), at: b.at.map(mm) as Vec3, turn: mm(b.turn) }));
  const done = session.commit({ kind: 'together', parts: [{ kind: 'remove', ids: copies.map((c) => c.id) }, ...(objects.length > 0 ? [{ kind: 'add' as const, objects }] : [])] }, `detach ${copies.length === 1 ? copies[0].name : `${copies.length} copies`}`);
  if (done) useUi.getState().select(objects.map((o) => o.id));
  return done;
}

/** Renames a group with its assembly, so that its copies stay its own. One edit. */
export function renameGroup(session: Session, blocks: readonly Block[], from: string, to: string): boolean {
  const assemblies = ofKind(session.level, 'assembly').filter((a) => a.group === from);
  return session.commit({ kind: 'set', patches: [...blocks.map((b) => ({ id: b.id, set: { group: to } })), ...assemblies.map((a) => ({ id: a.id, set: { group: to, name: to } }))] }, `rename ${from} to ${to}`);
}
