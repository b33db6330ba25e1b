import type { LevelReader } from './level';
import type { LevelObject, ObjectKind } from './objects';

/**
 * What an object cannot be without: a piece its asset, a plant its species. An edit that leaves one without it
 * is refused, and a package that holds one does not open. What an object can do without (a gap whose block is
 * gone, a rule that names a surface that was deleted) is not listed: readers of those fields cope.
 */
const NEEDS: Partial<Record<ObjectKind, { field: string; kind: ObjectKind }>> = {
  settings: { field: 'player', kind: 'body' },
  piece: { field: 'asset', kind: 'asset' },
  species: { field: 'asset', kind: 'asset' },
  reference: { field: 'asset', kind: 'asset' },
  plant: { field: 'species', kind: 'species' },
  copy: { field: 'assembly', kind: 'assembly' },
};

/** Fields that name what an object needs, and kinds that are needed by others. */
export const NEEDED_FIELDS: readonly string[] = [...new Set(Object.values(NEEDS).map((n) => n.field))];
export const NEEDED_KINDS: readonly ObjectKind[] = [...new Set(Object.values(NEEDS).map((n) => n.kind))];

/** The object that `object` cannot be without: its id and kind. */
export function needOf(object: { kind: string }): { id: string; kind: ObjectKind } | undefined {
  const need = Object.hasOwn(NEEDS, object.kind) ? NEEDS[object.kind as ObjectKind] : undefined;
  const id = need && (object as Record<string, unknown>)[need.field];
  return need && typeof id === 'string' ? { id, kind: need.kind } : undefined;
}

/** What is wrong where an object names something that is not there, or is of another kind. */
export function missingNeed(object: LevelObject, find: (id: string) => LevelObject | undefined): string | undefined {
  const need = needOf(object);
  return need && find(need.id)?.kind !== need.kind ? `${object.kind} ${object.id} names the ${need.kind} ${need.id}, which is not there` : undefined;
}

/**
 * What a change would leave without what it needs.
 *
 * @param changes objects as they will be, `undefined` where one goes
 * @returns a code and a message, or `undefined` where all is well
 */
export function brokenNeed(level: LevelReader, changes: ReadonlyMap<string, LevelObject | undefined>): { code: string; message: string } | undefined {
  const after = (id: string) => (changes.has(id) ? changes.get(id) : level.object(id));
  for (const [id, object] of changes) {
    if (!object) continue;
    // What it needed before and nobody touches need not be looked for: the server has not read it.
    const need = needOf(object);
    const before = level.object(id);
    if (!need || (!changes.has(need.id) && before && needOf(before)?.id === need.id)) continue;
    const message = missingNeed(object, after);
    if (message) return { code: 'object-missing', message };
  }
  for (const [id, object] of changes) {
    const before = level.object(id);
    if (!before || !NEEDED_KINDS.includes(before.kind) || object?.kind === before.kind) continue;
    for (const user of level.users(id)) {
      if (!changes.has(user.id)) return { code: 'object-used', message: `${before.name} is used by ${user.name}: remove what uses it first, or both together` };
    }
  }
  return undefined;
}
