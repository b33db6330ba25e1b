import type { Lift } from '@rammer/core/level/objects';

/** Patterns of the strata, one a kind of lift, in a square of 16 that repeats. */
export const STRATA: Record<Lift['lift'], string> = {
  noise: 'M0 5C3 2 5 2 8 5S13 8 16 5M0 13C3 10 5 10 8 13S13 16 16 13',
  landform: 'M1 14L5 6H11L15 14',
  survey: 'M2 15V8M6 15V3M10 15V10M14 15V5',
  weather: 'M4 1L2 6M10 1L8 6M16 1L14 6M7 9L5 14M13 9L11 14',
  hand: 'M-4 4L4 -4M0 16L16 0M12 20L20 12',
  route: 'M0 6H5L9 2H16M0 9H6L10 5H16',
  pad: 'M0 4H16M0 8H16M0 12H16',
};
