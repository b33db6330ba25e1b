import type { Bounds } from '../block/solid';
import type { Terrain } from '../earth/compose';
import { heightAt } from '../earth/sample';
import { sinCosDeg } from '../num/trig';
import type { Vec3 } from '../num/vec';

/** Directions looked in from each place. */
export const DIRECTIONS = 72;
/** What stands behind the edge has to come this much over it to hide it, as rise over run: half a degree. */
const OVER = 0.0087;

/** What a look round from one place found. */
export interface Skyline {
  eye: Vec3;
  /** headings, degrees clockwise from north, in which the level's edge is seen against nothing */
  holes: number[];
}

/**
 * Looks round from a place for holes in the skyline: directions in which the ground's own edge is seen,
 * because nothing inside rises over it and nothing stands behind it.
 *
 * @param masses bounds of solids and pieces; inside the level they hide the edge, outside they stand behind it
 */
export function lookRound(terrain: Terrain, masses: readonly Bounds[], eye: Vec3): Skyline {
  const { width, depth, spacing } = terrain.grid;
  const holes: number[] = [];
  for (let i = 0; i < DIRECTIONS; i++) {
    const heading = (i * 360) / DIRECTIONS;
    const [dx, c] = sinCosDeg(heading);
    const dz = -c;
    const toEdge = Math.min(dx > 0 ? (width - eye[0]) / dx : dx < 0 ? -eye[0] / dx : Infinity, dz > 0 ? (depth - eye[2]) / dz : dz < 0 ? -eye[2] / dz : Infinity);
    const edge = slope(heightAt(terrain, eye[0] + dx * toEdge, eye[2] + dz * toEdge), eye[1], toEdge);
    let before = -Infinity;
    for (let s = spacing; s < toEdge - spacing && before <= edge; s += spacing * 2) before = Math.max(before, slope(heightAt(terrain, eye[0] + dx * s, eye[2] + dz * s), eye[1], s));
    let behind = -Infinity;
    for (const { min, max } of masses) {
      const at = meets(eye, dx, dz, min, max);
      if (at === undefined) continue;
      const s = slope(max[1], eye[1], Math.max(at, 0.01));
      if (at < toEdge) before = Math.max(before, s);
      else behind = Math.max(behind, s);
    }
    if (before < edge && behind < edge + OVER) holes.push(heading);
  }
  return { eye, holes };
}

const slope = (top: number, eye: number, run: number): number => (top - eye) / run;

/** Distance in plan at which a ray meets a box, or `undefined`. */
function meets(o: Vec3, dx: number, dz: number, min: Vec3, max: Vec3): number | undefined {
  let [near, far] = [0, Infinity];
  for (const [from, d, low, high] of [[o[0], dx, min[0], max[0]], [o[2], dz, min[2], max[2]]]) {
    if (Math.abs(d) < 1e-12) {
      if (from < low || from > high) return undefined;
      continue;
    }
    near = Math.max(near, Math.min((low - from) / d, (high - from) / d));
    far = Math.min(far, Math.max((low - from) / d, (high - from) / d));
  }
  return near <= far ? near : undefined;
}
