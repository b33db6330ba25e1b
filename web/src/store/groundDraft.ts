import { create } from 'zustand';
import type { WhyGround } from '@rammer/core/surface/why';

/** Brushes over the ground: paint and plants. */
export interface GroundBrush {
  /** metres */
  radius: number;
  /** share of the full radius */
  hardness: number;
  /** share of the way one dab goes */
  strength: number;
}

/** What is chosen at stage Surface, and what is painted next. */
interface GroundDraft {
  groundBrush: GroundBrush;
  /** id of the surface that is painted, and of the one that goes where one replaces another */
  surface: string;
  replaced?: string;
  /** of what is filled: width of its soft edge, metres, and between which slopes only, degrees */
  fill: { soft: number; slope?: [number, number] };
  /** id of the chosen rule of the ground */
  groundRule?: string;
  whyGround?: WhyGround;
  /** which list stands under Surface */
  surfaceTab: 'surfaces' | 'rules';
  setGroundBrush(patch: Partial<GroundBrush>): void;
}

export const useGround = create<GroundDraft>((set, get) => ({
  groundBrush: { radius: 4, hardness: 0.4, strength: 0.5 },
  surface: 'gravel',
  fill: { soft: 1 },
  surfaceTab: 'surfaces',
  setGroundBrush: (patch) => set({ groundBrush: { ...get().groundBrush, ...patch } }),
}));
