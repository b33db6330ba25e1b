import { z } from 'zod';
import type { LevelReader } from '../level';
import type { AddObjects } from './addObjects';
import { mergeChanges, noChanges, refuse, type EditBody, type EditKind } from './edit';
import type { RemoveObjects } from './removeObjects';
import type { SetFields } from './setFields';
import type { Stroke } from './stroke';

/** Several edits that are one act of the person: done and undone together, or not at all. */
export interface Together {
  kind: 'together';
  parts: (AddObjects | RemoveObjects | SetFields | Stroke)[];
}

/** @param part schema of the edits it may hold; it never holds another of its own kind */
export const togetherSchema = (part: z.ZodType) => z.object({ kind: z.literal('together'), parts: z.array(part).min(1).max(50) });

/** @param kinds the other kinds by name */
export const together = (kinds: Record<Together['parts'][number]['kind'], EditKind<never>>): EditKind<Together> => ({
  apply(level, edit) {
    const changes = noChanges();
    const seen: LevelReader = {
      object: (id) => (changes.objects.has(id) ? changes.objects.get(id) : level.object(id)),
      tile: (key) => (changes.tiles.has(key) ? changes.tiles.get(key) : level.tile(key)),
      users: (id) => level.users(id),
    };
    const inverses: EditBody[] = [];
    for (const part of edit.parts) {
      const applied = kinds[part.kind].apply(seen, part as never);
      if (!applied.ok) return refuse(applied.code, applied.message);
      mergeChanges(changes, applied.changes);
      inverses.unshift(applied.inverse);
    }
    return { ok: true, changes, inverse: { kind: 'together', parts: inverses } as never };
  },
  keys(edit) {
    const all = edit.parts.map((part) => kinds[part.kind].keys(part as never));
    return { reads: [...new Set(all.flatMap((k) => k.reads))], writes: [...new Set(all.flatMap((k) => k.writes))] };
  },
});
