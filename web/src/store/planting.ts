import { create } from 'zustand';
import type { Why } from '@rammer/core/growth/why';

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
}

export const usePlanting = create<Planting>(() => ({ pieceTurn: 0, pieceSink: 0, sowTo: 1, clearAll: false }));
