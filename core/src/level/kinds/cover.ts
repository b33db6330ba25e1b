import { z } from 'zod';
import { base, finite, objectId } from '../fields';
import { kind } from './kind';

/**
 * Ground cover: a species that follows a surface, so many on 100 m2 where the ground is all of it. It is made round the eye and
 * never stored; several on one surface are a mix.
 */
export const coverObject = z.object({
  ...base,
  kind: z.literal('cover'),
  order: z.number().int(),
  surface: objectId,
  species: objectId,
  /** plants per 100 m2 of plan area */
  density: finite.min(0).max(4000),
  on: z.boolean().default(true),
});
export type Cover = z.infer<typeof coverObject>;

export const coverKind = kind({
  schema: coverObject,
  aspects: ['cover'],
  names: { surface: { kind: 'surface' }, species: { kind: 'species' } },
});
