import { clamp } from '../../num/vec';

/** Earth beside a route or around a pad is cut or heaped no farther out than this, metres. */
export const BATTER_REACH = 40;

/**
 * Height of the ground beside a level edge: cut or heaped at the batter until it meets the ground that
 * lies there, which is left alone from then on.
 *
 * @param edge height of the edge, metres
 * @param out distance from it, metres
 * @param rise tangent of the batter
 */
export const battered = (ground: number, edge: number, out: number, rise: number): number => clamp(ground, edge - rise * out, edge + rise * out);
