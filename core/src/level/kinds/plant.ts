import { z } from 'zod';
import { base, finite, lately, objectId, scale3, tilt, vec2, vec3 } from '../fields';
import { standingKind } from './kind';

/** A plant set by hand: placed, moved (`was` is where the generated one stood) or removed (`gone`, from where `at` is). */
export const plantObject = z.object({
  ...base,
  kind: z.literal('plant'),
  species: objectId,
  at: vec3,
  turn: finite.min(-360).max(360).default(0),
  /** where absent it leans as its species does */
  tilt,
  /** against the asset's own size: on every axis, or along its own x, y and z */
  scale: z.union([finite.min(0.01).max(100), scale3]).default(1),
  /** which of its species' tints, from 0; by its own chance where absent */
  tint: z.number().int().min(0).max(63).optional(),
  /** which of its species' meshes, by the id of its asset; by its own chance where absent or not the species' any more */
  asset: objectId.optional(),
  /** name of the generated plant, where its place is not known: before version 7 */
  from: z.string().max(60).optional(),
  /** x and z of where the generated plant stood that was moved */
  was: vec2.optional(),
  /** of one moved or removed: none of its species grows nearer to that place, metres; seven tenths of the spacing where absent */
  radius: finite.min(0).max(100).optional(),
  gone: z.boolean().default(false),
  ...lately,
});
export type PlantObject = z.infer<typeof plantObject>;

export const plantKind = standingKind({
  schema: plantObject,
  aspects: ['plants'],
  names: { species: { kind: 'species', needed: true } },
  shift: (o, by) => ({ ...o, at: by.p3(o.at), ...(o.was ? { was: by.p2(o.was) } : {}) }),
  place: (o) => o.at,
});
