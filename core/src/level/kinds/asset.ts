import { z } from 'zod';
import { base, COLLIDER_NAMES, finite, objectId, ROLE_NAMES, vec3 } from '../fields';
import { mendSchema } from '../mend';
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

const distance = finite.min(0).max(20_000);
/** What the level says of an asset instead of its file: every use follows. */
export const assetFacts = z.object({
  collider: z.enum(COLLIDER_NAMES).optional(),
  /** heights it really has, metres */
  real: z
    .tuple([finite.min(0.001).max(1000), finite.min(0.001).max(1000)])
    .refine(([low, high]) => low <= high, 'the lower height comes first')
    .optional(),
  tags: z.array(z.string().trim().min(1).max(40)).max(20).optional(),
  /** radius of what stops a body where it grows, metres */
  trunk: finite.min(0).max(50).optional(),
  shadows: z.boolean().optional(),
  /** its LODs take over at so many times the distance they would */
  detail: finite.min(0.1).max(10).optional(),
  /** how far it is let into what it stands on where it is placed, metres */
  sink: finite.min(-5).max(5).optional(),
  /** not drawn beyond this distance, metres; 0 is never left out */
  cutoff: distance.optional(),
  /** under which terms it is used, in words */
  licence: z.string().trim().max(200).optional(),
  /** the kit it belongs to, in words */
  kit: z.string().trim().max(60).optional(),
  /** surfaces it belongs on, by their names */
  grounds: z.array(z.string().trim().min(1).max(120)).max(16).optional(),
});
export type AssetFactsSet = z.infer<typeof assetFacts>;

const hash = z.string().regex(/^[0-9a-f]{64}$/, 'a hash is 64 hex digits');
/** The file an asset came from, as one GLB before any mend: what mends are made on again. */
const source = z.object({ hash, file: z.string().min(1).max(260), scene: z.number().int().min(0).max(1000).optional() });

/** A mesh asset the level uses, by the SHA-256 of its GLB. */
export const assetObject = z.object({
  ...base,
  kind: z.literal('asset'),
  role: z.enum(ROLE_NAMES),
  hash,
  cast: cast.optional(),
  source: source.optional(),
  mends: z.array(mendSchema).max(64).optional(),
  facts: assetFacts.optional(),
});
export type AssetObject = z.infer<typeof assetObject>;

/** The files an asset needs: its own, and the one it came from where that is kept. */
export const assetHashes = (o: Pick<AssetObject, 'hash' | 'source'>): string[] => (o.source && o.source.hash !== o.hash ? [o.hash, o.source.hash] : [o.hash]);

export const assetKind = kind({
  schema: assetObject,
  aspects: ['standing', 'plants'],
  shift: (o, by) => (o.cast ? { ...o, cast: { ...o.cast, pivot: by.p3(o.cast.pivot) } } : o),
});
