import type { Assets } from '../kit/placement';
import type { Species } from '../level/objects';
import { rotationOf, splitRotation, tiltAngles, type Pose } from '../num/pose';
import { atan2Deg } from '../num/trig';

/**
 * Numbers a plant has in `place`: x, y, z, turn, tall and wide (scale against the asset's height and its own x), lean and its
 * direction, deep (scale along its own z); metres, degrees. It is turned first and leans then, about the level axis of the direction.
 */
export const PLANT_STRIDE = 9;

/** Of a pose what a plant has: its heading, how far it leans and which way, degrees. */
export function leanOfPose(pose: Pick<Pose, 'turn' | 'tilt'>): [turn: number, lean: number, to: number] {
  const { turn, tilt } = splitRotation(rotationOf(pose));
  const [x, z] = tiltAngles(tilt);
  const lean = Math.sqrt(x * x + z * z);
  // Its own level axis, in the level after the turn.
  return [turn, lean, lean > 0 ? atan2Deg(z, x) - turn : 0];
}

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
  /** its tint and its mesh, see `meshes` */
  look: Uint8Array;
  id: Int32Array;
  /** ids of the plant objects among them */
  hand: string[];
  /** how many the level's ceiling kept out */
  over?: number;
  /** how many of them grew in each pass, in the order they lie; all by its own rule and hand where absent, see `Pass.key` */
  by?: { pass: string; count: number }[];
}

/** The name of a generated plant in a hand edit. */
export const plantId = (plants: Plants, i: number): string =>
  plants.id[i * 3 + 2] < 0 ? plants.hand[plants.id[i * 3]] : `${plants.id[i * 3]},${plants.id[i * 3 + 1]}:${plants.id[i * 3 + 2]}`;

/** What has grown, with what is needed to know how large each plant is. */
export interface GrownPlants {
  grown: readonly Plants[];
  species: ReadonlyMap<string, Species>;
  assets: Assets;
}
