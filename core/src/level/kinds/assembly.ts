import { z } from 'zod';
import { base, name, vec3 } from '../fields';
import { kind } from './kind';

/** A group that is the master of copies, and the point of the level that is theirs where they stand. */
export const assemblyObject = z.object({ ...base, kind: z.literal('assembly'), group: name, pivot: vec3 });
export type Assembly = z.infer<typeof assemblyObject>;

export const assemblyKind = kind({
  schema: assemblyObject,
  aspects: ['solid', 'standing', 'plants', 'markers'],
  shift: (o, by) => ({ ...o, pivot: by.p3(o.pivot) }),
});
