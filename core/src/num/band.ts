import { smoothstep } from './vec';

/** A band of values with soft ends: where it begins to let in, lets all in, lets all in until, lets none in any more; ascending. */
export type BandEnds = readonly [number, number, number, number];

/** 1 inside the band, 0 beyond its soft ends; 0 for NaN. The ends are read one by one: taking the tuple apart costs more than the rest. */
export function inBand(ends: BandEnds, v: number): number {
  const enter = v >= ends[1] ? 1 : v > ends[0] ? smoothstep(ends[0], ends[1], v) : 0;
  return enter === 0 || v <= ends[2] ? enter : v >= ends[3] ? 0 : enter * (1 - smoothstep(ends[2], ends[3], v));
}
