import { z } from 'zod';
import { base, objectId } from '../fields';
import { kind } from './kind';

/** A gap between the tops of two blocks that is meant to be easy, tight or impossible, and is checked for that from then on. */
export const gapObject = z.object({ ...base, kind: z.literal('gap'), from: objectId, to: objectId, want: z.enum(['easy', 'tight', 'impossible']) });
export type Gap = z.infer<typeof gapObject>;

export const gapKind = kind({
  schema: gapObject,
  aspects: ['markers'],
  names: { from: { kind: 'block' }, to: { kind: 'block' } },
});
