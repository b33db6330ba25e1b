import { z } from 'zod';
import { base, finite, lately, objectId, vec3 } from '../fields';
import { standingKind } from './kind';

export const MARKER_NAMES = ['entry', 'objective', 'threat'] as const;

export const markerObject = z.object({
  ...base,
  kind: z.literal('marker'),
  marker: z.enum(MARKER_NAMES),
  at: vec3,
  turn: finite.default(0),
  /** the body of a threat */
  body: objectId.optional(),
  ...lately,
});
export type Marker = z.infer<typeof markerObject>;

export const markerKind = standingKind({
  schema: markerObject,
  aspects: ['markers'],
  names: { body: { kind: 'body' } },
  shift: (o, by) => ({ ...o, at: by.p3(o.at) }),
  place: (o) => o.at,
});
