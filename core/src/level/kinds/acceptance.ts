import { z } from 'zod';
import { base, objectId } from '../fields';
import { kind } from './kind';

/**
 * A finding of the checks that is accepted, because ...; it lapses when the thing it is about changes.
 * `name` says what was found.
 */
export const acceptanceObject = z.object({
  ...base,
  kind: z.literal('acceptance'),
  /** code of the check */
  snag: z.string().min(1).max(60),
  /** the object it is about and that object's version then */
  object: objectId.optional(),
  objectVersion: z.number().int().min(0).optional(),
  reason: z.string().trim().min(1, 'give the reason').max(500),
});
export type Acceptance = z.infer<typeof acceptanceObject>;

export const acceptanceKind = kind({
  schema: acceptanceObject,
  aspects: ['notes'],
});
