import { z } from 'zod';
import { base, colour, finite, objectId } from '../fields';
import { SURFACE_CHANNELS } from '../tiles';
import { kind } from './kind';

/** What the ground can be made of, and the rules that say where. What a rule goes by is in `surface/rules`, one file a kind. */

/** How many surfaces a level has at most. */
export const MOST_SURFACES = 16;

export const TEXTURES = ['turf', 'slate', 'gravel', 'moss', 'scree', 'mud', 'heath', 'setts'] as const;
export type TextureName = (typeof TEXTURES)[number];

/** What a foot meets, for the game: sound, dust and tracks go by it. */
export const SURFACE_KINDS = ['earth', 'growth', 'stone', 'loose', 'wet', 'wood', 'metal'] as const;

/** How a texture is laid over wide ground: as it is, with itself at a larger scale, or cut up and shifted. */
export const LAYINGS = ['plain', 'two scales', 'scattered'] as const;

/** Pixels a side that a texture can have in the game. */
export const PIXELS = [256, 512, 1024, 2048, 4096] as const;

/** What ground can be made of: a tiling texture with its real size. */
export const surfaceObject = z.object({
  ...base,
  kind: z.literal('surface'),
  /** place in the list; the first covers what no rule covers, the first sixteen are used */
  order: z.number().int(),
  texture: z.enum(TEXTURES),
  /** asset whose picture it wears instead of its texture */
  picture: objectId.optional(),
  /** side of one tile of the texture, metres */
  tile: finite.min(0.25).max(64),
  tint: colour.default('#ffffff'),
  /** another texture in the hollows of this one: up to which of its heights (0 to 1), over which softness */
  hollows: z.object({ texture: z.enum(TEXTURES), level: finite.min(0).max(1), soft: finite.min(0).max(1) }).optional(),
  /** `plain` where absent */
  laying: z.enum(LAYINGS).optional(),
  /** pixels a side of its texture in the game; 2048 where absent */
  pixels: z.literal(PIXELS).optional(),
  /** `earth` where absent */
  feel: z.enum(SURFACE_KINDS).optional(),
  /** friction under a foot, 1 as on dry turf; 1 where absent */
  grip: finite.min(0).max(2).optional(),
});
export type Surface = z.infer<typeof surfaceObject>;

export const surfaceKind = kind({
  schema: surfaceObject,
  aspects: ['surface'],
  names: { picture: { kind: 'asset' } },
  channels: () => SURFACE_CHANNELS,
});
