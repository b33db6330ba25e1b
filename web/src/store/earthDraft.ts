import { create } from 'zustand';
import { BRUSH_DEFAULTS, type BrushSettings } from '@rammer/core/earth/brush';
import type { PrintName } from '@rammer/core/earth/prints';
import type { HeightPicture } from '@rammer/core/earth/survey';
import type { Landform, Pad, Route } from '@rammer/core/level/objects';

/** A lift with other fields, shown inside an area (metres) until it is run everywhere. */
export interface WorkWindow {
  lift: string;
  area: { x0: number; z0: number; x1: number; z1: number };
  fields: Record<string, unknown>;
}

/** What is chosen at stage Earth, and what the next lift, stroke or water is like. */
interface EarthDraft {
  brush: BrushSettings;
  /** what the print brush lays down, and the last picture that was opened for it */
  print: PrintName | 'own';
  ownPrint?: { name: string; picture: HeightPicture };
  /** id of the chosen lift, and of the one that is shown alone */
  lift?: string;
  solo?: string;
  /** a lift being tuned in a part of the level only */
  workWindow?: WorkWindow;
  /** id of the chosen water, and how deep the next pool stands where it is clicked, metres */
  water?: string;
  poolDepth: number;
  /** what the next one drawn is like */
  landform: Pick<Landform, 'height' | 'foot' | 'crown' | 'cut' | 'ragged'>;
  route: Pick<Route, 'width' | 'shoulder' | 'grade' | 'crossfall' | 'batter'>;
  pad: Pick<Pad, 'batter' | 'margin'>;
  /** of the next route that is proposed */
  proposalSeed: number;
  setBrush(patch: Partial<BrushSettings>): void;
}

export const useEarth = create<EarthDraft>((set, get) => ({
  brush: { ...BRUSH_DEFAULTS },
  print: 'outcrop',
  landform: { height: 3, foot: 5, crown: 'flat', cut: false, ragged: 0 },
  route: { width: 3, shoulder: 0.5, grade: 12, crossfall: 0, batter: 40 },
  pad: { batter: 40, margin: 1 },
  proposalSeed: 1,
  poolDepth: 1,
  setBrush: (patch) => set({ brush: { ...get().brush, ...patch } }),
}));
