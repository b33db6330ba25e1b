import type { Coat, CoatConditionKind } from '../level/kinds/coat';
import { inBand, type BandEnds } from '../num/band';
import { patches } from '../num/patches';
import { sinCosDeg } from '../num/trig';
import { clamp, dot, type Vec3 } from '../num/vec';

/** What coats go by at a place of a side. */
export interface CoatPlace {
  /** metres in the level */
  at: Vec3;
  /** the way the side looks, of length 1 */
  normal: Vec3;
  /** metres above the ground under it; NaN where there is none */
  foot: number;
  /** 1 in the open, less under a roof, see light/cover */
  sky: number;
  /** -1 to 1, see `bends` */
  bend: number;
}

/** A coat made ready: the ends of the band of each kind of condition, and what they need beside. */
export interface ReadyCoat {
  coat: Coat;
  /** of kinds it has no condition of there is none */
  ends: Partial<Record<CoatConditionKind, BandEnds>>;
  /** the way of its bearing */
  towards: Vec3;
  seed: number;
  /** patches a metre */
  per: number;
}

/** Ends of a kind's band beyond which there are no values: a band that reaches one is open there. */
const OPEN: Partial<Record<CoatConditionKind, readonly [number, number]>> = { facing: [0, 180], side: [0, 180], sky: [0, 1], bend: [-1, 1], noise: [0, 1] };

/** The way of a bearing, clockwise from north, in plan. */
export function bearingWay(deg: number): Vec3 {
  const [s, c] = sinCosDeg(deg);
  return [s, 0, -c];
}

/**
 * A coat made ready to be asked, by this and by the shaders.
 *
 * @example
 * ruleShare(readyCoat(snow), { at, normal: [0, 1, 0], foot: 4, sky: 1, bend: 0 }); // 1 on a level roof
 */
export function readyCoat(coat: Coat): ReadyCoat {
  const out: ReadyCoat = { coat, ends: {}, towards: [0, 0, -1], seed: 0, per: 1 };
  for (const c of coat.where) {
    const [low, high] = c.band;
    const [from, to] = OPEN[c.by] ?? [-Infinity, Infinity];
    out.ends[c.by] = [
      ...(low <= from ? ([-Infinity, -Infinity] as const) : ([low - c.soft / 2, low + c.soft / 2] as const)),
      ...(high >= to ? ([Infinity, Infinity] as const) : ([high - c.soft / 2, high + c.soft / 2] as const)),
    ];
    if (c.by === 'side') out.towards = bearingWay(c.towards);
    if (c.by === 'noise') Object.assign(out, { seed: c.seed, per: 1 / c.scale });
  }
  return out;
}

const degrees = (cosine: number): number => (Math.acos(clamp(cosine, -1, 1)) * 180) / Math.PI;

/** What a kind of condition goes by at a place, in its own unit. */
export function coatValue(by: CoatConditionKind, { towards, seed, per }: Omit<ReadyCoat, 'coat' | 'ends'>, { at, normal, foot, sky, bend }: CoatPlace): number {
  switch (by) {
    case 'facing':
      return degrees(normal[1]);
    case 'side':
      return degrees(dot(normal, towards));
    case 'foot':
      return foot;
    case 'height':
      return at[1];
    case 'sky':
      return sky;
    case 'bend':
      return bend;
    case 'noise':
      return patches(seed, at[0] * per, at[1] * per, at[2] * per);
  }
}

/** Share a coat's rule lays at a place, 0 to 1: the product of its conditions. */
export function ruleShare(ready: ReadyCoat, place: CoatPlace): number {
  let share = ready.coat.share;
  for (const by of Object.keys(ready.ends) as CoatConditionKind[]) {
    if (share === 0) return 0;
    share *= inBand(ready.ends[by]!, coatValue(by, ready, place));
  }
  return share;
}

/** The share at a place with what is painted there. @param painted a byte, 128 changes nothing */
export const withPaint = (share: number, painted: number): number => clamp(share + (painted - 128) / 127, 0, 1);
