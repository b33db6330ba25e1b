import { z } from 'zod';
import { parseObject, type LevelObject } from '../objects';
import { needOf } from '../references';
import { noChanges, refuse, type EditKind } from './edit';

/** Adds whole objects. Their versions are set to 1 whatever they say. */
export const addObjectsSchema = z.object({
  kind: z.literal('add'),
  objects: z
    .array(z.looseObject({ id: z.string(), kind: z.string() }))
    .min(1)
    .max(5000),
});
export type AddObjects = { kind: 'add'; objects: LevelObject[] };

export const addObjects: EditKind<AddObjects> = {
  apply(level, edit) {
    const changes = noChanges();
    for (const given of edit.objects) {
      const parsed = parseObject(given);
      if (!parsed.ok) return refuse('object-invalid', parsed.message);
      if (level.object(given.id) || changes.objects.has(given.id)) return refuse('object-exists', `there is already an object ${given.id}`);
      changes.objects.set(given.id, { ...parsed.object, version: 1 });
    }
    return { ok: true, changes, inverse: { kind: 'remove', ids: edit.objects.map((o) => o.id) } };
  },
  keys: (edit) => ({
    reads: [
      ...new Set(
        edit.objects.flatMap((o) => {
          const need = needOf(o);
          return need ? [`o:${need.id}/kind`] : [];
        }),
      ),
    ],
    writes: edit.objects.map((o) => `o:${o.id}`),
  }),
};
