/** Numbers a plant has in `place`: x, y, z, turn, tall and wide (scale against the asset), lean and its direction; metres, degrees. */
export const PLANT_STRIDE = 8;

/**
 * The plants of one species, generated and set by hand, as flat arrays of `count` entries.
 *
 * `id` has three integers a plant: the copy of the pattern (x, z) and the slot in it. They depend on
 * the seed alone, never on order, so that a hand edit finds its plant after re-running. A plant set
 * by hand has slot -1 and its place in `hand` instead of the copy.
 */
export interface Plants {
  species: string;
  count: number;
  place: Float32Array;
  tint: Uint8Array;
  id: Int32Array;
  /** ids of the plant objects among them */
  hand: string[];
}

/** The name of a generated plant in a hand edit. */
export const plantId = (plants: Plants, i: number): string => (plants.id[i * 3 + 2] < 0 ? plants.hand[plants.id[i * 3]] : `${plants.id[i * 3]},${plants.id[i * 3 + 1]}:${plants.id[i * 3 + 2]}`);
