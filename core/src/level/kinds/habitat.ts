import { z } from 'zod';
import { crossing } from '../../num/outline';
import { base, finite, name, objectId, vec2 } from '../fields';
import { growthWhere, MOST_WHERE } from '../growthCondition';
import { HABITAT_CHANNELS } from '../tiles';
import { kind } from './kind';

/** The most rules of a habitat, species of a mix, and kinds that stand about the plants of a rule. */
export const MOST_RULES = 16;
export const MOST_MIX = 12;
export const MOST_CHILDREN = 6;

const where = z.array(growthWhere).max(MOST_WHERE, `a rule has at most ${MOST_WHERE} conditions`).optional();

/** What stands about the plants of a rule, in clusters. */
export const habitatChild = z.object({
  species: objectId,
  /** about those of one species alone: of the mix, or of a child before it; about all of the mix where absent */
  about: objectId.optional(),
  /** share of these that have any */
  chance: finite.min(0).max(1),
  /** how many each of them has, before its own ground says no to some */
  count: z.tuple([z.number().int().min(0).max(24), z.number().int().min(0).max(24)]).refine(([low, high]) => low <= high, 'the fewer come first'),
  /** metres from it at most */
  spread: finite.min(0.05).max(100),
  /** its height against what its species has */
  size: finite.min(0.1).max(10).default(1),
});
export type HabitatChild = z.infer<typeof habitatChild>;

/** One rule of a habitat: a mix of species at one density, on ground where each of them grows and the conditions hold. */
export const habitatRule = z.object({
  id: objectId,
  name,
  on: z.boolean().default(true),
  /** by weight */
  mix: z
    .array(z.object({ species: objectId, weight: finite.min(0.01).max(100).default(1) }))
    .min(1, 'a rule has one species at least')
    .max(MOST_MIX),
  /** plants of all of them per 100 m2 of plan area */
  density: finite.min(0).max(2000),
  where,
  children: z.array(habitatChild).max(MOST_CHILDREN).optional(),
});
export type HabitatRule = z.infer<typeof habitatRule>;

const outline = z
  .array(vec2)
  .min(3, 'an outline has at least three corners')
  .max(200)
  .refine((o) => !crossing(o), 'the outline crosses itself: move a corner');

/** An ordered set of growth rules and where they hold. Earlier rules take their place first; earlier habitats take the ground. */
export const habitatObject = z
  .object({
    ...base,
    kind: z.literal('habitat'),
    order: z.number().int(),
    /** it takes what earlier ones leave of the level, or what is drawn and painted of it */
    area: z.enum(['rest', 'drawn']),
    outlines: z.array(outline).max(32).default([]),
    /** width of the border over which it fades into what lies beside it, half of it on either side, metres */
    soft: finite.min(0).max(200).default(4),
    /** what must hold for ground to be of it */
    where,
    rules: z.array(habitatRule).max(MOST_RULES, `a habitat has at most ${MOST_RULES} rules`).default([]),
    on: z.boolean().default(true),
  })
  .superRefine(({ where: asked, rules }, context) => {
    if (asked?.some((w) => w.is.by === 'plants' || w.is.by === 'canopy'))
      context.addIssue({ code: 'custom', path: ['where'], message: 'where a habitat lies does not go by plants: they grow by it' });
    const seen = new Set<string>();
    rules.forEach((r, i) => {
      if (seen.has(r.id)) context.addIssue({ code: 'custom', path: ['rules', i, 'id'], message: `two rules are called ${r.id}` });
      seen.add(r.id);
      const mixed = new Set<string>();
      for (const { species } of r.mix) {
        if (mixed.has(species)) context.addIssue({ code: 'custom', path: ['rules', i, 'mix'], message: `${species} is twice in a mix: give it one weight` });
        mixed.add(species);
      }
      const before = new Set(r.mix.map((m) => m.species));
      r.children?.forEach(({ species, about }, k) => {
        if (about !== undefined && !before.has(about))
          context.addIssue({
            code: 'custom',
            path: ['rules', i, 'children', k, 'about'],
            message: `it stands about ${about}, which is neither in the mix nor a child before it`,
          });
        before.add(species);
      });
    });
  });
export type Habitat = z.infer<typeof habitatObject>;

export const habitatKind = kind({
  schema: habitatObject,
  aspects: ['plants'],
  shift: (o, by) => ({ ...o, outlines: o.outlines.map((corners) => corners.map(by.p2)) }),
  channels: () => HABITAT_CHANNELS,
});
