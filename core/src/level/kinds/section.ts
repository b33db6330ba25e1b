import { z } from 'zod';
import { base, vec2 } from '../fields';
import { kind } from './kind';

/** A line along which the level is cut, kept by its name: x and z of its ends. */
export const sectionObject = z
  .object({ ...base, kind: z.literal('section'), from: vec2, to: vec2 })
  .refine(({ from, to }) => (from[0] - to[0]) ** 2 + (from[1] - to[1]) ** 2 >= 1, 'a section line is at least 1 m long');
export type SectionLine = z.infer<typeof sectionObject>;

export const sectionKind = kind({
  schema: sectionObject,
  aspects: ['notes'],
  shift: (o, by) => ({ ...o, from: by.p2(o.from), to: by.p2(o.to) }),
});
