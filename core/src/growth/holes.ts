import type { PlantObject, Species } from '../level/objects';

/** A place where a hand took a plant away: none of its species grows nearer than `radius`, whatever seed, spacing or density comes. Metres. */
export interface Hole {
  x: number;
  z: number;
  radius: number;
}

/** Of a spacing the radius of the room that a plant has to itself. */
const OWN_ROOM = 0.7;

/** How large a hole a plant of a species leaves, metres. */
export const holeRadius = (species: Pick<Species, 'spacing'>): number => Math.round(species.spacing * OWN_ROOM * 1000) / 1000;

/**
 * The hole that a plant set by hand stands for: where it was removed, or taken from to be moved. None where only the
 * name of the generated one is known, as in documents of before version 7: that holds for its own seed and spacing.
 */
export function holeOf(plant: PlantObject, species: Pick<Species, 'spacing'>): Hole | undefined {
  const place = plant.was ?? (plant.gone && plant.from === undefined ? [plant.at[0], plant.at[2]] : undefined);
  return place && { x: place[0], z: place[1], radius: plant.radius ?? holeRadius(species) };
}
