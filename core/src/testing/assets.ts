import type { Asset } from '../kit/asset';
import { shippedPieces } from '../kit/pieces';
import { shippedPlants } from '../kit/plants';

/** The shipped kit and plants by their names, as if those were the ids of their asset objects. */
export const testAssets = (): Map<string, Asset> => new Map([...shippedPieces(), ...shippedPlants()].map((a) => [a.name, a]));
