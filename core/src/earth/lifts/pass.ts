import type { Blend, Lift } from '../../level/objects';
import type { Grid, Tiles } from '../../level/tiles';
import type { Rect } from '../rect';

/** A rectangle of heights that is being composed: `w` samples a row, metres, what lies below a lift. */
export interface Window extends Rect {
  w: number;
  heights: Float32Array;
}

/** What lifts are made from. */
export interface EarthSource {
  grid: Grid;
  tiles: Tiles;
  /** rasters of noise lifts by their input hash, see noiseLiftHash */
  noise: ReadonlyMap<string, Float32Array>;
  /** row of the grid those rasters begin with: 0 where absent, else a part of it is composed by itself */
  noiseFrom?: number;
}

/**
 * A lift made ready to be run over windows.
 *
 * A kind of lift is one file that makes one of these, and one line in `index.ts`. What it writes is a pure
 * function of the sample's place and of the height below it, so that any rectangle gives the same bits as
 * the whole.
 */
export interface Pass {
  /** how it blends where the lift does not say */
  blend: Blend;
  /** samples it can change; everywhere where absent */
  rect?: Rect;
  /**
   * Writes into `out` (laid out as the window) for each sample of `part` the lift's height, metres: a
   * difference where it adds, the height itself else; NaN where it leaves the ground alone.
   */
  write(window: Window, part: Rect, out: Float32Array, blend: Blend): void;
}

/** Makes a lift ready; `undefined` where it can change nothing in this level. */
export type PassMaker<L extends Lift> = (lift: L, source: EarthSource) => Pass | undefined;
