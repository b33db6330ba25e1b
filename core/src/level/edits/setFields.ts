import { z } from 'zod';
import { parseObject } from '../objects';
import { NEEDED_FIELDS } from '../references';
import { noChanges, refuse, type EditKind } from './edit';

/** Sets fields of existing objects; `null` takes an optional field away. */
export const setFieldsSchema = z.object({
  kind: z.literal('set'),
  patches: z
    .array(z.object({ id: z.string(), set: z.record(z.string(), z.unknown()) }))
    .min(1)
    .max(5000),
});
export type SetFields = z.infer<typeof setFieldsSchema>;

const FIXED_FIELDS = ['id', 'kind', 'version', 'lift', '__proto__'];

export const setFields: EditKind<SetFields> = {
  apply(level, edit) {
    const changes = noChanges();
    const inverse: SetFields['patches'] = [];
    for (const { id, set } of edit.patches) {
      const before = level.object(id);
      if (!before) return refuse('object-missing', `there is no object ${id} to change`);
      if (changes.objects.has(id)) return refuse('edit-invalid', `object ${id} is changed twice in one edit`);
      const fields = Object.keys(set);
      const fixed = fields.find((f) => FIXED_FIELDS.includes(f));
      if (fixed) return refuse('field-fixed', `${fixed} of ${id} cannot be changed`);
      const wanted: Record<string, unknown> = { ...before, ...set, version: before.version + 1 };
      for (const f of fields) if (wanted[f] === null) delete wanted[f];
      const parsed = parseObject(wanted);
      if (!parsed.ok) return refuse('object-invalid', parsed.message);
      const unknown = fields.find((f) => set[f] !== null && !Object.hasOwn(parsed.object, f));
      if (unknown) return refuse('field-unknown', `${before.kind} has no field ${unknown}`);
      changes.objects.set(id, parsed.object);
      const old = before as unknown as Record<string, unknown>;
      inverse.push({ id, set: Object.fromEntries(fields.map((f) => [f, old[f] ?? null])) });
    }
    return { ok: true, changes, inverse: { kind: 'set', patches: inverse } };
  },
  keys: (edit) => ({
    reads: [...new Set(edit.patches.flatMap(({ set }) => NEEDED_FIELDS.flatMap((f) => (typeof set[f] === 'string' ? [`o:${set[f]}/kind`] : []))))],
    writes: edit.patches.flatMap(({ id, set }) => Object.keys(set).map((f) => `o:${id}/${f}`)),
  }),
};
