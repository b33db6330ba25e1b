import { smoothstep } from './vec';

/** A band of values with soft ends: where it begins to let in, lets all in, lets all in until, lets none in any more; ascending. */
export type BandEnds = readonly [number, number, number, number];

/** 1 inside the band, 0 beyond its soft ends; 0 for NaN. */
export function inBand([a, b, c, d]: BandEnds, v: number): number {
  const enter = v >= b ? 1 : v > a ? smoothstep(a, b, v) : 0;
  return enter === 0 || v <= c ? enter : v >= d ? 0 : enter * (1 - smoothstep(c, d, v));
}
