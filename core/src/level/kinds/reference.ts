import { z } from 'zod';
import { base, finite, objectId, scale3, tilt, vec3 } from '../fields';
import { kind } from './kind';

/** A line drawn on a picture, pixels from its top left. */
const pictureLine = z.tuple([finite, finite, finite, finite]);

/** A reference picture: over the view at its viewpoint, beside it, or as a board in the level. */
export const referenceObject = z.object({
  ...base,
  kind: z.literal('reference'),
  /** the asset whose mesh carries the picture */
  asset: objectId,
  /** pixels */
  size: z.tuple([z.number().int().min(1).max(16_384), z.number().int().min(1).max(16_384)]),
  mode: z.enum(['overlay', 'inset', 'board']).default('overlay'),
  opacity: finite.min(0).max(1).default(0.5),
  viewpoint: objectId.optional(),
  /** degrees by which what is on it leans clockwise: it is shown turned back */
  roll: finite.min(-180).max(180).default(0),
  /** of a board: the middle of its foot, where it faces (degrees about Y) and its real height, metres */
  at: vec3.optional(),
  turn: finite.min(-360).max(360).default(0),
  tilt,
  /** of a board, along its width, its height and its thickness */
  scale: scale3.optional(),
  height: finite.min(0.05).max(1000).default(3),
  /** what was drawn on it to find its camera, kept to be drawn on */
  fit: z
    .object({
      upright: z.array(pictureLine).max(40),
      first: z.array(pictureLine).max(40),
      second: z.array(pictureLine).max(40),
      heading: finite,
      known: z.object({ line: pictureLine, along: z.enum(['upright', 'first', 'second']), metres: finite.positive(), at: vec3 }).optional(),
    })
    .optional(),
});
export type Reference = z.infer<typeof referenceObject>;

export const referenceKind = kind({
  schema: referenceObject,
  aspects: ['notes'],
  names: { asset: { kind: 'asset', needed: true }, viewpoint: { kind: 'viewpoint' } },
  shift: (o, by) => ({
    ...o,
    ...(o.at ? { at: by.p3(o.at) } : {}),
    ...(o.fit?.known ? { fit: { ...o.fit, known: { ...o.fit.known, at: by.p3(o.fit.known.at) } } } : {}),
  }),
});
