import { create } from 'zustand';
import type { Why } from '@rammer/core/growth/why';
import { speciesOf, type Level } from '@rammer/core/level/level';
import type { Species } from '@rammer/core/level/objects';

/** What is set next at the stages Build and Grow, and what is picked there. */
interface Planting {
  /** hash of the asset whose piece is placed, its turn and how far it is sunk */
  kitAsset?: string;
  pieceTurn: number;
  pieceSink: number;
  /** id of the species at hand, the density it is sown to (as a multiple), and whether the eraser takes all species */
  species?: string;
  sowTo: number;
  clearAll: boolean;
  /** a generated plant that is picked: species and name in it */
  plant?: { species: string; name: string; at: [number, number, number] };
  why?: Why & { species: string };
  /** where it was asked, in plan, and of which species */
  asked?: { species: string; at: [number, number] };
}

export const usePlanting = create<Planting>(() => ({ pieceTurn: 0, pieceSink: 0, sowTo: 1, clearAll: false }));

/** The species that is worked on: the one picked at Grow, else the first. */
export function speciesAtHand(level: Level): Species | undefined {
  const list = speciesOf(level);
  return list.find((s) => s.id === usePlanting.getState().species) ?? list[0];
}
