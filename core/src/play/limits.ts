import type { BodyFigures } from '../body/bodies';
import { tanDeg } from '../num/trig';

/**
 * What a body can pass, as the walk area and the walker both take it: metres, and rise over run. Each limit
 * lies inside the band in which a judgement may fall either way (numbers.md), so that rounding of a level's
 * own numbers never decides.
 *
 * | limit   | from the figures      | stopped up to | passes from |
 * |---------|-----------------------|---------------|-------------|
 * | opening | 2 radius + 0.05       | 2 r + 0.045   | 2 r + 0.055 |
 * | step    | step + 0.01           | step + 0.015  | step        |
 * | head    | height - 0.01         | height - 0.015| height      |
 * | slope   | max slope + 0.25 deg  | + 0.3         | + 0.2       |
 */
export interface Limits {
  /** kept free on every side of the body's middle */
  side: number;
  /** how near to a wall or to the level's end its middle may come at all: its radius */
  radius: number;
  step: number;
  head: number;
  /** steepest ground it stands on, rise over run */
  grade: number;
}

/** Within this of the least width an opening may be judged either way, metres (numbers.md). */
export const OPENING_BAND = 0.05;

/** Half of what an opening must be wider than the body. */
export const SIDE_ROOM = 0.025;
/** Rise over its step that a body still takes. */
export const STEP_ROOM = 0.01;
/** Added to the slope limit, degrees. */
export const SLOPE_ROOM = 0.25;
/** Under its height that a body still stands upright. */
export const HEAD_ROOM = 0.01;

/** What a body can do, as walk area and Walk go by it: metres, slopes as rise over run. */
export const limitsOf = (body: BodyFigures): Limits => ({
  side: body.radius + SIDE_ROOM,
  radius: body.radius,
  step: body.step + STEP_ROOM,
  head: body.height - HEAD_ROOM,
  grade: tanDeg(Math.min(89, body.maxSlope + SLOPE_ROOM)),
});
