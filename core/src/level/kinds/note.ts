import { z } from 'zod';
import { base, vec3 } from '../fields';
import { kind } from './kind';

/** A remark pinned to a place, from any view. */
export const noteObject = z.object({ ...base, kind: z.literal('note'), text: z.string().trim().min(1, 'a note says something').max(2000), at: vec3 });
export type Note = z.infer<typeof noteObject>;

export const noteKind = kind({
  schema: noteObject,
  aspects: ['notes'],
  shift: (o, by) => ({ ...o, at: by.p3(o.at) }),
});
