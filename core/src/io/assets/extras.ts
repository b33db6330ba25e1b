import { z } from 'zod';
import { COLLIDER_NAMES, ROLE_NAMES } from '../../level/fields';

const distance = z.number().min(0).max(20_000);

/** What Rammer knows of a mesh asset, in the `extras.rammer` of its scene; see docs/format.md. */
export const extrasSchema = z.object({
  role: z.enum(ROLE_NAMES).default('piece'),
  collider: z.enum(COLLIDER_NAMES).default('mesh'),
  real: z.tuple([z.number().positive(), z.number().positive()]).optional(),
  tags: z.array(z.string().max(40)).max(20).default([]),
  trunk: z.number().min(0).max(50).default(0),
  /** its materials are drawn as they are; left out, those of a kit that Rammer made */
  authored: z.boolean().optional(),
  /** of each LOD but the finest, how far it lies from the finest at most, metres */
  errors: z.array(distance).max(8).optional(),
  /** where it came from and under which terms, in words */
  licence: z.string().max(200).optional(),
  /** the last LOD is a node `distant` of pictures from eight sides, those of directions and depth in the texture `distant normals` */
  distant: z
    .object({
      half: z.number().positive(),
      low: z.number(),
      high: z.number(),
      columns: z.number().int().min(1).max(8),
      rows: z.number().int().min(1).max(8),
      between: z.array(z.number().min(-1).max(1)).length(8),
    })
    .optional(),
  /** the kit it belongs to, and the surfaces it belongs on */
  kit: z.string().max(60).optional(),
  grounds: z.array(z.string().max(120)).max(16).optional(),
});
export type AssetExtras = z.infer<typeof extrasSchema>;
