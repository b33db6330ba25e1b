import { z } from 'zod';
import { fromBase64, inflateExactly } from '../../num/fixed';
import { band, base, colour, coordinate, finite, objectId, vec3 } from '../fields';
import { kind } from './kind';

/** How many coats a level has at most: their paint is one picture of four channels. */
export const MOST_COATS = 4;

const by = <K extends string>(kind: K, widest: number) => ({ by: z.literal(kind), band, soft: finite.min(0).max(widest) });

/** What a coat goes by at a place of a side: a value, the band it covers and how softly that ends, as rules of the ground have them. */
export const coatCondition = z.discriminatedUnion('by', [
  /** degrees between the way the side looks and straight up: 0 lies open to the sky, 180 is an underside */
  z.object(by('facing', 90)),
  /** degrees between the way the side looks and a bearing, clockwise from north */
  z.object({ ...by('side', 90), towards: finite.min(0).max(360) }),
  /** metres above the ground under it */
  z.object(by('foot', 50)),
  /** metres above the level's zero */
  z.object(by('height', 500)),
  /** how much of the sky's light comes in there: 1 in the open, less the farther in under a roof */
  z.object(by('sky', 1)),
  /** how sharply the mesh bends there: 1 on a right edge, 0 on what is flat, -1 in a right corner that goes in */
  z.object(by('bend', 2)),
  /** patches, 0 to 1; `scale` is the size of one, metres */
  z.object({ ...by('noise', 1), seed: z.number().int().min(0).max(2_147_483_647), scale: finite.min(0.05).max(1000) }),
]);
export type CoatCondition = z.infer<typeof coatCondition>;
export type CoatConditionKind = CoatCondition['by'];

const unit = finite.min(0).max(1);

/** What lies on pieces over their own materials: moss, dirt, snow, wear. By rule on the sides its conditions let it on, and where it is painted on a piece. */
export const coatObject = z
  .object({
    ...base,
    kind: z.literal('coat'),
    /** laid over each other from the lowest up; the first four are used */
    order: z.number().int(),
    colour,
    /** it is of the colour of the ground under it instead, so that a foot passes into its ground */
    ground: z.boolean().optional(),
    /** surface whose texture it wears, times its colour */
    surface: objectId.optional(),
    /** how far its colour varies, 0 to 1 */
    varied: unit.default(0.3),
    roughness: unit.default(0.9),
    metalness: unit.default(0),
    /** how far it levels the relief under it */
    levels: unit.default(0.5),
    /** how much of it where its conditions hold; 0 lies only where it is painted */
    share: unit.default(1),
    /** all of them must hold; everywhere where there is none */
    where: z.array(coatCondition).max(7).default([]),
    /** ids of the assets it lies on by rule; every piece where absent. Paint lies on any */
    assets: z.array(objectId).max(2000).optional(),
    /** else neither its rule nor its paint lies anywhere */
    on: z.boolean().default(true),
  })
  .superRefine(({ where }, context) => {
    const seen = new Set<string>();
    where.forEach((c, i) => {
      if (seen.has(c.by)) context.addIssue({ code: 'custom', path: ['where', i], message: `two conditions go by ${c.by}: put both into one band` });
      seen.add(c.by);
    });
  });
export type Coat = z.infer<typeof coatObject>;

export const coatKind = kind({ schema: coatObject, aspects: ['coats'], names: { surface: { kind: 'surface' } } });

/** Most points of the grid that the paint of a piece lies on. */
export const MOST_PAINT = 8192;
const side = z.number().int().min(2).max(128);

/**
 * Paint of coats on a piece: how much more or less of each than its rule lays, at the points of a grid about its mesh, in its
 * own axes and size. `cells` of a coat is a byte a point, x fastest, then y, then z, packed by raw DEFLATE (RFC 1951) and base64: 128
 * changes nothing, 255 is all of it, 1 is none.
 */
export const paintSchema = z
  .object({
    /** the first point, metres */
    min: vec3,
    /** from point to point, metres */
    cell: coordinate.min(0.001),
    size: z.tuple([side, side, side]),
    coats: z
      .array(z.object({ coat: objectId, cells: z.string().max(24_000) }))
      .min(1)
      .max(MOST_COATS),
  })
  .superRefine(({ size, coats }, context) => {
    const points = size[0] * size[1] * size[2];
    if (points > MOST_PAINT) {
      context.addIssue({ code: 'custom', path: ['size'], message: `paint of ${points} points; ${MOST_PAINT} are the most` });
      return;
    }
    const seen = new Set<string>();
    coats.forEach(({ coat, cells }, i) => {
      if (seen.has(coat)) context.addIssue({ code: 'custom', path: ['coats', i], message: `two paints of the coat ${coat}: put both into one` });
      seen.add(coat);
      try {
        inflateExactly(fromBase64(cells), points);
      } catch {
        context.addIssue({ code: 'custom', path: ['coats', i, 'cells'], message: `the paint of ${coat} does not unpack to its ${points} points, a byte each` });
      }
    });
  });
export type Paint = z.infer<typeof paintSchema>;
