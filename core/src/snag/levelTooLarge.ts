import { derivedFigures } from '../body/derived';
import type { BodyFigures } from '../body/bodies';
import type { Grid } from '../level/tiles';
import { tanDeg } from '../num/trig';
import type { Snag } from './finding';

/** Crossing the level takes over ten minutes at a run. */
export function levelTooLarge(grid: Grid, body: BodyFigures): Snag[] {
  const { tooFar, crossRun } = derivedFigures(body, Math.max(grid.width, grid.depth), tanDeg(body.maxSlope));
  return tooFar
    ? [
        {
          code: 'level-large',
          severity: 'warning',
          message: `crossing the level takes ${Math.round(crossRun / 60)} minutes at a run`,
          mend: 'fewer tiles, or a smaller spacing',
        },
      ]
    : [];
}
