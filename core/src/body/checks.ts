import { HAIR, type BodyFigures } from './bodies';

export type OpeningVerdict = 'blocked' | 'crouch' | 'tight' | 'clear';

/**
 * Verdict on an opening `width` x `height` metres.
 *
 * Blocked if narrower than 2 radius + 0.10 or lower than crouched + 0.05 (height + 0.05 for a body
 * that cannot crouch); crouch below height + 0.05; tight below height + 0.20 or 2 radius + 0.30.
 */
export function openingVerdict(body: BodyFigures, width: number, height: number): OpeningVerdict {
  const lowest = (body.crouched ?? body.height) + 0.05;
  const under = (value: number, limit: number) => value < limit - HAIR;
  if (under(width, 2 * body.radius + 0.1) || under(height, lowest)) return 'blocked';
  if (under(height, body.height + 0.05)) return 'crouch';
  if (under(height, body.height + 0.2) || under(width, 2 * body.radius + 0.3)) return 'tight';
  return 'clear';
}

export type LedgeVerdict = 'step' | 'hop' | 'vault' | 'climb' | 'too high';

/** What it takes to get up a ledge of `height` metres: step < hop < vault < climb < too high. */
export function ledgeVerdict(body: BodyFigures, height: number): LedgeVerdict {
  const upTo = (limit: number | undefined) => limit !== undefined && height <= limit + HAIR;
  if (upTo(body.step)) return 'step';
  if (upTo(body.jumpApex)) return 'hop';
  if (upTo(body.vault)) return 'vault';
  if (upTo(body.climb)) return 'climb';
  return 'too high';
}

/** A ledge in words that stand after its height: `hop`, or `face, too high`. */
export const ledgeWord = (verdict: LedgeVerdict): string => (verdict === 'too high' ? 'face, too high' : verdict);

export type SlopeVerdict = 'comfortable' | 'steep' | 'too steep';

/** Verdict on walking up `slope` degrees: comfortable to 30, too steep beyond the body's limit. */
export function slopeVerdict(body: BodyFigures, slope: number): SlopeVerdict {
  if (slope > body.maxSlope + HAIR) return 'too steep';
  return slope <= 30 + HAIR ? 'comfortable' : 'steep';
}

/** Whether `clearance` metres over the walk area is enough: height + 0.10. */
export const headroomEnough = (body: BodyFigures, clearance: number): boolean => clearance >= body.height + 0.1 - HAIR;

export type CoverVerdict = 'low' | 'full';

/** What cover a thing `height` metres high gives: low from 0.9 to 1.3, full from height + 0.1; else none. */
export function coverVerdict(body: BodyFigures, height: number): CoverVerdict | undefined {
  if (height >= body.height + 0.1 - HAIR) return 'full';
  return height >= 0.9 - HAIR && height <= 1.3 + HAIR ? 'low' : undefined;
}
