import { z } from 'zod';
import { base, finite, objectId, vec2, vec3 } from '../fields';
import { kind } from './kind';

/** A plant set by hand: placed, moved (`was` is where the generated one stood) or removed (`gone`, from where `at` is). */
export const plantObject = z.object({
  ...base,
  kind: z.literal('plant'),
  species: objectId,
  at: vec3,
  turn: finite.min(-360).max(360).default(0),
  /** against the asset's own size */
  scale: finite.min(0.01).max(100).default(1),
  /** name of the generated plant, where its place is not known: before version 7 */
  from: z.string().max(60).optional(),
  /** x and z of where the generated plant stood that was moved */
  was: vec2.optional(),
  /** of one moved or removed: none of its species grows nearer to that place, metres; seven tenths of the spacing where absent */
  radius: finite.min(0).max(100).optional(),
  gone: z.boolean().default(false),
});
export type PlantObject = z.infer<typeof plantObject>;

export const plantKind = kind({
  schema: plantObject,
  aspects: ['plants'],
  names: { species: { kind: 'species', needed: true } },
  shift: (o, by) => ({ ...o, at: by.p3(o.at), ...(o.was ? { was: by.p2(o.was) } : {}) }),
  place: (o) => o.at,
});
