import type { LevelReader } from './level';
import { KINDS, type LevelObject, type ObjectKind } from './kinds/index';
import type { Kind } from './kinds/kind';

/** Of each kind the field by which it names what it cannot be without, see `Kind.names`. */
const NEEDS: Partial<Record<string, { field: string; kind: ObjectKind }>> = Object.fromEntries(
  Object.entries(KINDS as Record<string, Kind>).flatMap(([name, { names = {} }]) =>
    Object.entries(names)
      .filter(([, of]) => of.needed)
      .map(([field, of]) => [name, { field, kind: of.kind as ObjectKind }]),
  ),
);

/** Fields that name what an object needs, and kinds that are needed by others. */
export const NEEDED_FIELDS: readonly string[] = [...new Set(Object.values(NEEDS).map((n) => n!.field))];
export const NEEDED_KINDS: readonly ObjectKind[] = [...new Set(Object.values(NEEDS).map((n) => n!.kind))];

/** The object that `object` cannot be without: its id and kind. */
export function needOf(object: { kind: string }): { id: string; kind: ObjectKind } | undefined {
  const need = Object.hasOwn(NEEDS, object.kind) ? NEEDS[object.kind] : undefined;
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
