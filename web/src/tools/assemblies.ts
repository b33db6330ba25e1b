import { blockBounds, boundsOf } from '@rammer/core/block/solid';
import type { Assembly, CopyObject, Standing } from '@rammer/core/level/objects';
import { presentOf, type Maker } from '@rammer/core/level/present';
import type { Session } from '../store/session';
import { useUi } from '../store/ui';
import { asBlock, thingsOfCopy } from './asBlock';
import { newId, nextName } from '../store/names';
import { mm, setThings, type Thing } from './things';

/** Places a linked copy of a group beside it; the group becomes its master. One edit. */
export function copyGroup(session: Session, group: string): boolean {
  const masters = [...presentOf(session.level.objects).membersOf(group)].filter((t) => !t.out);
  if (masters.length === 0) {
    session.say(`all of ${group} is taken out of the level: put one back to copy it`, true);
    return false;
  }
  const { min, max } = boundsOf(
    masters.flatMap((t) => {
      const box = blockBounds(asBlock(session, t));
      return [box.min, box.max];
    }),
  );
  const known = session.level.objects.of('assembly').find((a) => a.group === group);
  const assembly: Assembly = known ?? {
    id: newId('assembly'),
    version: 1,
    kind: 'assembly',
    name: group,
    group,
    pivot: [mm((min[0] + max[0]) / 2), mm(min[1]), mm((min[2] + max[2]) / 2)],
  };
  const copy: CopyObject = {
    id: newId('copy'),
    version: 1,
    kind: 'copy',
    name: nextName(session.level, `${group} copy`),
    assembly: assembly.id,
    at: [mm(assembly.pivot[0] + max[0] - min[0] + 1), assembly.pivot[1], assembly.pivot[2]],
    turn: 0,
    hidden: false,
    out: false,
  };
  if (!session.commit({ kind: 'add', objects: known ? [copy] : [assembly, copy] }, `copy ${group}`)) return false;
  useUi.getState().select([copy.id]);
  return true;
}

const fine = (v: number): number => Math.round(v * 1e5) / 1e5;

/** Makes what stands in copies or along lines objects of their own, each in a group of its copy's name: they follow their master no more. One edit. */
export function detachCopies(session: Session, copies: readonly Maker[]): boolean {
  const objects = copies
    .flatMap((c) => thingsOfCopy(session, c))
    .map((t): Standing => {
      const { standsFor: _, from: __, was: ___, ...own } = t as Standing & { standsFor?: unknown; from?: unknown; was?: unknown };
      return {
        ...own,
        id: newId(t.kind),
        version: 1,
        name: t.name.slice(0, 120),
        group: t.group?.slice(0, 120),
        // Parts meet to less than a millimetre.
        at: t.at.map(fine) as Standing['at'],
        turn: fine(t.turn),
      } as Standing;
    });
  const label = `detach ${copies.length === 1 ? copies[0].name : `${copies.length} copies`}`;
  const done = session.commit(
    { kind: 'together', parts: [{ kind: 'remove', ids: copies.map((c) => c.id) }, ...(objects.length > 0 ? [{ kind: 'add' as const, objects }] : [])] },
    label,
  );
  if (done) useUi.getState().select(objects.map((o) => o.id));
  return done;
}

/** Renames a group with its assembly, so that its copies stay its own. One edit. */
export function renameGroup(session: Session, from: string, to: string): boolean {
  const assemblies = session.level.objects.of('assembly').filter((a) => a.group === from);
  const members = [...presentOf(session.level.objects).membersOf(from)];
  const patches = [...members.map((t) => ({ id: t.id, set: { group: to } })), ...assemblies.map((a) => ({ id: a.id, set: { group: to, name: to } }))];
  return session.commit({ kind: 'set', patches }, `rename ${from} to ${to}`);
}

/** Puts things into a group, or out of any. */
export const groupThings = (session: Session, list: readonly Thing[], group: string | null): boolean =>
  setThings(session, list, () => ({ group }), group === null ? 'ungroup' : 'group');
