import { z } from 'zod';
import { finite, objectId } from './fields';
import { groundCondition, withBand } from './kinds/groundRule';
import { MARKER_NAMES } from './kinds/marker';

/** What growth goes by: all that rules of the ground do, with the same bands and soft edges, and what stands about the place. */
export const growthCondition = z.discriminatedUnion('by', [
  ...groundCondition.options,
  /** degrees between the way the ground falls and a bearing `towards`, clockwise from north (-z); level ground has none */
  z.object({ ...withBand('side', 180), towards: finite.min(-360).max(360) }),
  /** metres in plan from the nearest block, from the nearest piece: 0 under and over it */
  z.object(withBand('block', 200)),
  z.object(withBand('piece', 200)),
  /** metres in plan from the nearest marker, or the nearest of a kind */
  z.object({ ...withBand('marker', 200), marker: z.enum(MARKER_NAMES).optional() }),
  /** metres in plan from the nearest plant of a species that takes its place earlier */
  z.object({ ...withBand('plants', 100), species: objectId }),
  /** metres in plan from the middle of the nearest doorway */
  z.object(withBand('doorway', 100)),
  /** metres inside the play bounds or what is drawn of a habitat, whichever has that id; negative outside */
  z.object({ ...withBand('outline', 100), of: objectId }),
  /** metres inside ground that the level's body can walk on, whatever grows there; negative beside it */
  z.object(withBand('walk', 100)),
  /** share of the sky that crowns of plants take which take their place earlier */
  z.object(withBand('canopy', 1)),
]);
export type GrowthCondition = z.infer<typeof growthCondition>;
export type GrowthConditionKind = GrowthCondition['by'];

/** One condition of a rule of growth. Those joined by `or` are one together: the largest of them counts; all such groups must hold. */
export const growthWhere = z.object({
  is: growthCondition,
  /** lets in what it would keep out, and the other way round */
  not: z.boolean().optional(),
  /** or the one before it: the first of a rule has none */
  or: z.boolean().optional(),
});
export type GrowthWhere = z.infer<typeof growthWhere>;
/** The most conditions of a rule. */
export const MOST_WHERE = 12;
