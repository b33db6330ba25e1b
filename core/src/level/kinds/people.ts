import { z } from 'zod';
import { base, finite, lately, objectId, vec3 } from '../fields';
import { standingKind } from './kind';

/** A row of figures of a body, standing, crouched, reaching up and at a jump's apex; of the player's where no body is named. */
export const peopleObject = z.object({
  ...base,
  kind: z.literal('people'),
  body: objectId.optional(),
  at: vec3,
  turn: finite.min(-360).max(360).default(0),
  ...lately,
});
export type People = z.infer<typeof peopleObject>;

export const peopleKind = standingKind({
  schema: peopleObject,
  aspects: ['notes'],
  names: { body: { kind: 'body' } },
  shift: (o, by) => ({ ...o, at: by.p3(o.at) }),
});
