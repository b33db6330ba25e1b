import { z } from 'zod';
import { base, finite, objectId, vec3 } from '../fields';
import { kind } from './kind';

/** How a mesh was cast from blocks, so that it can be cast again: everything placed from it follows. */
const cast = z.object({
  blocks: z.array(objectId).min(1).max(2000),
  /** the point of the level that is the asset's origin */
  pivot: vec3,
  /** degrees by which the asset's axes are turned in the level */
  turn: finite.min(-360).max(360).default(0),
  collider: z.enum(['none', 'box', 'mesh']),
  /** pixels a metre of its texture coordinates, and the side of the texture in pixels */
  texel: finite.min(1, 'a texel density is at least 1 pixel a metre').max(16_384),
  picture: z.number().int().min(16).max(16_384),
});

/** A mesh asset the level uses, by the SHA-256 of its GLB. */
export const assetObject = z.object({
  ...base,
  kind: z.literal('asset'),
  role: z.enum(['piece', 'plant', 'reference']),
  hash: z.string().regex(/^[0-9a-f]{64}$/, 'a hash is 64 hex digits'),
  cast: cast.optional(),
});
export type AssetObject = z.infer<typeof assetObject>;

export const assetKind = kind({
  schema: assetObject,
  aspects: ['standing', 'plants'],
  shift: (o, by) => (o.cast ? { ...o, cast: { ...o.cast, pivot: by.p3(o.cast.pivot) } } : o),
});
