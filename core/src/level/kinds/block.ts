import { z } from 'zod';
import { tanDeg } from '../../num/trig';
import { drawnFault, isDrawn } from '../drawn';
import { base, finite, standing, tilt, vec3 } from '../fields';
import { standingKind } from './kind';

export const MIN_BLOCK = 0.05;
const blockSide = finite.min(MIN_BLOCK, `a block is at least ${MIN_BLOCK} m a side`).max(4096, 'a block is at most 4096 m a side');

/** See block/shapes for what each is. */
export const SHAPES = ['box', 'ramp', 'wedge', 'stair', 'terraces', 'cylinder', 'cone', 'arch', 'ring', 'wall', 'slab', 'tunnel'] as const;
export type Shape = (typeof SHAPES)[number];
export const DEFAULT_STEPS = 8;
export const DEFAULT_WALL = 0.5;
export const DEFAULT_BATTER = 12;

type ShapeFields = {
  shape: Shape;
  size: [number, number, number];
  wall?: number;
  steps?: number;
  batter?: number;
  line?: [number, number, number][];
  closed?: boolean;
  tall?: number;
  wide?: number;
  op?: 'solid' | 'void';
  stops?: { by: [number, number, number] }[];
};

/** Why a block's own numbers make no shape, in words for the person, or `undefined` where they do. */
function shapeFault(block: ShapeFields): string | undefined {
  const {
    shape,
    size: [l, h, w],
    wall = DEFAULT_WALL,
    steps = DEFAULT_STEPS,
    batter = DEFAULT_BATTER,
  } = block;
  if (block.stops?.[0]?.by?.some((v) => v !== 0)) return 'the first stop of a mover is its own place';
  if (block.stops && block.op === 'void') return 'a void does not move by itself: give stops to a solid';
  if (isDrawn(shape)) return drawnFault(block);
  if (block.line || block.closed) return `a ${shape} has no line: that is for walls, slabs and tunnels`;
  if (shape === 'terraces' && (h / steps) * tanDeg(batter) > l / steps - 0.02)
    return (
      `terraces ${(l / steps).toFixed(2)} m apart and ${(h / steps).toFixed(2)} m high ` +
      `have no tread left at a batter of ${batter} degrees: make them longer, lower or steeper`
    );
  if (shape === 'arch' && 2 * wall >= l) return `an arch ${l} m long has no opening left between jambs of ${wall} m: make it longer or its jambs thinner`;
  if (shape === 'arch' && wall >= h) return `an arch ${h} m high has no opening left under a head of ${wall} m: make it higher or thinner`;
  if (shape === 'ring' && 2 * wall >= Math.min(l, w))
    return `a ring ${Math.min(l, w)} m across has no hole left in a wall of ${wall} m: make it wider or its wall thinner`;
  return undefined;
}

export const blockObject = z
  .object({
    ...base,
    kind: z.literal('block'),
    shape: z.enum(SHAPES),
    /** a void is not there itself: it cuts the solids it meets; absent means solid */
    op: z.enum(['solid', 'void']).optional(),
    /** what a void cuts: every solid (also where absent), or those of its own group */
    cuts: z.enum(['all', 'group']).optional(),
    /** a plain mass behind the level, outside it: seen, never reached, and not missed inside */
    background: z.boolean().optional(),
    /** of a stair or terraces; 8 where absent */
    steps: z.number().int().min(1, 'a stair has at least one step').max(500, 'a stair has at most 500 steps').optional(),
    /** degrees by which the faces of terraces lean back; 12 where absent */
    batter: finite.min(0).max(60, 'a batter is at most 60 degrees').optional(),
    /** corners of a wall's or tunnel's line or of a slab's outline, in the block's own axes, metres; see level/drawn */
    line: z.array(vec3).min(2).max(200, 'a line has at most 200 corners').optional(),
    /** a wall that comes back to its first corner */
    closed: z.boolean().optional(),
    /** height of what is drawn along the line, metres: of a tunnel its clear height, of a slab its thickness */
    tall: blockSide.optional(),
    /** width across the line, metres: a wall's thickness, a tunnel's clear width */
    wide: finite.min(0.02, 'a wall is at least 0.02 m thick').max(1000).optional(),
    /** thickness of an arch's jambs and head, of a ring's wall, metres, 0.5 where absent; of a tunnel's lining 0.3 */
    wall: finite.min(0.02, 'a wall is at least 0.02 m thick').max(1000).optional(),
    /**
     * Of a mover: where it stops, from its own place (the first stop, by nothing), the seconds it travels
     * there from the stop before (to the first from the last) and those it waits there
     */
    stops: z
      .array(z.object({ by: vec3, travel: finite.min(0.1, 'a mover travels for at least 0.1 s').max(3600), wait: finite.min(0).max(3600) }))
      .min(2, 'a mover has at least two stops')
      .max(20)
      .optional(),
    /** own dimensions: along local x, height, along local z; ramps, stairs and terraces rise along +x; of what is drawn they follow from the line */
    size: z.tuple([blockSide, blockSide, blockSide]),
    /** centre of the base */
    at: vec3,
    /** degrees about Y, counter-clockwise seen from above */
    turn: finite.min(-360).max(360),
    tilt,
    ...standing,
  })
  .superRefine((block, context) => {
    const fault = shapeFault(block);
    if (fault) context.addIssue({ code: 'custom', message: fault });
  });

export type Block = z.infer<typeof blockObject>;
export type Stop = NonNullable<Block['stops']>[number];

export const blockKind = standingKind({
  schema: blockObject,
  aspects: ['solid'],
  shift: (o, by) => ({ ...o, at: by.p3(o.at) }),
  place: (o) => o.at,
});
