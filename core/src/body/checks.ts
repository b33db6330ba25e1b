import type { BodyFigures } from './bodies';

export type OpeningVerdict = 'blocked' | 'crouch' | 'tight' | 'clear';

/**
 * Verdict on an opening `width` x `height` metres.
 *
 * Blocked if narrower than 2 radius + 0.10 or lower than crouched + 0.05 (height + 0.05 for a body
 * that cannot crouch); crouch below height + 0.05; tight below height + 0.20 or 2 radius + 0.30.
 */
export function openingVerdict(body: BodyFigures, width: number, height: number): OpeningVerdict {
  const lowest = (body.crouched ?? body.height) + 0.05;
  if (width < 2 * body.radius + 0.1 || height < lowest) return 'blocked';
  if (height < body.height + 0.05) return 'crouch';
  if (height < body.height + 0.2 || width < 2 * body.radius + 0.3) return 'tight';
  return 'clear';
}

export type LedgeVerdict = 'step' | 'hop' | 'vault' | 'climb' | 'wall';

/** What it takes to get up a ledge of `height` metres: step < hop < vault < climb < wall. */
export function ledgeVerdict(body: BodyFigures, height: number): LedgeVerdict {
  if (height <= body.step) return 'step';
  if (height <= body.jumpApex) return 'hop';
  if (body.vault !== undefined && height <= body.vault) return 'vault';
  if (body.climb !== undefined && height <= body.climb) return 'climb';
  return 'wall';
}

export type SlopeVerdict = 'comfortable' | 'steep' | 'too steep';

/** Verdict on walking up `slope` degrees: comfortable to 30, too steep beyond the body's limit. */
export function slopeVerdict(body: BodyFigures, slope: number): SlopeVerdict {
  if (slope > body.maxSlope) return 'too steep';
  return slope <= 30 ? 'comfortable' : 'steep';
}

/** Whether `clearance` metres over the walk area is enough: height + 0.10. */
export const headroomEnough = (body: BodyFigures, clearance: number): boolean => clearance >= body.height + 0.1;
