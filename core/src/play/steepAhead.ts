import type { Terrain } from '../earth/compose';
import type { Limits } from './limits';
import { terrainAt } from './standing';

/** How often the ground ahead is looked at, of the distance between its samples; never wider apart than this, metres. */
const LOOK = { share: 0.2, most: 0.1 };
/** A look apart is halved so often to find where a face begins or ends: to a millimetre or so. */
const HALVINGS = 6;

/** A body's middle in plan, metres, and where it goes, unit length. */
export interface Heading {
  x: number;
  z: number;
  dx: number;
  dz: number;
}

/**
 * Whether ground that is too steep to walk rises before a body: it begins under the body's front half and goes up by
 * more than a step, or no one can tell how far. (The physics' own contact where a round foot meets a face at its rim
 * leans half way between the two, so that a face of 60 degrees passes for one of 45.)
 *
 * @param covered whether something stands over the terrain at a place, so that no foot comes to it
 * @returns the way up the face, unit length in plan, or `undefined` where the way is free
 */
export function steepAhead(
  terrain: Terrain,
  limits: Limits,
  { x, z, dx, dz }: Heading,
  covered: (x: number, z: number, height: number) => boolean,
): [x: number, z: number] | undefined {
  const step = Math.min(LOOK.most, terrain.grid.spacing * LOOK.share);
  const end = limits.side + limits.step / limits.grade + terrain.grid.spacing;
  const at = (k: number) => terrainAt(terrain, x + dx * k, z + dz * k);
  /** Height where it turns from steep to not, or from not to steep, between two looks. */
  const turning = (from: number, to: number): number => {
    const steep = at(from).tan > limits.grade;
    if (at(to).tan > limits.grade === steep) return at(from).y;
    for (let i = 0; i < HALVINGS; i++) {
      const middle = (from + to) / 2;
      if (at(middle).tan > limits.grade === steep) from = middle;
      else to = middle;
    }
    return at(from).y;
  };
  let face: [x: number, z: number] | undefined;
  let foot = 0;
  let last = at(0).y;
  for (let k = step; k <= end; k += step) {
    const { y, tan } = at(k);
    const steep = tan > limits.grade && y > last && !covered(x + dx * k, z + dz * k, y);
    if (steep && !face) {
      if (k > limits.side) return undefined;
      foot = turning(k - step, k);
      face = uphill(terrain, x + dx * k, z + dz * k);
    }
    if (face && !steep) {
      if (turning(k - step, k) - foot > limits.step) return face;
      face = undefined;
    }
    last = y;
  }
  return face && last - foot > limits.step ? face : undefined;
}

/** Which way the terrain rises at a place, unit length in plan. */
function uphill(terrain: Terrain, x: number, z: number): [x: number, z: number] {
  const d = terrain.grid.spacing * 0.01;
  const gx = terrainAt(terrain, x + d, z).y - terrainAt(terrain, x - d, z).y;
  const gz = terrainAt(terrain, x, z + d).y - terrainAt(terrain, x, z - d).y;
  const l = Math.sqrt(gx * gx + gz * gz);
  return l > 0 ? [gx / l, gz / l] : [0, 0];
}
