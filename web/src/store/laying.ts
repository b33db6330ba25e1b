import { create } from 'zustand';
import type { LaidLine, LaidOpening } from '@rammer/core/level/objects';

/** How the next line is laid: what it has besides its corners. */
export type LaidAs = Pick<LaidLine, 'slope' | 'remainder' | 'storeys' | 'curved' | 'turned' | 'floors' | 'stairs' | 'roof' | 'spacing' | 'regular'>;

interface Laying {
  /** id of the kit at hand; the first of the level where it is not there */
  kit?: string;
  as: LaidAs;
  /** id of the kit whose parts are looked at in wide */
  sheet?: string;
  /** what a click makes of a laid wall */
  opening: LaidOpening['use'];
}

export const useLaying = create<Laying>(() => ({ as: { slope: 'level', remainder: 'stretch', storeys: 1 }, opening: 'door' }));
