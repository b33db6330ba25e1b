import { create } from 'zustand';
import type { LaidLine, LaidOpening, LineDressing } from '@rammer/core/level/objects';

/** How the next line is laid: what it has besides its corners. */
export type LaidAs = Pick<LaidLine, 'slope' | 'remainder' | 'storeys' | 'curved' | 'bent' | 'turned' | 'floors' | 'stairs' | 'roof' | 'spacing' | 'regular'>;

interface Laying {
  /** id of the kit at hand; the first of the level where it is not there */
  kit?: string;
  as: LaidAs;
  /** id of the kit whose parts are looked at in wide */
  sheet?: string;
  /** what a click makes of a laid wall */
  opening: LaidOpening['use'];
  /** what the next seam line is dressed with; what fits the ground there where it has nothing */
  seam: LineDressing;
}

/** Defaults of a seam line: low things close together, turned any way, a little into the ground on the right of the line. */
const SEAM: LineDressing = {
  pieces: [],
  plants: [],
  spacing: 0.6,
  loose: 0.6,
  aside: [0, 0.3],
  turn: [-180, 180],
  size: [0.8, 1.2],
  uneven: 0.1,
  sink: [0, 0.05],
  lean: 0.5,
  tilt: 5,
  flip: 0,
};

export const useLaying = create<Laying>(() => ({ as: { slope: 'level', remainder: 'stretch', storeys: 1 }, opening: 'door', seam: SEAM }));
