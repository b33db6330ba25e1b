import type { BodyFigures } from '../body/bodies';
import { coverVerdict, ledgeVerdict, openingVerdict, slopeVerdict } from '../body/checks';
import { gapVerdict, jumpReach, type GapVerdict } from '../body/jump';
import { drawnOutlines, isDrawn, tallOf, wideOf } from '../level/drawn';
import { DEFAULT_STEPS, DEFAULT_WALL, type Block } from '../level/objects';
import { outlineDistance, type Point2 } from '../num/outline';
import { slopeDeg } from '../num/trig';
import { add, length } from '../num/vec';
import { moverPlaces } from './mover';
import type { BlockShape } from './shapes';
import { blockToLevel } from './solid';

/** What a block is to a body, as a verdict and in words with the measures. */
export interface Metric {
  verdict: 'good' | 'warning' | 'bad';
  text: string;
}

/** Wider than this no void or arch is a door, metres. */
const WIDEST = 4;
const m = (v: number) => v.toFixed(2);

/** What a block's own dimensions mean for a body: an opening, a stair, a slope, a ledge with the cover it gives. */
export function blockMetrics(block: BlockShape, body: BodyFigures): Metric[] {
  const [l, h, w] = block.size;
  const { shape, steps = DEFAULT_STEPS, wall = DEFAULT_WALL } = block;
  if (block.op === 'void' && shape === 'tunnel') return corridorMetric(body, wideOf(block), tallOf(block));
  if (block.op === 'void') return shape === 'box' || shape === 'wedge' ? openingMetric(body, Math.min(l, WIDEST + 1), h) : [];
  switch (shape) {
    case 'arch': return openingMetric(body, l - 2 * wall, h - wall);
    case 'stair': {
      const riser = h / steps;
      const going = l / steps;
      const sum = 2 * riser + going;
      if (riser > body.step + 1e-6) return [{ verdict: 'bad', text: `riser ${m(riser)} m, over the step of ${m(body.step)}` }];
      const comfortable = sum >= 0.6 - 1e-6 && sum <= 0.66 + 1e-6;
      return [{ verdict: comfortable ? 'good' : 'warning', text: `${comfortable ? 'comfortable' : 'uncomfortable'}: riser ${riser.toFixed(3)}, going ${going.toFixed(3)} m, 2 risers + going ${m(sum)}${comfortable ? '' : ', wants 0.60 to 0.66'}` }];
    }
    case 'ramp':
    case 'wedge': {
      const slope = slopeDeg(shape === 'ramp' ? h / l : h / (w / 2));
      const verdict = slopeVerdict(body, slope);
      return [{ verdict: verdict === 'comfortable' ? 'good' : verdict === 'steep' ? 'warning' : 'bad', text: `${verdict}: ${slope.toFixed(1)}°` }];
    }
    case 'tunnel': return corridorMetric(body, wideOf(block), tallOf(block));
    case 'terraces': {
      const rise = h / steps;
      const cover = coverVerdict(body, rise);
      return [{ verdict: 'good', text: `${steps} terraces of ${m(rise)} m: ${ledgeVerdict(body, rise)}${cover ? `, ${cover} cover` : ''}; ${m(l / steps)} m apart` }];
    }
    case 'cone': return [];
    default: {
      const ledge = ledgeVerdict(body, h);
      const cover = coverVerdict(body, h);
      return [{ verdict: 'good', text: `${m(h)} m: ${ledge}${cover ? `, ${cover} cover` : ''}` }];
    }
  }
}

/** A passage is judged as an opening that goes on: its width, and the height at its middle. */
function corridorMetric(body: BodyFigures, width: number, height: number): Metric[] {
  const verdict = openingVerdict(body, width, height);
  return [{ verdict: verdict === 'clear' ? 'good' : verdict === 'blocked' ? 'bad' : 'warning', text: `${verdict === 'crouch' ? 'crouched only' : verdict}: passage ${m(width)} m wide, ${m(height)} m high` }];
}

function openingMetric(body: BodyFigures, width: number, height: number): Metric[] {
  if (width > WIDEST) return [];
  const verdict = openingVerdict(body, width, height);
  return [{ verdict: verdict === 'clear' ? 'good' : verdict === 'blocked' ? 'bad' : 'warning', text: `${verdict === 'crouch' ? 'crouched only' : verdict}: ${m(width)} m wide, ${m(height)} m high` }];
}

/** Gaps narrower than this are cracks, metres. */
const CRACK = 0.3;

/** A gap between two blocks' tops: edge to edge in plan, and how much higher the second is. */
export interface GapFigures {
  width: number;
  rise: number;
}

/** The gap from one block to another where they stand, or `undefined` where either has no level top. */
export function gapBetween(from: Block, to: Block): GapFigures | undefined {
  if (from.op === 'void' || to.op === 'void' || !levelTop(from) || !levelTop(to)) return undefined;
  return { width: outlineDistance(footprint(from), footprint(to)), rise: to.at[1] + to.size[1] - from.at[1] - from.size[1] };
}

/** Places looked at along each way of a mover. */
const ALONG = 16;

/** The gap at its nearest and at its farthest, wherever movers among the two can be. */
export function gapRange(from: Block, to: Block): { nearest: GapFigures; farthest: GapFigures } | undefined {
  const places = (b: Block): Block[] => (b.stops ? moverPlaces(b.stops, ALONG).map((by) => ({ ...b, at: add(b.at, by) })) : [b]);
  let nearest: GapFigures | undefined;
  let farthest: GapFigures | undefined;
  for (const a of places(from)) {
    for (const b of places(to)) {
      const gap = gapBetween(a, b);
      if (!gap) return undefined;
      const far = (g: GapFigures) => Math.sqrt(g.width * g.width + g.rise * g.rise);
      if (!nearest || far(gap) < far(nearest)) nearest = gap;
      if (!farthest || far(gap) > far(farthest)) farthest = gap;
    }
  }
  return nearest && farthest && { nearest, farthest };
}

/** A gap in words: `3.00 m, 0.50 up: tight`; of a mover at its nearest and farthest. */
export function gapText(body: BodyFigures, { nearest, farthest }: { nearest: GapFigures; farthest: GapFigures }): { verdict: GapVerdict; text: string } {
  const one = ({ width, rise }: GapFigures) => `${m(width)} m${Math.abs(rise) < 0.005 ? '' : rise > 0 ? `, ${m(rise)} up` : `, ${m(-rise)} down`}: ${gapVerdict(body, width, rise)}`;
  const same = nearest.width === farthest.width && nearest.rise === farthest.rise;
  return { verdict: gapVerdict(body, nearest.width, nearest.rise), text: same ? one(nearest) : `at its nearest ${one(nearest)}, at its farthest ${one(farthest)}` };
}

/**
 * The nearest top that a body could jump to from a block's, and what the jump is: edge to edge in plan,
 * with the rise between the tops. Shapes with a level top only; of movers at their nearest.
 *
 * @returns `undefined` where nothing is in reach of a quarter more than the body's longest jump
 */
export function nearestGap(block: Block, others: Iterable<Block>, body: BodyFigures): (Metric & { to: string; width: number; rise: number }) | undefined {
  if (block.op === 'void' || !levelTop(block)) return undefined;
  let best: { to: Block; range: { nearest: GapFigures; farthest: GapFigures } } | undefined;
  for (const other of others) {
    if (other.id === block.id || other.op === 'void' || !levelTop(other)) continue;
    const moving = block.stops !== undefined || other.stops !== undefined;
    const travel = moving ? Math.max(0, ...[...(block.stops ?? []), ...(other.stops ?? [])].map((s) => length(s.by))) * 2 : 0;
    const round = (Math.hypot(block.size[0], block.size[2]) + Math.hypot(other.size[0], other.size[2])) / 2;
    // The longest jump of all, down to the safe drop, bounds what is worth a look.
    if (Math.hypot(other.at[0] - block.at[0], other.at[2] - block.at[2]) - round - travel > (jumpReach(body, -body.safeDrop) ?? 0) * 1.25) continue;
    const range = gapRange(block, other);
    if (!range) continue;
    const { width, rise } = range.nearest;
    const reach = jumpReach(body, rise);
    if (reach === undefined || -rise > body.safeDrop || width > reach * 1.25 || (width < CRACK && !moving)) continue;
    if (!best || width < best.range.nearest.width) best = { to: other, range };
  }
  if (!best) return undefined;
  const { verdict, text } = gapText(body, best.range);
  return { to: best.to.id, ...best.range.nearest, verdict: verdict === 'easy' ? 'good' : verdict === 'tight' ? 'warning' : 'bad', text: `gap to ${best.to.name} ${text}` };
}

const levelTop = ({ shape }: Block): boolean => ['box', 'cylinder', 'ring', 'arch', 'wall', 'slab'].includes(shape);

/** Outline of a block in plan, in the level. */
export function footprint(b: Block): Point2[] {
  const [l, , w] = b.size;
  const own: Point2[] = isDrawn(b.shape) ? drawnOutlines(b)[0] : [[-l / 2, -w / 2], [l / 2, -w / 2], [l / 2, w / 2], [-l / 2, w / 2]];
  return own.map(([x, z]): Point2 => {
    const p = blockToLevel(b, x, 0, z);
    return [p[0], p[2]];
  });
}
