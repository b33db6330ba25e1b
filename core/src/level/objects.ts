import { z } from 'zod';
import { bodyFigures } from '../body/bodies';
import { crossing } from '../num/outline';
import { blockObject } from './blockObject';
import { isSound, unsoundFault, unsoundPath } from './text';
import { band, base, colour, coordinate, finite, name, objectId, vec2, vec3 } from './fields';
import { liftObject } from './lifts';
import { groundRuleObject, surfaceObject } from './surfaces';

export * from './blockObject';
export * from './lifts';
export * from './surfaces';
export { objectId, vec3 };

/**
 * The objects a level is made of. Each is a row of its own with an id and a version that counts
 * its changes. Everything is metres and degrees, Y up; the origin is the level's north-west corner
 * at height 0, x runs east, z runs south.
 */
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
  /** the lighting the level is seen in; `sun` counts only while there is none */
  lighting: objectId.optional(),
  /** direction to the sun: degrees clockwise from north, degrees above the horizon */
  sun: z.object({ azimuth: finite.min(0).max(360), elevation: finite.min(2).max(90) }).default({ azimuth: 215, elevation: 38 }),
});

export const bodyObject = z.object({ ...base, kind: z.literal('body'), figures: bodyFigures });

export const markerObject = z.object({
  ...base,
  kind: z.literal('marker'),
  marker: z.enum(['entry', 'objective', 'threat']),
  at: vec3,
  turn: finite.default(0),
  /** the body of a threat */
  body: objectId.optional(),
});

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

/** A part of a kit, placed. */
export const pieceObject = z.object({
  ...base,
  kind: z.literal('piece'),
  asset: objectId,
  /** the pivot */
  at: vec3,
  turn: finite.min(-360).max(360),
  /** how far it is let into its host, metres; dropping keeps it */
  sink: finite.min(-5).max(5).default(0),
  /** what stops a body; `asset` leaves it to the asset */
  collider: z.enum(['asset', 'none', 'box', 'mesh']).default('asset'),
  /** against the asset's own size, along its own x, y and z; its own where absent */
  scale: z.tuple([finite.min(0.01).max(100), finite.min(0.01).max(100), finite.min(0.01).max(100)]).optional(),
  /** ids of the blocks it stands for, taken out of the level when it was swapped in */
  standsFor: z.array(objectId).max(2000).optional(),
  hidden: z.boolean().default(false),
  out: z.boolean().default(false),
});

/**
 * A plant and how it grows. Where its rule is on, the density is multiplied by the rule's masks; what
 * is sown or erased by hand (the raster `sown`) is added to that.
 */
export const speciesObject = z.object({
  ...base,
  kind: z.literal('species'),
  asset: objectId,
  /** earlier ones take their place first */
  order: z.number().int(),
  /** plants per 100 m2 of plan area */
  density: finite.min(0).max(2000),
  /** no two of this species nearer, metres */
  spacing: finite.min(0.1).max(100),
  /** no other species' plant nearer, metres; of two the larger counts */
  clearance: finite.min(0).max(50),
  /** height, metres */
  height: z.tuple([finite.min(0.02).max(100), finite.min(0.02).max(100)]).refine(([low, high]) => low <= high, 'the lower height comes first'),
  /** width against the asset's own shape: 0.8 is a fifth slimmer */
  slenderness: z.tuple([finite.min(0.2).max(5), finite.min(0.2).max(5)]).refine(([low, high]) => low <= high, 'the slimmer end comes first'),
  /** greatest lean, degrees */
  lean: finite.min(0).max(45),
  tints: z.array(colour).min(1).max(6),
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
  }),
  /** not drawn beyond this distance, metres; 0 is never left out */
  cutoff: finite.min(0).max(20_000).default(0),
  shadows: z.boolean().default(true),
  hidden: z.boolean().default(false),
  out: z.boolean().default(false),
});

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

/** Sun, fill, sky, haze and grade as one named setting. */
export const lightingObject = z.object({
  ...base,
  kind: z.literal('lighting'),
  /** direction to the sun; below the horizon it is night, see light/sunAt */
  sun: z.object({ azimuth: finite.min(0).max(360), elevation: finite.min(-90).max(90) }),
  /** the moment `sun` was set by, where it was: degrees north, day of the year, solar hours */
  when: z.object({ latitude: finite.min(-90).max(90), day: z.number().int().min(1).max(366), hour: finite.min(0).max(24) }).optional(),
  /** strength of the sun and of the light from the sky, 1 as by day */
  sunlight: finite.min(0).max(3),
  fill: finite.min(0).max(3),
  /** colour overhead */
  sky: colour,
  /** colour at the horizon and of the haze */
  horizon: colour,
  /** metres at which half of what is seen is haze; 0 none */
  haze: finite.min(0).max(20_000),
  /** stops */
  exposure: finite.min(-4).max(4),
  contrast: finite.min(0.5).max(2),
  saturation: finite.min(0).max(2),
});

/** Water: a pool that fills its basin from a seed, a sea that comes in from the level's edge, a stream along a route, or a plain rectangle. */
export const waterObject = z.object({
  ...base,
  kind: z.literal('water'),
  form: z.enum(['plane', 'pool', 'sea', 'stream']).default('plane'),
  /** of its surface, metres; of a stream its depth over the middle of its bed */
  height: coordinate,
  /** of a stream: the route whose way is its bed */
  route: objectId.optional(),
  /** of a pool: the place it is filled from, x and z */
  seed: vec2.optional(),
  /** of a plane: its rectangle */
  x0: coordinate.optional(), z0: coordinate.optional(), x1: coordinate.optional(), z1: coordinate.optional(),
  /** nobody may enter it, however shallow */
  closed: z.boolean().optional(),
  /** colour where it is deep, metres one sees into it, share of foam at its shore and of small waves */
  look: z.object({ colour, clarity: finite.min(0.1).max(100), foam: finite.min(0).max(1), waves: finite.min(0).max(1) }).optional(),
  hidden: z.boolean().default(false),
  out: z.boolean().default(false),
}).superRefine((water, context) => {
  const has = [water.x0, water.z0, water.x1, water.z1].every((v) => v !== undefined);
  const fault = water.form === 'pool' && !water.seed ? 'a pool has a seed, the place it is filled from' : water.form === 'plane' && !has ? 'a plane of water has a rectangle: x0, z0, x1 and z1' : water.form === 'stream' && !water.route ? 'a stream has a route, the way it runs along' : water.form === 'stream' && !(water.height > 0 && water.height <= 50) ? 'a stream is more than 0 and at most 50 m deep' : undefined;
  if (fault) context.addIssue({ code: 'custom', message: fault });
});

/** Where the view stands. Degrees; pitch positive looks up. */
export const poseSchema = z.object({
  view: z.enum(['plan', 'orbit', 'stand']),
  /** orbit and plan: the point looked at; stand: the feet */
  target: vec3,
  yaw: finite,
  pitch: finite.min(-90).max(90),
  /** orbit: metres from the target; plan: metres from top to bottom of the view */
  distance: finite.positive().max(20_000),
  /** vertical field of view, degrees; the view's own where absent. Not in Plan */
  fov: finite.min(5, 'a lens sees at least 5 degrees').max(140, 'a lens sees at most 140 degrees').optional(),
});
export type Pose = z.infer<typeof poseSchema>;

export const viewpointObject = z.object({ ...base, kind: z.literal('viewpoint'), pose: poseSchema });

/** A remark pinned to a place, from any view. */
export const noteObject = z.object({ ...base, kind: z.literal('note'), text: z.string().trim().min(1, 'a note says something').max(2000), at: vec3 });

/** A measured line between two points. */
export const measureObject = z.object({ ...base, kind: z.literal('measure'), from: vec3, to: vec3 });

/** A gap between the tops of two blocks that is meant to be easy, tight or impossible, and is checked for that from then on. */
export const gapObject = z.object({ ...base, kind: z.literal('gap'), from: objectId, to: objectId, want: z.enum(['easy', 'tight', 'impossible']) });

/** A group that is the master of copies, and the point of the level that is theirs where they stand. */
export const assemblyObject = z.object({ ...base, kind: z.literal('assembly'), group: name, pivot: vec3 });

/** A linked copy of an assembly: its blocks follow the master's. */
export const copyObject = z.object({
  ...base, kind: z.literal('copy'), assembly: objectId, at: vec3, turn: finite.min(-360).max(360).default(0), hidden: z.boolean().default(false), out: z.boolean().default(false),
});


/** A line along which the level is cut, kept by its name: x and z of its ends. */
export const sectionObject = z.object({ ...base, kind: z.literal('section'), from: vec2, to: vec2 })
  .refine(({ from, to }) => (from[0] - to[0]) ** 2 + (from[1] - to[1]) ** 2 >= 1, 'a section line is at least 1 m long');

/** The play bounds: an outline in x and z that the player is meant to stay inside. */
export const playBoundsObject = z.object({ ...base, kind: z.literal('playBounds'), outline: z.array(vec2).min(3, 'play bounds have at least three corners').max(200) })
  .superRefine(({ outline }, context) => {
    const found = crossing(outline);
    if (found) context.addIssue({ code: 'custom', message: `the play bounds cross themselves: the side from corner ${found[0] + 1} meets the side from corner ${found[1] + 1}; move a corner` });
  });

/** A line drawn on a picture, pixels from its top left. */
const pictureLine = z.tuple([finite, finite, finite, finite]);

/** A reference picture: over the view at its viewpoint, beside it, or as a board in the level. */
export const referenceObject = z.object({
  ...base,
  kind: z.literal('reference'),
  /** the asset whose mesh carries the picture */
  asset: objectId,
  /** pixels */
  size: z.tuple([z.number().int().min(1).max(16_384), z.number().int().min(1).max(16_384)]),
  mode: z.enum(['overlay', 'inset', 'board']).default('overlay'),
  opacity: finite.min(0).max(1).default(0.5),
  viewpoint: objectId.optional(),
  /** degrees by which what is on it leans clockwise: it is shown turned back */
  roll: finite.min(-180).max(180).default(0),
  /** of a board: the middle of its foot, where it faces (degrees about Y) and its real height, metres */
  at: vec3.optional(),
  turn: finite.min(-360).max(360).default(0),
  height: finite.min(0.05).max(1000).default(3),
  /** what was drawn on it to find its camera, kept to be drawn on */
  fit: z.object({
    upright: z.array(pictureLine).max(40), first: z.array(pictureLine).max(40), second: z.array(pictureLine).max(40),
    heading: finite, known: z.object({ line: pictureLine, along: z.enum(['upright', 'first', 'second']), metres: finite.positive(), at: vec3 }).optional(),
  }).optional(),
});

/** A row of figures of a body, standing, crouched, reaching up and at a jump's apex; of the player's where no body is named. */
export const peopleObject = z.object({ ...base, kind: z.literal('people'), body: objectId.optional(), at: vec3, turn: finite.min(-360).max(360).default(0) });

/**
 * A finding of the checks that is accepted, because ...; it lapses when the thing it is about changes.
 * `name` says what was found.
 */
export const acceptanceObject = z.object({
  ...base,
  kind: z.literal('acceptance'),
  /** code of the check */
  snag: z.string().min(1).max(60),
  /** the object it is about and that object's version then */
  object: objectId.optional(),
  objectVersion: z.number().int().min(0).optional(),
  reason: z.string().trim().min(1, 'give the reason').max(500),
});

export const levelObject = z.union([settingsObject, bodyObject, blockObject, liftObject, markerObject, viewpointObject, noteObject, acceptanceObject,
  surfaceObject, groundRuleObject, assetObject, pieceObject, speciesObject, plantObject, lightingObject, waterObject, measureObject, gapObject, peopleObject, referenceObject, sectionObject, playBoundsObject, assemblyObject, copyObject]);

export type LevelObject = z.infer<typeof levelObject>;
export type Settings = z.infer<typeof settingsObject>;
export type BodyObject = z.infer<typeof bodyObject>;
export type Marker = z.infer<typeof markerObject>;
export type Viewpoint = z.infer<typeof viewpointObject>;
export type Note = z.infer<typeof noteObject>;
export type Acceptance = z.infer<typeof acceptanceObject>;
export type AssetObject = z.infer<typeof assetObject>;
export type Piece = z.infer<typeof pieceObject>;
export type Species = z.infer<typeof speciesObject>;
export type PlantObject = z.infer<typeof plantObject>;
export type Lighting = z.infer<typeof lightingObject>;
export type Water = z.infer<typeof waterObject>;
export type Measure = z.infer<typeof measureObject>;
export type Gap = z.infer<typeof gapObject>;
export type People = z.infer<typeof peopleObject>;
export type Reference = z.infer<typeof referenceObject>;
export type SectionLine = z.infer<typeof sectionObject>;
export type PlayBounds = z.infer<typeof playBoundsObject>;
export type Assembly = z.infer<typeof assemblyObject>;
export type CopyObject = z.infer<typeof copyObject>;
export type ObjectKind = LevelObject['kind'];

const byKind = { settings: settingsObject, body: bodyObject, block: blockObject, lift: liftObject, marker: markerObject, viewpoint: viewpointObject, note: noteObject, acceptance: acceptanceObject,
  surface: surfaceObject, groundRule: groundRuleObject, asset: assetObject, piece: pieceObject, species: speciesObject, plant: plantObject, lighting: lightingObject, water: waterObject, measure: measureObject, gap: gapObject, people: peopleObject, reference: referenceObject, section: sectionObject, playBounds: playBoundsObject, assembly: assemblyObject, copy: copyObject };

/** Validates one object by its own kind, so that the message names the field and not the union. */
export function parseObject(value: unknown): { ok: true; object: LevelObject } | { ok: false; message: string } {
  const kind = (value as { kind?: unknown } | null)?.kind;
  const schema = typeof kind === 'string' && Object.hasOwn(byKind, kind) ? byKind[kind as ObjectKind] : undefined;
  if (!schema) return { ok: false, message: `unknown kind of object: ${JSON.stringify(kind) ?? 'none'}` };
  const id = (value as { id?: unknown }).id;
  const unsound = unsoundPath(value);
  if (unsound) return { ok: false, message: `${kind} ${typeof id === 'string' && isSound(id) ? id : '?'}: ${unsoundFault(unsound)}` };
  const result = schema.safeParse(value);
  if (result.success) return { ok: true, object: result.data };
  const issue = result.error.issues[0];
  return { ok: false, message: `${kind} ${typeof id === 'string' ? id : '?'}: ${issue.path.join('.') || 'value'}: ${issue.message}` };
}
