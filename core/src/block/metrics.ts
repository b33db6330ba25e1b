import type { BodyFigures } from '../body/bodies';
import { coverVerdict, ledgeVerdict, openingVerdict, slopeVerdict } from '../body/checks';
import { gapVerdict, jumpReach } from '../body/jump';
import { drawnOutlines, isDrawn, tallOf, wideOf } from '../level/drawn';
import { DEFAULT_STEPS, DEFAULT_WALL, type Block } from '../level/objects';
import { outlineDistance, type Point2 } from '../num/outline';
import { slopeDeg } from '../num/trig';
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

/**
 * The nearest top that a body could jump to from a block's, and what the jump is: edge to edge in plan,
 * with the rise between the tops. Shapes with a level top only.
 *
 * @returns `undefined` where nothing is in reach of a quarter more than the body's longest jump
 */
export function nearestGap(block: Block, others: Iterable<Block>, body: BodyFigures): (Metric & { to: string; width: number; rise: number }) | undefined {
  if (block.op === 'void' || !levelTop(block)) return undefined;
  const mine = footprint(block);
  const top = block.at[1] + block.size[1];
  let best: { to: Block; width: number; rise: number } | undefined;
  for (const other of others) {
    if (other.id === block.id || other.op === 'void' || !levelTop(other)) continue;
    const rise = other.at[1] + other.size[1] - top;
    const reach = jumpReach(body, rise);
    if (reach === undefined || -rise > body.safeDrop) continue;
    const far = reach * 1.25;
    const round = (Math.hypot(block.size[0], block.size[2]) + Math.hypot(other.size[0], other.size[2])) / 2;
    if (Math.hypot(other.at[0] - block.at[0], other.at[2] - block.at[2]) - round > far) continue;
    const width = outlineDistance(mine, footprint(other));
    if (width < CRACK || width > far || (best && width >= best.width)) continue;
    best = { to: other, width, rise };
  }
  if (!best) return undefined;
  const verdict = gapVerdict(body, best.width, best.rise);
  const up = Math.abs(best.rise) < 0.005 ? '' : best.rise > 0 ? `, ${m(best.rise)} up` : `, ${m(-best.rise)} down`;
  return { to: best.to.id, width: best.width, rise: best.rise, verdict: verdict === 'easy' ? 'good' : verdict === 'tight' ? 'warning' : 'bad', text: `gap to ${best.to.name} ${m(best.width)} m${up}: ${verdict}` };
}

const levelTop = ({ shape }: Block): boolean => ['box', 'cylinder', 'ring', 'arch', 'wall', 'slab'].includes(shape);

/** Outline of a block in plan, in the level. */
function footprint(b: Block): Point2[] {
  const [l, , w] = b.size;
  const own: Point2[] = isDrawn(b.shape) ? drawnOutlines(b)[0] : [[-l / 2, -w / 2], [l / 2, -w / 2], [l / 2, w / 2], [-l / 2, w / 2]];
  return own.map(([x, z]): Point2 => {
    const p = blockToLevel(b, x, 0, z);
    return [p[0], p[2]];
  });
}
