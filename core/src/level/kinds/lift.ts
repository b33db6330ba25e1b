import { z } from 'zod';
import { crossing, type Point2 } from '../../num/outline';
import { band, base, finite, objectId, vec2, vec3 } from '../fields';
import { HAND_CHANNELS, SURVEY_CHANNELS, WEATHER_CHANNELS } from '../tiles';
import { kind, type Shift } from './kind';

/**
 * Lifts: the passes of earth whose stack is the terrain. What each does to the ground is in
 * `earth/lifts`, one file a kind.
 */
export const LIFT_KINDS = ['noise', 'survey', 'landform', 'weather', 'hand', 'route', 'pad'] as const;
export type LiftKindName = (typeof LIFT_KINDS)[number];

/**
 * How a lift joins what lies below it: its height added to it, the higher of the two, the lower of the
 * two, or its own instead.
 */
export const BLENDS = ['add', 'max', 'min', 'replace'] as const;
export type Blend = (typeof BLENDS)[number];

const outline = z
  .array(vec2)
  .min(3, 'an outline has at least three corners')
  .max(200, 'an outline has at most 200 corners')
  .superRefine((line, context) => {
    const fault = outlineFault(line);
    if (fault) context.addIssue({ code: 'custom', message: fault });
  });

/** Why an outline bounds nothing, in words for the person. */
export function outlineFault(line: readonly Point2[]): string | undefined {
  const found = crossing(line);
  return found && `the outline crosses itself: the side from corner ${found[0] + 1} meets the side from corner ${found[1] + 1}; move a corner`;
}

/** Where a lift counts, judged by the ground below it; each with an edge `soft` wide over which it fades. */
export const liftMask = z.object({
  /** inside the outline; soft in metres */
  outline: z.object({ line: outline, soft: finite.min(0).max(500) }).optional(),
  /** between two slopes, degrees; soft in degrees */
  slope: z.object({ band, soft: finite.min(0).max(60) }).optional(),
  /** between two heights, metres; soft in metres */
  height: z.object({ band, soft: finite.min(0).max(500) }).optional(),
  /** where weathering below it took or laid down so many metres, or so much of its water ran */
  weathering: z.object({ mark: z.enum(['scour', 'settle', 'runoff']), band, soft: finite.min(0).max(50) }).optional(),
  /** where a surface is painted, by how far: what rules lay is not asked, it follows from the heights */
  painted: objectId.optional(),
});
export type LiftMask = z.infer<typeof liftMask>;

const lift = {
  ...base,
  kind: z.literal('lift'),
  /** place in the stack, lowest first */
  order: z.number().int(),
  visible: z.boolean().default(true),
  /** kept from hands: it is not changed, moved or removed until it is unlocked */
  locked: z.boolean().optional(),
  /** share of the whole it counts for; 1 where absent */
  weight: finite.min(0).max(1).optional(),
  /** the kind's own way where absent: noise and landforms add, the others replace */
  blend: z.enum(BLENDS).optional(),
  mask: liftMask.optional(),
};
const seed = z.number().int().min(0).max(2_147_483_647);

const noiseLift = z.object({
  ...lift,
  lift: z.literal('noise'),
  seed,
  /** half the range of heights, metres */
  height: finite.min(0).max(500),
  /** wavelength of the largest forms, metres */
  scale: finite.min(2).max(5000),
  octaves: z.number().int().min(1).max(8).default(5),
  /** plain hills, sharp crests or round bumps; fractal where absent */
  style: z.enum(['fractal', 'ridged', 'billow']).optional(),
  /** how far places are pushed about before the noise is read, metres; 0 where absent */
  warp: finite.min(0).max(1000).optional(),
  /** its zero where it does not add, metres; 0 where absent */
  base: finite.min(-1000).max(3000).optional(),
});

const handLift = z.object({ ...lift, lift: z.literal('hand') });

const landformLift = z
  .object({
    ...lift,
    lift: z.literal('landform'),
    /** corners of its foot; a single point with a radius is round */
    line: z.array(vec2).min(1).max(200, 'an outline has at most 200 corners'),
    /** of a round one, metres */
    radius: finite.min(0.5).max(4096).default(10),
    /** crest over foot, metres; a cut goes down by as much */
    height: finite.min(0).max(500),
    cut: z.boolean().default(false),
    /** level distance from the foot to the crest, metres */
    foot: finite.min(0.05, 'a batter needs at least 0.05 m').max(2000),
    /** beyond the crest: level, rising on to the middle, or sinking to it */
    crown: z.enum(['flat', 'domed', 'dished']).default('flat'),
    /** how far the foot wanders in and out, metres */
    ragged: finite.min(0).max(100).default(0),
    seed: seed.default(1),
    /** height of its foot where it does not add, metres; 0 where absent */
    base: finite.min(-1000).max(3000).optional(),
  })
  .superRefine(({ line }, context) => {
    const fault = line.length === 2 ? 'a landform has one point or at least three corners' : line.length > 2 ? outlineFault(line) : undefined;
    if (fault) context.addIssue({ code: 'custom', message: fault });
  });

const batter = finite.min(5, 'a batter stands at 5 degrees at least').max(85, 'a batter stands at 85 degrees at most');

const routeLift = z
  .object({
    ...lift,
    lift: z.literal('route'),
    /** points of the middle line with the heights wanted there */
    line: z.array(vec3).min(2, 'a route has at least two points').max(200, 'a route has at most 200 points'),
    /** level way, metres */
    width: finite.min(0.3, 'a route is at least 0.3 m wide').max(60),
    /** on each side, metres, falling gently outwards */
    shoulder: finite.min(0).max(30).default(0.5),
    /** steepest it goes, metres up on 100 m */
    grade: finite.min(0).max(100).default(12),
    /** metres down to the right on 100 m; negative to the left */
    crossfall: finite.min(-20).max(20).default(0),
    /** metres that the way lies below its line: the bed of a stream */
    sunk: finite.min(0).max(50).optional(),
    /** of the earth it cuts or heaps beside it, degrees */
    batter: batter.default(40),
    /** surface it carries */
    ground: objectId.optional(),
  })
  .superRefine(({ line }, context) => {
    for (let i = 1; i < line.length; i++) {
      if ((line[i][0] - line[i - 1][0]) ** 2 + (line[i][2] - line[i - 1][2]) ** 2 < 0.01)
        context.addIssue({ code: 'custom', message: `points ${i} and ${i + 1} of the route lie on each other` });
    }
  });

const padLift = z.object({
  ...lift,
  lift: z.literal('pad'),
  /** of the level ground; what it follows counts instead where it follows anything */
  outline,
  /** metres */
  height: finite.min(-1000).max(3000),
  /** of the earth it cuts or heaps around it, degrees */
  batter: batter.default(40),
  /** level ground beyond the outline, metres */
  margin: finite.min(0).max(100).default(0),
  /** blocks and pieces it lies under and moves with; of a piece the outline of its foot in its own axes */
  follows: z
    .array(z.object({ id: objectId, foot: z.array(vec2).min(3).max(64).optional() }))
    .max(200)
    .optional(),
});

/** Water and gravity over what lies below, worked out once and kept as rasters; `made` is the hash of what it was made from. */
const weatherLift = z.object({
  ...lift,
  lift: z.literal('weather'),
  seed: seed.default(1),
  /** drops of rain that run down; 0 for none */
  droplets: z.number().int().min(0).max(2_000_000, 'at most two million droplets').default(60_000),
  /** earth a drop can carry against the usual */
  strength: finite.min(0).max(10).default(1),
  /** metres around a drop that it scours */
  radius: finite.min(0.25).max(50).default(1.5),
  /** steepest that loose ground lies, degrees, and how often the area is gone over; 0 for never */
  talus: finite.min(5).max(85).default(36),
  rounds: z.number().int().min(0).max(5000).default(40),
  made: z.string().max(64).optional(),
});

/** Heights from elsewhere, in rasters of their own: `held` and where they reach, `weight`. */
const surveyLift = z.object({ ...lift, lift: z.literal('survey') });

export const liftObject = z.discriminatedUnion('lift', [noiseLift, surveyLift, landformLift, weatherLift, routeLift, padLift, handLift]);

export type Lift = z.infer<typeof liftObject>;
export type LiftOf<K extends LiftKindName> = Extract<Lift, { lift: K }>;
export type NoiseLift = LiftOf<'noise'>;
export type Landform = LiftOf<'landform'>;
export type Route = LiftOf<'route'>;
export type Pad = LiftOf<'pad'>;
export type HandLift = LiftOf<'hand'>;
export type Weather = LiftOf<'weather'>;
export type Survey = LiftOf<'survey'>;

export const liftKind = kind({
  schema: liftObject,
  aspects: ['earth'],
  shift(lift, by) {
    const moved = { ...lift, ...shiftedMask(lift, by) };
    if (moved.lift === 'landform') return { ...moved, line: moved.line.map(by.p2) };
    if (moved.lift === 'route') return { ...moved, line: moved.line.map(by.p3) };
    if (moved.lift === 'pad') return { ...moved, outline: moved.outline.map(by.p2) };
    return moved;
  },
  channels: ({ lift }) => (lift === 'hand' ? HAND_CHANNELS : lift === 'weather' ? WEATHER_CHANNELS : lift === 'survey' ? SURVEY_CHANNELS : []),
});

const shiftedMask = ({ mask }: Lift, by: Shift): Pick<Lift, 'mask'> =>
  mask?.outline ? { mask: { ...mask, outline: { ...mask.outline, line: mask.outline.line.map(by.p2) } } } : {};
