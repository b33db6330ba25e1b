import { z } from 'zod';
import { band, base, colour, finite, objectId } from '../fields';
import { SPECIES_CHANNELS } from '../tiles';
import { growthWhere, MOST_WHERE } from '../growthCondition';
import { kind } from './kind';

/** What a species grows as; settings to start from go by it, and how it is told. */
export const GROWS_AS = ['tree', 'shrub', 'grass', 'flower', 'scatter', 'litter'] as const;
/** How a plant stops a body: not at all, at its trunk where its mesh has one, or by what stops one at its mesh. */
export const PLANT_STOPS = ['none', 'trunk', 'shape'] as const;
/** The most meshes of one species: which of them a plant has is four bits of a byte. */
export const MOST_MESHES = 8;
/** The most species that one is said to go with. */
export const MOST_WITH = 8;
export type GrowsAs = (typeof GROWS_AS)[number];

/**
 * A plant and how it grows. Where its rule is on, the density is multiplied by the rule's masks; what
 * is sown or erased by hand (the raster `sown`) is added to that.
 */
export const speciesObject = z.object({
  ...base,
  kind: z.literal('species'),
  asset: objectId,
  /** how often it has that mesh, against those of `meshes`; 1 where absent */
  weight: finite.min(0.01).max(100).optional(),
  /** other meshes it has by weight, each as tall as the species is; one whose asset is gone is left out */
  meshes: z
    .array(z.object({ asset: objectId, weight: finite.min(0.01).max(100).default(1) }))
    .max(MOST_MESHES - 1, `a species has at most ${MOST_MESHES} meshes`)
    .optional(),
  /** earlier ones take their place first */
  order: z.number().int(),
  as: z.enum(GROWS_AS).optional(),
  /** plants per 100 m2 of plan area */
  density: finite.min(0).max(2000),
  /** share of all its densities and chances that is left, in habitats too: to thin it out; all where absent */
  amount: finite.min(0).max(1).optional(),
  /** never more of it on 100 m2, however much is sown; no end where absent */
  ceiling: finite.min(0).max(8000).optional(),
  /** no two of this species nearer, metres */
  spacing: finite.min(0.1).max(100),
  /** no other species' plant nearer, metres; of two the larger counts */
  clearance: finite.min(0).max(50),
  /** height, metres */
  height: z.tuple([finite.min(0.02).max(100), finite.min(0.02).max(100)]).refine(([low, high]) => low <= high, 'the lower height comes first'),
  /** width against the asset's own shape: 0.8 is a fifth slimmer */
  slenderness: z.tuple([finite.min(0.2).max(5), finite.min(0.2).max(5)]).refine(([low, high]) => low <= high, 'the slimmer end comes first'),
  /** how deep it is against its width, along its own z: a stone is longer one way than the other; as wide where absent */
  depth: z
    .tuple([finite.min(0.2).max(5), finite.min(0.2).max(5)])
    .refine(([low, high]) => low <= high, 'the thinner end comes first')
    .optional(),
  /** greatest lean, degrees */
  lean: finite.min(0).max(45),
  /** share of the ground's slope it leans by as well: 0 (where absent) stands upright, 1 lies flat on it */
  leanToSlope: finite.min(0).max(1).optional(),
  /** how far it is sunk into what it stands on, metres; set by hand it stands where it was set */
  sink: finite.min(0).max(20).optional(),
  tints: z.array(colour).min(1).max(6),
  /** plants of one tint stand together in patches about so wide, metres; each has its own by chance where absent */
  patch: finite.min(0.5).max(1000).optional(),
  seed: z.number().int().min(0).max(2_147_483_647),
  rule: z.object({
    on: z.boolean(),
    /** degrees */
    slope: band,
    /** metres above the level's zero */
    height: band,
    /** width of the soft edge: degrees of slope; metres of height are a quarter of it */
    soft: finite.min(0).max(40),
    /** surfaces it grows on; none means any */
    grounds: z.array(objectId).max(16),
    /** what must hold besides; nothing more where absent */
    where: z.array(growthWhere).max(MOST_WHERE, `a rule has at most ${MOST_WHERE} conditions`).optional(),
  }),
  /** grows about the plants of a species that takes its place earlier, and not by its density: in clusters */
  about: z
    .object({
      species: objectId,
      /** share of these that have any */
      chance: finite.min(0).max(1),
      /** how many each of them has, before its rule says no to some */
      count: z.tuple([z.number().int().min(0).max(24), z.number().int().min(0).max(24)]).refine(([low, high]) => low <= high, 'the fewer come first'),
      /** metres from it at most */
      spread: finite.min(0.05).max(100),
    })
    .optional(),
  /** not drawn beyond this distance, metres; 0 is never left out */
  cutoff: finite.min(0).max(20_000).default(0),
  /** its LODs take over at so many times the distance they would: under 1 nearer, with fewer triangles; 1 where absent */
  swap: finite.min(0.25).max(4).optional(),
  shadows: z.boolean().default(true),
  /** throws them only as near to the eye as this, metres; as far as shadows go where absent */
  shadowsTo: finite.min(1).max(1000).optional(),
  /** how it stops a body; at its trunk where absent */
  stops: z.enum(PLANT_STOPS).optional(),
  /** how much it goes with the wind against others: 0 stands still, 1 where absent */
  sway: finite.min(0).max(3).optional(),
  /** share of the ground's colour that its foot takes on; none where absent */
  roots: finite.min(0).max(1).optional(),
  /** species that usually stand with it: they are offered when it is picked; those that are gone are passed over */
  with: z.array(objectId).max(MOST_WITH, `a species goes with at most ${MOST_WITH} others`).optional(),
  hidden: z.boolean().default(false),
  out: z.boolean().default(false),
});
export type Species = z.infer<typeof speciesObject>;

export const speciesKind = kind({
  schema: speciesObject,
  aspects: ['plants'],
  names: { asset: { kind: 'asset', needed: true } },
  channels: () => SPECIES_CHANNELS,
});
