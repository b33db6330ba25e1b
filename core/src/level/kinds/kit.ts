import { z } from 'zod';
import { base, finite, name, objectId, vec3 } from '../fields';
import { kind } from './kind';

/** What a part of a kit is laid as. `post` stands where two parts meet; `filler` takes a length that no whole part does. */
export const PART_USES = [
  'wall',
  'door',
  'window',
  'corner',
  'inner corner',
  'end',
  'post',
  'filler',
  'foundation',
  'floor',
  'stair',
  'roof',
  'ridge',
  'gable',
  'other',
] as const;

const joinKind = z.string().trim().min(1).max(40);

/** Where a part meets another, in its own axes: a place, the way out of the part, and what may stand there. */
export const joinSchema = z.object({
  /** metres */
  at: vec3,
  /** degrees about Y: which way is out of the part; 0 is its own x */
  turn: finite.min(-360).max(360),
  kind: joinKind,
  /** metres across */
  width: finite.min(0).max(1000),
  /** kinds of joins that may meet it; its own kind where absent */
  fits: z.array(joinKind).max(16).optional(),
});

/** A mesh as a part of a kit: what it is laid as, how often, and where it joins. */
export const partSchema = z.object({
  asset: objectId,
  use: z.enum(PART_USES),
  /** against the others of the same use */
  weight: finite.min(0).max(1000).default(1),
  /** lowest and highest corner of the mesh about its pivot, metres: what is laid depends on the document alone */
  box: z.tuple([vec3, vec3]),
  joins: z.array(joinSchema).max(16).default([]),
});

/** Parts that join: what a line is filled with. */
export const kitObject = z.object({
  ...base,
  kind: z.literal('kit'),
  /** side of its grid in plan, metres */
  pitch: finite.min(0.05).max(100),
  /** from floor to floor, metres */
  storey: finite.min(0.1).max(100),
  /** how far a part may be drawn out or pressed together to take up what is left of a line, as shares of its length */
  stretch: z.tuple([finite.min(0.2).max(1), finite.min(1).max(5)]).default([0.8, 1.25]),
  parts: z.array(partSchema).max(200),
  /** where it came from, and under which terms */
  note: name.optional(),
});
export type Join = z.infer<typeof joinSchema>;
export type Part = z.infer<typeof partSchema>;
export type PartUse = Part['use'];
export type Kit = z.infer<typeof kitObject>;

export const kitKind = kind({ schema: kitObject, aspects: ['standing'] });
