import { z } from 'zod';
import { base, finite, objectId, vec3 } from '../fields';
import { kind } from './kind';

export const markerObject = z.object({
  ...base,
  kind: z.literal('marker'),
  marker: z.enum(['entry', 'objective', 'threat']),
  at: vec3,
  turn: finite.default(0),
  /** the body of a threat */
  body: objectId.optional(),
});
export type Marker = z.infer<typeof markerObject>;

export const markerKind = kind({
  schema: markerObject,
  aspects: ['markers'],
  names: { body: { kind: 'body' } },
  shift: (o, by) => ({ ...o, at: by.p3(o.at) }),
  place: (o) => o.at,
});
