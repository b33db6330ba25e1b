import { z } from 'zod';
import type { Level, LevelReader } from '../level';
import { addObjects, addObjectsSchema } from './addObjects';
import type { Applied, Changes, SingleEdit, SingleKinds } from './edit';
import { kindFor, mergeChanges, refuse } from './edit';
import { removeObjects, removeObjectsSchema } from './removeObjects';
import { setFields, setFieldsSchema } from './setFields';
import { stroke, strokeSchema } from './stroke';
import { brokenNeed } from '../references';
import { soundText, unsoundFault, unsoundPath } from '../text';
import { upgradeEdit } from '../upgrade';
import { together, togetherSchema, type Together } from './together';

/** Version of the edit format; an edit of another version is refused by name. */
export const EDIT_VERSION = 1;

export type AnyEditBody = SingleEdit | Together;

const SINGLE: SingleKinds = { add: addObjects, remove: removeObjects, set: setFields, stroke };
const TOGETHER = together(SINGLE);
const keysOf = (edit: AnyEditBody) => (edit.kind === 'together' ? TOGETHER.keys(edit) : kindFor(SINGLE, edit).keys(edit));

const MOST_LABEL = 200;

const envelope = {
  id: z.uuid('an edit has a uuid'),
  version: z.number().int(),
  /** what the person did, in words: shown beside undo */
  label: z.string().max(MOST_LABEL),
  reads: z.array(z.string().max(200)).max(40_000),
  writes: z.array(z.string().max(200)).max(40_000),
};

export const editSchema = z.discriminatedUnion('kind', [
  addObjectsSchema.extend(envelope),
  removeObjectsSchema.extend(envelope),
  setFieldsSchema.extend(envelope),
  strokeSchema.extend(envelope),
  togetherSchema(z.discriminatedUnion('kind', [addObjectsSchema, removeObjectsSchema, setFieldsSchema, strokeSchema])).extend(envelope),
]);

export type Edit = AnyEditBody & { id: string; version: number; label: string; reads: string[]; writes: string[] };

/** Makes an edit of a body: fills in its keys and the format's version. A label that is too long is cut. */
export function makeEdit(body: AnyEditBody, id: string, label: string): Edit {
  const { reads, writes } = keysOf(body);
  return { ...body, id, version: EDIT_VERSION, label: soundText(label, MOST_LABEL), reads, writes };
}

/**
 * Validates the form of an edit that came from outside. Its keys may stand in any order, the order of fields
 * means nothing, and reads it does not state are filled in: writers of before they were known still save.
 */
export function parseEdit(value: unknown): { ok: true; edit: Edit } | { ok: false; code: string; message: string } {
  const version = (value as { version?: unknown } | null)?.version;
  if (typeof version === 'number' && version > EDIT_VERSION)
    return refuse('edit-future', `this edit has version ${version}; this Rammer knows up to ${EDIT_VERSION}. Update Rammer.`);
  const unsound = unsoundPath(value);
  if (unsound) return refuse('edit-text', unsoundFault(unsound));
  const parsed = editSchema.safeParse(upgradeEdit(value));
  if (!parsed.success) {
    const issue = parsed.error.issues[0];
    return refuse('edit-invalid', `${issue.path.join('.') || 'edit'}: ${issue.message}`);
  }
  const edit = parsed.data as unknown as Edit;
  const { reads, writes } = keysOf(edit);
  const known = new Set(reads);
  if (!sameKeys(writes, edit.writes) || edit.reads.some((k) => !known.has(k)))
    return refuse('edit-keys', 'the keys an edit states do not match what it touches');
  return { ok: true, edit: { ...edit, reads, writes } };
}

const sameKeys = (a: string[], b: string[]): boolean => {
  const [of, given] = [new Set(a), new Set(b)];
  return of.size === given.size && b.every((k) => of.has(k));
};

/** Applies an edit to a level without changing it. What would leave an object without what it needs is refused. */
export function applyEdit(level: LevelReader, edit: AnyEditBody): Applied<AnyEditBody> {
  const applied: Applied<AnyEditBody> = edit.kind === 'together' ? TOGETHER.apply(level, edit) : kindFor(SINGLE, edit).apply(level, edit);
  if (!applied.ok || applied.changes.objects.size === 0) return applied;
  const broken = brokenNeed(level, applied.changes.objects);
  return broken ? refuse(broken.code, broken.message) : applied;
}

/** Puts the result of `applyEdit` into a level in memory and counts its version up. */
export function commitChanges(level: Level, changes: Changes): void {
  for (const [id, object] of changes.objects) {
    if (object) level.objects.set(id, object);
    else level.objects.delete(id);
  }
  for (const [key, tile] of changes.tiles) {
    if (tile) level.tiles.set(key, tile);
    else level.tiles.delete(key);
  }
  level.version += 1;
}

/** Whether two edits can be swapped: neither writes what the other reads or writes. */
export function disjoint(a: Pick<Edit, 'reads' | 'writes'>, b: Pick<Edit, 'reads' | 'writes'>): boolean {
  const touches = (writes: string[], keys: string[]) => {
    const whole = new Set(writes);
    const parents = new Set(writes.map((w) => w.split('/')[0]));
    return keys.some((k) => whole.has(k) || (k.startsWith('o:') && (whole.has(k.split('/')[0]) || (!k.includes('/') && parents.has(k)))));
  };
  return !touches(a.writes, [...b.reads, ...b.writes]) && !touches(b.writes, a.reads);
}

export { mergeChanges };
export type { Applied, Changes };
