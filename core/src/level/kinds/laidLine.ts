import { z } from 'zod';
import { base, coordinate, finite, objectId, standing, vec3 } from '../fields';
import { overrideSchema } from './copy';
import { standingKind } from './kind';

/** How what is laid follows the ground: at one height, by steps, or along it. */
export const SLOPES = ['level', 'step', 'lean'] as const;
/** What becomes of a length that whole parts do not fill. */
export const REMAINDERS = ['leave', 'stretch', 'filler', 'corner'] as const;

const number = z.number().int().min(0).max(100_000);

export const laidCorner = z.object({
  /** its number in the line, which it keeps: what is laid after it is named by it */
  n: number,
  /** in the line's own axes, metres */
  at: vec3,
  /** heights of what it stands on along the stretch to the next corner, both ends too, at equal distances, as `at` has them; straight where absent */
  ground: z.array(coordinate).min(2).max(4000).optional(),
  /** of a line that is dressed: the same at either border of what is dressed, see `aside`, as many as in `ground` */
  beside: z.tuple([z.array(coordinate).min(2).max(4000), z.array(coordinate).min(2).max(4000)]).optional(),
});

const weight = finite.min(0).max(1000).default(1);
const range = (low: number, high: number) =>
  z
    .tuple([finite.min(low).max(high), finite.min(low).max(high)])
    .refine(([a, b]) => a <= b, { message: 'the lowest is over the highest: the lower one comes first' });

/** What stands along a line, and how each may differ: pieces and plants that hide a seam, a row, a ring. */
export const lineDressing = z.object({
  pieces: z
    .array(z.object({ asset: objectId, weight }))
    .max(100)
    .default([]),
  /** `scale` is what a plant's own size is multiplied by, so that 1 in `size` is its usual height */
  plants: z
    .array(z.object({ species: objectId, weight, scale: finite.min(0.01).max(100).default(1) }))
    .max(100)
    .default([]),
  /** metres from one to the next, about: a stretch takes a whole number of them */
  spacing: finite.min(0.05).max(1000),
  /** how far off its even place each stands, as a share of half the spacing */
  loose: finite.min(0).max(1).default(0),
  /** metres aside, between these: to the right of the way the line goes above 0 */
  aside: range(-100, 100).default([0, 0]),
  /** degrees from the way the line goes */
  turn: range(-360, 360).default([0, 0]),
  /** against its own size */
  size: range(0.01, 100).default([1, 1]),
  uneven: finite.min(0).max(0.95).default(0),
  /** metres into what it stands on */
  sink: range(-5, 5).default([0, 0]),
  /** from upright (0) to standing out of the ground (1) */
  lean: finite.min(0).max(1).default(0),
  tilt: finite.min(0).max(90).default(0),
  /** on its head one time in so many; 0 never */
  flip: z.number().int().min(0).max(1000).default(0),
});

const opening = z.enum(['door', 'window']);

/** A line or an outline filled with a kit's parts, or dressed with pieces and plants. The line is what is edited; what stands along it is laid anew from it. */
export const laidLineObject = z
  .object({
    ...base,
    kind: z.literal('laidLine'),
    /** what it is filled with; a line that is dressed has none */
    kit: objectId.optional(),
    /** what stands along it, where it has no kit */
    dress: lineDressing.optional(),
    at: vec3,
    turn: finite.min(-360).max(360).default(0),
    corners: z.array(laidCorner).min(2).max(1000),
    /** leads from the last corner back to the first */
    closed: z.boolean().optional(),
    /** bends smoothly through its corners */
    curved: z.boolean().optional(),
    /** its parts are bent to follow it, in plan and where it leans in height; straight lengths where absent. Of a line with a kit */
    bent: z.boolean().optional(),
    /** looks to the other side than the right hand, or than out of the outline */
    turned: z.boolean().optional(),
    slope: z.enum(SLOPES).default('level'),
    remainder: z.enum(REMAINDERS).default('stretch'),
    storeys: z.number().int().min(0).max(40).default(1),
    /** openings at a place: so many metres along the stretch from a corner */
    openings: z
      .array(z.object({ corner: number, along: finite.min(0).max(100_000), storey: z.number().int().min(0).max(40).default(0), use: opening }))
      .max(2000)
      .optional(),
    /** openings again and again: each so many parts of every stretch, the first at `first` */
    regular: z
      .array(
        z.object({
          use: opening,
          each: z.number().int().min(1).max(100),
          first: z.number().int().min(0).max(100),
          storey: z.number().int().min(0).max(40).optional(),
        }),
      )
      .max(20)
      .optional(),
    /** posts stand so far apart, metres; where parts meet where absent */
    spacing: finite.min(0.1).max(1000).optional(),
    floors: z.boolean().optional(),
    stairs: z.boolean().optional(),
    roof: z.boolean().optional(),
    seed: z.number().int().min(0).max(2_147_483_647).default(1),
    /** what was changed by hand on a piece that is laid */
    overrides: z.array(overrideSchema).max(5000).optional(),
    ...standing,
  })
  .superRefine(({ kit, dress, corners, overrides = [] }, context) => {
    if (kit !== undefined && dress !== undefined)
      context.addIssue({
        code: 'custom',
        path: ['dress'],
        message: 'a laid line has either a kit it is filled with, or what it is dressed with: take one of them away',
      });
    corners.forEach(({ ground, beside }, i) => {
      if (beside?.some((list) => list.length !== ground?.length))
        context.addIssue({
          code: 'custom',
          path: ['corners', i, 'beside'],
          message: 'heights beside a stretch are as many as those under it: give each as many',
        });
    });
    const numbers = new Set(corners.map((c) => c.n));
    if (numbers.size < corners.length)
      context.addIssue({ code: 'custom', path: ['corners'], message: 'two corners have the same number n: give each its own' });
    const seen = new Set<string>();
    for (const { member } of overrides) {
      if (seen.has(member)) context.addIssue({ code: 'custom', path: ['overrides'], message: `the piece ${member} is overridden twice: put both into one` });
      seen.add(member);
    }
  });
export type LaidLine = z.infer<typeof laidLineObject>;
export type LineDressing = z.infer<typeof lineDressing>;
export type LaidCorner = z.infer<typeof laidCorner>;
export type LaidOpening = NonNullable<LaidLine['openings']>[number];

export const laidLineKind = standingKind({
  schema: laidLineObject,
  aspects: ['standing', 'plants'],
  names: { kit: { kind: 'kit', needed: true } },
  shift: (o, by) => ({ ...o, at: by.p3(o.at) }),
  place: (o) => o.at,
});
