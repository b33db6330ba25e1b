import { z } from 'zod';
import type { LevelObject } from '../objects';
import { settingsOf } from '../level';
import { noChanges, refuse, type EditKind } from './edit';

/** Removes objects. The settings and the player's body cannot be removed. */
export const removeObjectsSchema = z.object({ kind: z.literal('remove'), ids: z.array(z.string()).min(1).max(5000) });
export type RemoveObjects = z.infer<typeof removeObjectsSchema>;

export const removeObjects: EditKind<RemoveObjects> = {
  apply(level, edit) {
    const changes = noChanges();
    const removed: LevelObject[] = [];
    for (const id of edit.ids) {
      const object = level.object(id);
      if (!object || changes.objects.has(id)) return refuse('object-missing', `there is no object ${id} to remove`);
      if (object.kind === 'settings') return refuse('object-kept', `${object.name} is part of every level and cannot be removed`);
      if (object.kind === 'body' && settingsOf(level).player === id)
        return refuse('object-kept', `${object.name} is the player's body; choose another player first`);
      removed.push(object);
      changes.objects.set(id, undefined);
    }
    return { ok: true, changes, inverse: { kind: 'add', objects: removed } };
  },
  keys: (edit) => ({ reads: ['o:settings/player'], writes: edit.ids.map((id) => `o:${id}`) }),
};
