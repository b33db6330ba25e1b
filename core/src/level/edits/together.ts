import { z } from 'zod';
import type { LevelReader } from '../level';
import { kindFor, mergeChanges, noChanges, refuse, type EditKind, type SingleEdit, type SingleKinds } from './edit';

/** Several edits that are one act of the person: done and undone together, or not at all. */
export interface Together {
  kind: 'together';
  parts: SingleEdit[];
}

/** @param part schema of the edits it may hold; it never holds another of its own kind */
export const togetherSchema = (part: z.ZodType) => z.object({ kind: z.literal('together'), parts: z.array(part).min(1).max(50) });

/** @param kinds the other kinds by name */
export const together = (kinds: SingleKinds): EditKind<Together, Together> => ({
  apply(level, edit) {
    const changes = noChanges();
    const seen: LevelReader = {
      object: (id) => (changes.objects.has(id) ? changes.objects.get(id) : level.object(id)),
      tile: (key) => (changes.tiles.has(key) ? changes.tiles.get(key) : level.tile(key)),
      users: (id) => level.users(id),
    };
    const inverses: SingleEdit[] = [];
    for (const part of edit.parts) {
      const applied = kindFor(kinds, part).apply(seen, part);
      if (!applied.ok) return refuse(applied.code, applied.message);
      mergeChanges(changes, applied.changes);
      inverses.unshift(applied.inverse);
    }
    return { ok: true, changes, inverse: { kind: 'together', parts: inverses } };
  },
  keys(edit) {
    const all = edit.parts.map((part) => kindFor(kinds, part).keys(part));
    return { reads: [...new Set(all.flatMap((k) => k.reads))], writes: [...new Set(all.flatMap((k) => k.writes))] };
  },
});
