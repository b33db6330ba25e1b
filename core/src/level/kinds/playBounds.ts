import { z } from 'zod';
import { crossing } from '../../num/outline';
import { base, vec2 } from '../fields';
import { kind } from './kind';

/** The play bounds: an outline in x and z that the player is meant to stay inside. */
export const playBoundsObject = z
  .object({ ...base, kind: z.literal('playBounds'), outline: z.array(vec2).min(3, 'play bounds have at least three corners').max(200) })
  .superRefine(({ outline }, context) => {
    const found = crossing(outline);
    if (found)
      context.addIssue({
        code: 'custom',
        message: `the play bounds cross themselves: the side from corner ${found[0] + 1} meets the side from corner ${found[1] + 1}; move a corner`,
      });
  });
export type PlayBounds = z.infer<typeof playBoundsObject>;

export const playBoundsKind = kind({
  schema: playBoundsObject,
  aspects: ['markers'],
  shift: (o, by) => ({ ...o, outline: o.outline.map(by.p2) }),
});
