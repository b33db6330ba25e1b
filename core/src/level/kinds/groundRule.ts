import { z } from 'zod';
import { band, base, finite, objectId } from '../fields';
import { kind } from './kind';

/** Fields of a condition that lets in a band of values. @param widest its soft edge at most, in its own unit */
export const withBand = <K extends string>(kind: K, widest: number) => ({ by: z.literal(kind), band, soft: finite.min(0).max(widest) });

/**
 * What a rule goes by: a value at each sample, the band of values it covers, and the width of the edge
 * over which it fades, half of it on either side of an end of the band.
 */
export const groundCondition = z.discriminatedUnion('by', [
  /** degrees; from 0 and to 90 are no ends */
  z.object(withBand('slope', 60)),
  /** metres above the level's zero */
  z.object(withBand('height', 500)),
  /** metres above the surface of the nearest water, negative below it */
  z.object(withBand('water', 200)),
  /** metres from the nearest shore, negative in the water */
  z.object(withBand('shore', 500)),
  /** metres by which the ground lies below the mean of what is `over` metres around it, negative on crests */
  z.object({ ...withBand('curvature', 50), over: finite.min(0.25).max(200) }),
  /** 0 to 1 */
  z.object({ ...withBand('noise', 1), seed: z.number().int().min(0).max(2_147_483_647), scale: finite.min(0.5).max(5000) }),
  /** metres that weathering took or laid down, and the share of its water that ran there */
  z.object(withBand('scour', 50)),
  z.object(withBand('settle', 50)),
  z.object(withBand('runoff', 1)),
  /** metres beside the way of the nearest route, or of one, negative on it */
  z.object({ ...withBand('route', 100), route: objectId.optional() }),
  /** metres by which a lift raises the ground, negative where it lowers it */
  z.object({ ...withBand('lift', 50), lift: objectId }),
]);
export type GroundCondition = z.infer<typeof groundCondition>;
export type ConditionKind = GroundCondition['by'];

/** Where a rule lies beside the ground; what it goes by there is the top's own height and slope. */
export const RULE_LIES = ['tops', 'both'] as const;

/** One rule of the ground. Rules are laid over each other from the lowest order up; then routes, then paint, then rules that win. */
export const groundRuleObject = z.object({
  ...base,
  kind: z.literal('groundRule'),
  order: z.number().int(),
  surface: objectId,
  /** how much of it where it holds */
  share: finite.min(0).max(1).default(1),
  /** all of them must hold; everywhere where there is none */
  where: z.array(groundCondition).max(8, 'a rule has at most eight conditions').default([]),
  /** on tops of blocks and pieces, or there and on the ground; on the ground alone where absent */
  lies: z.enum(RULE_LIES).optional(),
  /** laid over paint as well */
  wins: z.boolean().default(false),
  on: z.boolean().default(true),
});
export type GroundRule = z.infer<typeof groundRuleObject>;

export const groundRuleKind = kind({
  schema: groundRuleObject,
  aspects: ['surface'],
  names: { surface: { kind: 'surface' } },
});
