import { create } from 'zustand';

interface Coating {
  /** id of the coat that is painted and whose fields are shown; the topmost where it is gone */
  coat?: string;
  /** share of the way to all of it that one touch lays in its middle */
  strength: number;
  /** takes it away */
  away: boolean;
}

/** What the brush of coats paints. */
export const useCoating = create<Coating>(() => ({ strength: 0.5, away: false }));
