import { z } from 'zod';
import { base, finite, objectId, vec3 } from '../fields';
import { kind } from './kind';

/** A linked copy of an assembly: its blocks follow the master's. */
export const copyObject = z.object({
  ...base, kind: z.literal('copy'), assembly: objectId, at: vec3, turn: finite.min(-360).max(360).default(0), hidden: z.boolean().default(false), out: z.boolean().default(false),
});
export type CopyObject = z.infer<typeof copyObject>;

export const copyKind = kind({
  schema: copyObject,
  aspects: ['solid'],
  names: { assembly: { kind: 'assembly', needed: true } },
  shift: (o, by) => ({ ...o, at: by.p3(o.at) }),
});
