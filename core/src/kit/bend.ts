import type { Join } from '../level/kinds/kit';
import type { Bend } from '../level/kinds/piece';
import { atan2Deg, sinCosDeg } from '../num/trig';
import { cross, type Vec3 } from '../num/vec';

/** A place on the way a bent mesh goes, and its own axes there. */
export interface BentFrame {
  at: Vec3;
  /** along the way, of unit length */
  along: Vec3;
  up: Vec3;
  /** level, to the right hand of the way */
  across: Vec3;
  /** metres of the way a metre of the mesh takes there */
  stretch: number;
}

/**
 * The way of a bend a share along: a cubic (Hermite) in plan and in height between the directions of its ends, straight
 * on beyond them. What has the same direction at a place has the same axes there: lengths that follow each other meet.
 *
 * @param t 0 where the length starts, 1 where it ends
 */
export function bentFrame({ at, length, run, rise, side, slope }: Bend, t: number): BentFrame {
  const k = Math.min(1, Math.max(0, t));
  const [k2, k3] = [k * k, k * k * k];
  const [a, b] = [k3 - 2 * k2 + k, k3 - k2];
  const [da, db] = [3 * k2 - 4 * k + 1, 3 * k2 - 2 * k];
  const way: Vec3 = [run, rise * 6 * (k - k2) + run * (slope[0] * da + slope[1] * db), run * (side[0] * da + side[1] * db)];
  const beyond = t - k;
  const speed = Math.sqrt(way[0] * way[0] + way[1] * way[1] + way[2] * way[2]);
  const plan = Math.sqrt(way[0] * way[0] + way[2] * way[2]);
  const along = way.map((v) => v / speed) as Vec3;
  const across: Vec3 = [-way[2] / plan, 0, way[0] / plan];
  return {
    at: [
      at[0] + run * k + way[0] * beyond,
      at[1] + rise * (3 * k2 - 2 * k3) + run * (slope[0] * a + slope[1] * b) + way[1] * beyond,
      at[2] + run * (side[0] * a + side[1] * b) + way[2] * beyond,
    ],
    along,
    up: cross(across, along),
    across,
    stretch: speed / length,
  };
}

/** Where a bend takes a point of the straight mesh, both in the axes of the piece, metres. */
export function bentPlace(bend: Bend, [x, y, z]: Vec3): Vec3 {
  const { at, up, across } = bentFrame(bend, (x - bend.at[0]) / bend.length);
  const [dy, dz] = [y - bend.at[1], z - bend.at[2]];
  return [at[0] + up[0] * dy + across[0] * dz, at[1] + up[1] * dy + across[1] * dz, at[2] + up[2] * dy + across[2] * dz];
}

/** A join where a bend takes it. */
export function bentJoin(bend: Bend, join: Join): Join {
  const { along, across } = bentFrame(bend, (join.at[0] - bend.at[0]) / bend.length);
  const [s, c] = sinCosDeg(join.turn);
  return { ...join, at: bentPlace(bend, join.at), turn: atan2Deg(across[2] * s - along[2] * c, along[0] * c - across[0] * s) };
}

/** Degrees a length turns on its way, to either side and up and down together. */
export const bentBy = ({ side, slope, rise, run }: Bend): number =>
  [side[0], side[1], slope[0] - rise / run, slope[1] - rise / run].reduce((sum, v) => sum + (Math.abs(Math.atan(v)) * 180) / Math.PI, 0);
