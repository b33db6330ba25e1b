import { HAIR, type BodyFigures } from './bodies';

/** Take-off speed of a jump that just reaches the body's apex, m/s: v0 = sqrt(2 g apex). */
export const takeOffSpeed = (body: BodyFigures): number => Math.sqrt(2 * body.gravity * body.jumpApex);

/**
 * Horizontal reach of a running jump that lands `rise` metres above take-off.
 *
 * @param body player figures, metres and m/s
 * @param rise landing height minus take-off height, metres; may be negative
 * @returns metres, or `undefined` where the apex is below the landing
 *
 * Projectile motion: t = (v0 + sqrt(v0^2 - 2 g rise)) / g, v0 = sqrt(2 g apex).
 */
export function jumpReach(body: BodyFigures, rise = 0): number | undefined {
  const v0 = takeOffSpeed(body);
  if (rise > body.jumpApex) return undefined;
  // At the very apex rounding may leave a hair under zero.
  const under = Math.max(0, v0 * v0 - 2 * body.gravity * rise);
  return (body.run * (v0 + Math.sqrt(under))) / body.gravity;
}

export type GapVerdict = 'easy' | 'tight' | 'impossible';

/** Verdict on a gap of `width` metres edge to edge: easy to 0.7 of the reach, tight to 0.95; a landing below the safe drop is none. */
export function gapVerdict(body: BodyFigures, width: number, rise = 0): GapVerdict {
  const reach = jumpReach(body, rise);
  if (reach === undefined || -rise > body.safeDrop + HAIR || width > 0.95 * reach + HAIR) return 'impossible';
  return width <= 0.7 * reach + HAIR ? 'easy' : 'tight';
}
