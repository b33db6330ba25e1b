import { create } from 'zustand';
import type { Fit } from '@rammer/core/cost/fitPlants';
import type { AreaPlan } from '@rammer/core/growth/sowArea';
import type { Why } from '@rammer/core/growth/why';
import { ruleKey } from '@rammer/core/growth/passes';
import { ofKind, speciesOf, type Level } from '@rammer/core/level/level';
import type { Habitat, Species } from '@rammer/core/level/objects';
import type { Point2 } from '@rammer/core/num/outline';
import type { Vec3 } from '@rammer/core/num/vec';

/** How an area is sown: to so many plants on 100 m2 (the species' own where nothing was typed), or in all. */
export interface Want {
  by: 'density' | 'total';
  density?: number;
  total: number;
  /** the other species there are cleared */
  clear: boolean;
}

/** An area that is drawn and not sown yet, with what it would come to once that is reckoned. */
export interface Area {
  corners: readonly Vec3[];
  outline: readonly Point2[];
  species: string;
  plan?: AreaPlan;
  /** on the target device from where one looks, and triangles as they are drawn from there */
  cost?: { ms: number; triangles: number };
  /** why it cannot be sown */
  fault?: string;
}

/** What is set next at the stages Build and Grow, and what is picked there. */
interface Planting {
  /** hash of the asset whose piece is placed, its turn and how far it is sunk */
  kitAsset?: string;
  pieceTurn: number;
  pieceSink: number;
  /** what is listed and worked on at Grow; the habitat at hand, and its rule where one is */
  listed: 'species' | 'habitats' | 'cover';
  habitat?: string;
  rule?: string;
  /** the ground cover at hand */
  cover?: string;
  /** id of the species at hand, the density it is sown to (as a multiple), and whether the eraser takes all species */
  species?: string;
  /** ids of others that are picked with it: what is typed is set of all of them */
  also: readonly string[];
  sowTo: number;
  /** what is set with the brush keeps to the rule of its species; how many strokes there were */
  byRule: boolean;
  strokes: number;
  clearAll: boolean;
  /** about what is selected so much is cleared, metres */
  margin: number;
  /** share that clearing leaves */
  leaves: number;
  want: Want;
  area?: Area;
  /** what would bring plants under the budget, not taken yet */
  fit?: Fit;
  /** it is being reckoned, and which time it is */
  reckoning: boolean;
  fitting: number;
  /** a generated plant that is picked: species and name in it */
  plant?: { species: string; name: string; at: [number, number, number] };
  why?: Why & { species: string };
  /** where it was asked, in plan, and of which species */
  asked?: { species: string; at: [number, number] };
}

export const usePlanting = create<Planting>(() => ({
  listed: 'species',
  also: [],
  reckoning: false,
  fitting: 0,
  pieceTurn: 0,
  pieceSink: 0,
  sowTo: 1,
  byRule: true,
  strokes: 0,
  clearAll: false,
  margin: 1.5,
  leaves: 0,
  want: { by: 'density', total: 50, clear: false },
}));

/** Habitats of a level, off or on, in their order. */
export const allHabitats = (level: Level): Habitat[] => ofKind(level, 'habitat').sort((a, b) => a.order - b.order || (a.id < b.id ? -1 : 1));

/** The species that is worked on: the one picked at Grow, else the first. */
export function speciesAtHand(level: Level): Species | undefined {
  const list = speciesOf(level);
  return list.find((s) => s.id === usePlanting.getState().species) ?? list[0];
}

/** All species that are picked, the one at hand first. */
export function chosenSpecies(level: Level): Species[] {
  const [first, also] = [speciesAtHand(level), usePlanting.getState().also];
  return first ? [first, ...speciesOf(level).filter((s) => s.id !== first.id && also.includes(s.id))] : [];
}

/** The habitat that is worked on, off or on: the one picked at Grow, else the first. */
export function habitatAtHand(level: Level): Habitat | undefined {
  const list = allHabitats(level);
  return list.find((h) => h.id === usePlanting.getState().habitat) ?? list[0];
}

/** Whose rule is shown: the species at hand, or where habitats are listed the rule or the habitat that is picked. */
export function ruleAtHand(level: Level): string | undefined {
  const { listed, rule } = usePlanting.getState();
  if (listed !== 'habitats') return speciesAtHand(level)?.id;
  const habitat = habitatAtHand(level);
  const of = habitat?.rules.find((r) => r.id === rule);
  return habitat && (of ? ruleKey(habitat, of) : habitat.id);
}
