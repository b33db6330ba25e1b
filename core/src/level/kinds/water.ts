import { z } from 'zod';
import { base, colour, coordinate, finite, objectId, vec2 } from '../fields';
import { kind } from './kind';

/** Water: a pool that fills its basin from a seed, a sea that comes in from the level's edge, a stream along a route, or a plain rectangle. */
export const waterObject = z
  .object({
    ...base,
    kind: z.literal('water'),
    form: z.enum(['plane', 'pool', 'sea', 'stream']).default('plane'),
    /** of its surface, metres; of a stream its depth over the middle of its bed */
    height: coordinate,
    /** of a stream: the route whose way is its bed */
    route: objectId.optional(),
    /** of a pool: the place it is filled from, x and z */
    seed: vec2.optional(),
    /** of a plane: its rectangle */
    x0: coordinate.optional(),
    z0: coordinate.optional(),
    x1: coordinate.optional(),
    z1: coordinate.optional(),
    /** nobody may enter it, however shallow */
    closed: z.boolean().optional(),
    /** colour where it is deep, metres one sees into it, share of foam at its shore and of small waves */
    look: z.object({ colour, clarity: finite.min(0.1).max(100), foam: finite.min(0).max(1), waves: finite.min(0).max(1) }).optional(),
    hidden: z.boolean().default(false),
    out: z.boolean().default(false),
  })
  .superRefine((water, context) => {
    const has = [water.x0, water.z0, water.x1, water.z1].every((v) => v !== undefined);
    const fault =
      water.form === 'pool' && !water.seed
        ? 'a pool has a seed, the place it is filled from'
        : water.form === 'plane' && !has
          ? 'a plane of water has a rectangle: x0, z0, x1 and z1'
          : water.form === 'stream' && !water.route
            ? 'a stream has a route, the way it runs along'
            : water.form === 'stream' && !(water.height > 0 && water.height <= 50)
              ? 'a stream is more than 0 and at most 50 m deep'
              : undefined;
    if (fault) context.addIssue({ code: 'custom', message: fault });
  });
export type Water = z.infer<typeof waterObject>;

export const waterKind = kind({
  schema: waterObject,
  aspects: ['water'],
  names: { route: { kind: 'lift' } },
  shift: (o, by) => ({
    ...o,
    ...(o.seed ? { seed: by.p2(o.seed) } : {}),
    ...(o.x0 === undefined ? {} : { x0: o.x0 + by.dx, x1: o.x1! + by.dx, z0: o.z0! + by.dz, z1: o.z1! + by.dz }),
  }),
});
