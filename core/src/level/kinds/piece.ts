import { z } from 'zod';
import { base, COLLIDER_NAMES, colour, finite, objectId, scale3, standing, tilt, vec3 } from '../fields';
import { paintSchema } from './coat';
import { standingKind } from './kind';

const shift = finite.min(-1).max(1).default(0);

const steep = finite.min(-4).max(4);

/** The longest bent length, metres. */
const MOST_BENT = 1000;
/** Whether a bend may draw a mesh out so far, as a share of its length: as far as a scale may. */
export const drawnOut = (by: number): boolean => by >= 0.01 && by <= 100;

/** How a mesh is bent along its own x: a cubic in plan and in height from the direction of its start to that of its end. */
export const bendSchema = z
  .object({
    /** where the length starts, in the mesh's own axes, metres: the place that stays */
    at: vec3,
    /** of the straight mesh along x, metres */
    length: finite.min(1e-3).max(MOST_BENT),
    /** to where it ends, along the piece's x, metres */
    run: finite.min(1e-3).max(MOST_BENT),
    /** and up, metres */
    rise: finite.min(-MOST_BENT).max(MOST_BENT).default(0),
    /** metres to the side (its own z) a metre along x at either end: the tangent of the angle */
    side: z.tuple([steep, steep]),
    /** the same upwards */
    slope: z.tuple([steep, steep]).default([0, 0]),
  })
  .refine(({ run, length }) => drawnOut(run / length), {
    message: 'draws its mesh out to less than a hundredth or more than a hundred times its length',
    path: ['run'],
  });
export type Bend = z.infer<typeof bendSchema>;

/** A part of a kit, placed. */
export const pieceObject = z.object({
  ...base,
  kind: z.literal('piece'),
  asset: objectId,
  /** the pivot */
  at: vec3,
  turn: finite.min(-360).max(360),
  tilt,
  /** how far it is let into its host, metres; dropping keeps it */
  sink: finite.min(-5).max(5).default(0),
  /** what stops a body; `asset` leaves it to the asset */
  collider: z.enum(['asset', ...COLLIDER_NAMES]).default('asset'),
  /** against the asset's own size, along its own x, y and z; its own where absent */
  scale: scale3.optional(),
  /** what its own colours are multiplied by */
  tint: colour.optional(),
  /** how its materials differ from those it shares with others, each from -1 to 1: 0 is as they are. Of materials of its own alone */
  shade: z.object({ saturation: shift, contrast: shift, roughness: shift }).optional(),
  /** a mesh that follows a curve; straight where absent */
  bend: bendSchema.optional(),
  /** of coats, painted on it */
  paint: paintSchema.optional(),
  /** ids of the blocks it stands for, taken out of the level when it was swapped in */
  standsFor: z.array(objectId).max(2000).optional(),
  ...standing,
});
export type Piece = z.infer<typeof pieceObject>;

export const pieceKind = standingKind({
  schema: pieceObject,
  aspects: ['standing'],
  names: { asset: { kind: 'asset', needed: true } },
  shift: (o, by) => ({ ...o, at: by.p3(o.at) }),
  place: (o) => o.at,
});
