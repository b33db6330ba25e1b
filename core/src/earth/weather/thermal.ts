import type { Grid } from '../../level/tiles';
import { tanDeg } from '../../num/trig';

export interface ThermalSettings {
  /** steepest that loose ground lies, degrees */
  talus: number;
  /** times the whole area is gone over */
  rounds: number;
}

export const THERMAL_DEFAULTS: Readonly<ThermalSettings> = Object.freeze({ talus: 34, rounds: 60 });

/**
 * Ground held to an angle along eight ways may be steeper between them, by 1 / cos 22.5 degrees; this evens it out,
 * so that slopes lie about the talus angle: (1 + cos 22.5) / 2.
 */
const EVEN = 0.962;

/** Share of what is too much that slides in one round; more would overshoot. */
const SLIDES = 0.5;

/**
 * Thermal weathering in place: ground steeper than the talus angle slides to its lower neighbours until
 * none is. In each round every sample gives half of what it stands too high over its eight neighbours, shared by
 * how much each is too low (Musgrave, Kolb, Mace 1989); all of a round are worked out before any is moved, so
 * that the result does not depend on the order, and what one loses another gains.
 *
 * @param heights metres, row by row; changed
 * @param share 0 to 1 a sample: how far it gives and takes
 * @param onRound called after each round with the share done; false stops
 * @returns whether it went to the end
 */
export function thermal(
  heights: Float64Array,
  { nx, nz, spacing }: Pick<Grid, 'nx' | 'nz' | 'spacing'>,
  settings: ThermalSettings,
  share: Float32Array,
  onRound?: (done: number) => boolean,
): boolean {
  const rise = tanDeg(settings.talus) * spacing * EVEN;
  const allowed = [rise * Math.SQRT2, rise, rise * Math.SQRT2, rise, rise, rise * Math.SQRT2, rise, rise * Math.SQRT2];
  const step = [-nx - 1, -nx, -nx + 1, -1, 1, nx - 1, nx, nx + 1];
  const moved = new Float64Array(heights.length);
  const over = new Float64Array(8);
  for (let round = 0; round < settings.rounds; round++) {
    moved.fill(0);
    for (let z = 1; z < nz - 1; z++) {
      for (let i = z * nx + 1, end = z * nx + nx - 1; i < end; i++) {
        if (share[i] === 0) continue;
        let sum = 0;
        let most = 0;
        for (let k = 0; k < 8; k++) {
          const t = i + step[k];
          const too = share[t] > 0 ? heights[i] - heights[t] - allowed[k] : 0;
          over[k] = too > 0 ? too : 0;
          sum += over[k];
          if (over[k] > most) most = over[k];
        }
        if (sum === 0) continue;
        const gives = SLIDES * most * share[i] * 0.5;
        moved[i] -= gives;
        for (let k = 0; k < 8; k++) if (over[k] > 0) moved[i + step[k]] += (gives * over[k]) / sum;
      }
    }
    for (let i = 0; i < heights.length; i++) heights[i] += moved[i];
    if (onRound && !onRound((round + 1) / settings.rounds)) return false;
  }
  return true;
}
