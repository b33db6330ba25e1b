import { z } from 'zod';
import { base, vec3 } from '../fields';
import { kind } from './kind';

/** A measured line between two points. */
export const measureObject = z.object({ ...base, kind: z.literal('measure'), from: vec3, to: vec3 });
export type Measure = z.infer<typeof measureObject>;

export const measureKind = kind({
  schema: measureObject,
  aspects: ['notes'],
  shift: (o, by) => ({ ...o, from: by.p3(o.from), to: by.p3(o.to) }),
});
