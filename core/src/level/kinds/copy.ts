import { z } from 'zod';
import { base, colour, coordinate, finite, objectId, quaternion, scale3, standing, tilt, vec3 } from '../fields';
import { paintSchema } from './coat';
import { standingKind } from './kind';

/** Ids that lead to a member: its own, or of a member of a copy that is a member itself those of both, joined by ~. */
export const memberPath = z
  .string()
  .max(400)
  .regex(/^[A-Za-z0-9_-]{1,64}(~[A-Za-z0-9_-]{1,64})*$/, 'a member is named by its id, or by ids joined by ~');

/**
 * How a member of a copy differs from its master. What it states is laid on the master as that is now, so that it
 * stays through edits of the master; what it does not state follows the master.
 */
export const overrideSchema = z.object({
  member: memberPath,
  hidden: z.boolean().optional(),
  out: z.boolean().optional(),
  /** metres along the assembly's axes */
  move: z.tuple([coordinate, coordinate, coordinate]).optional(),
  /** degrees about Y, added to the master's */
  turn: finite.min(-360).max(360).optional(),
  /** a rotation between the master's own tilt and its turn */
  tilt: quaternion.optional(),
  /** times the master's, along its own axes */
  scale: scale3.optional(),
  /** id of the asset, species or assembly that is there instead */
  swap: objectId.optional(),
  /** of a piece */
  tint: colour.optional(),
  /** of coats, painted on a piece */
  paint: paintSchema.optional(),
});
export type Override = z.infer<typeof overrideSchema>;

/** A linked copy of an assembly: its members follow the master's, each with what is overridden here. */
export const copyObject = z
  .object({
    ...base,
    kind: z.literal('copy'),
    assembly: objectId,
    at: vec3,
    turn: finite.min(-360).max(360).default(0),
    tilt,
    scale: scale3.optional(),
    ...standing,
    overrides: z.array(overrideSchema).max(5000).optional(),
  })
  .superRefine(({ overrides = [] }, context) => {
    const seen = new Set<string>();
    for (const { member } of overrides) {
      if (seen.has(member)) context.addIssue({ code: 'custom', path: ['overrides'], message: `the member ${member} is overridden twice: put both into one` });
      seen.add(member);
    }
  });
export type CopyObject = z.infer<typeof copyObject>;

export const copyKind = standingKind({
  schema: copyObject,
  aspects: ['solid', 'standing', 'plants', 'markers'],
  names: { assembly: { kind: 'assembly', needed: true } },
  shift: (o, by) => ({ ...o, at: by.p3(o.at) }),
});
