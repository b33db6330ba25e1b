import { z } from 'zod';
import { base, finite, name, objectId, vec2 } from '../fields';
import { kind } from './kind';

export const GRID_SPACINGS = [0.25, 0.5, 1, 2] as const;
const tileCount = z.number().int().min(2).max(64);

export const settingsObject = z.object({
  ...base,
  id: z.literal('settings'),
  kind: z.literal('settings'),
  tilesX: tileCount,
  tilesZ: tileCount,
  spacing: z.union([z.literal(0.25), z.literal(0.5), z.literal(1), z.literal(2)]),
  /** where noise and patterns of plants count from: metres east and south of it lies the north-west corner; [0, 0] where absent */
  origin: vec2.optional(),
  /** id of the player's body */
  player: objectId,
  device: z.enum(['pocket-30', 'den-60', 'visor-72']).default('den-60'),
  /** groups whose members count for no walk area and stop nobody who walks: what is loose and moved aside */
  walkedThrough: z.array(name).max(500).optional(),
  /** the most plants of all species on 100 m2; no end where absent */
  plantCeiling: z.number().int().min(0).max(20_000).optional(),
  /** the lighting the level is seen in; `sun` counts only while there is none */
  lighting: objectId.optional(),
  /** direction to the sun: degrees clockwise from north, degrees above the horizon */
  sun: z.object({ azimuth: finite.min(0).max(360), elevation: finite.min(2).max(90) }).default({ azimuth: 215, elevation: 38 }),
});
export type Settings = z.infer<typeof settingsObject>;

export const settingsKind = kind({
  schema: settingsObject,
  aspects: ['markers'],
  names: { player: { kind: 'body', needed: true }, lighting: { kind: 'lighting' } },
});
