import { FIXED_ONE } from '../../num/fixed';
import { clamp } from '../../num/vec';
import type { BrushSettings } from '../brush';
import type { Rect, Terrain } from '../compose';
import type { HeightPicture } from '../survey';

/** Working tiles of the sample a dab is at, and where in them it is. */
export interface Spot {
  delta: Int32Array;
  held: Int32Array;
  weight: Int32Array;
  at: number;
}

/** What a brush looks at: the ground as it is, metres, what was made ready for it there, and the place. */
export interface Look {
  now: number;
  ready: number;
  x: number;
  z: number;
}

/** Changes a hand lift at one sample. @param f the dab's falloff there, 0 to 1 */
export type Change = (spot: Spot, look: Look, f: number, brush: BrushSettings) => void;

/** A brush of Earth: one file, and one line in `index.ts`. */
export interface BrushOf {
  change: Change;
  /** what it works out over the whole dab first: one number a sample of the rectangle, row by row */
  ready?(terrain: Terrain, rect: Rect, brush: BrushSettings, middle: readonly [x: number, z: number], print?: HeightPicture): Float32Array;
  /** the brush it is while it is reversed; a brush without is the same then */
  reversed?: string;
  /** what stands in the middle of its ring, beside its radius */
  label?(brush: BrushSettings): string;
}

/** Strength as a share of the way for brushes that go some way: 0.15 m is a quarter. */
export const shareOf = (brush: BrushSettings, f: number): number => Math.min(1, clamp(brush.strength / 0.15, 0, 4) * 0.25 * f);

/**
 * Relative brushes add d to `delta` and, where the ground is held, also to `held`: since height =
 * lerp(below + delta, held, w), the height changes by d whatever w is, and raised ground stays raised
 * by as much when anything below changes.
 */
export const relative =
  (metres: (look: Look, f: number, brush: BrushSettings) => number): Change =>
  ({ delta, held, weight, at }, look, f, brush) => {
    const d = Math.round(metres(look, f, brush) * FIXED_ONE);
    delta[at] += d;
    if (weight[at] > 0) held[at] += d;
  };

/**
 * Holding brushes: with share s, w' = w + (1 - w) s and held' = ((1 - s) w held + s target) / w', which
 * makes the new height lerp(old height, target, s) and keeps it when anything below changes.
 */
export const holds =
  (target: (look: Look, brush: BrushSettings) => number): Change =>
  (spot, look, f, brush) =>
    hold(spot, Math.round(target(look, brush) * FIXED_ONE), shareOf(brush, f));

/** Holds one sample at a height, 1/1024 m, by a share of the way. */
export function hold({ held, weight, at }: Spot, target: number, share: number): void {
  const w = weight[at] / FIXED_ONE;
  // Rounded up, so that repeated light dabs always arrive at full weight.
  const next = Math.min(FIXED_ONE, Math.ceil((w + (1 - w) * share) * FIXED_ONE));
  if (next === 0) return;
  held[at] = Math.round(((1 - share) * w * held[at] + share * target) / ((1 - share) * w + share));
  weight[at] = next;
}
