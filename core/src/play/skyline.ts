import type { PlacedMesh } from '../block/placedMesh';
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
 * @param masses solids and pieces as they stand; inside the level they hide the edge, outside they stand behind it
 */
export function lookRound(terrain: Terrain, masses: readonly PlacedMesh[], eye: Vec3): Skyline {
  const { width, depth, spacing } = terrain.grid;
  const holes: number[] = [];
  for (let i = 0; i < DIRECTIONS; i++) {
    const heading = (i * 360) / DIRECTIONS;
    const [dx, c] = sinCosDeg(heading);
    const dz = -c;
    const toEdge = Math.min(
      dx > 0 ? (width - eye[0]) / dx : dx < 0 ? -eye[0] / dx : Infinity,
      dz > 0 ? (depth - eye[2]) / dz : dz < 0 ? -eye[2] / dz : Infinity,
    );
    const edge = slope(heightAt(terrain, eye[0] + dx * toEdge, eye[2] + dz * toEdge), eye[1], toEdge);
    let before = -Infinity;
    for (let s = spacing; s < toEdge - spacing && before <= edge; s += spacing * 2)
      before = Math.max(before, slope(heightAt(terrain, eye[0] + dx * s, eye[2] + dz * s), eye[1], s));
    let behind = -Infinity;
    for (const mass of masses) {
      if (!meets(eye, dx, dz, mass.min, mass.max)) continue;
      const seen = silhouette(mass, eye, dx, dz, toEdge);
      before = Math.max(before, seen[0]);
      behind = Math.max(behind, seen[1]);
    }
    if (before < edge && behind < edge + OVER) holes.push(heading);
  }
  return { eye, holes };
}

const slope = (top: number, eye: number, run: number): number => (top - eye) / run;

/**
 * How high a mass stands in a direction, as rise over run: of its part before the level's edge, and of that behind. The
 * upright plane of the direction cuts its triangles; the steepest of those cuts is its silhouette there.
 */
function silhouette({ positions: p, indices }: PlacedMesh, eye: Vec3, dx: number, dz: number, toEdge: number): readonly [number, number] {
  const seen: [number, number] = [-Infinity, -Infinity];
  for (let i = 0; i < indices.length; i += 3) {
    for (let k = 0; k < 3; k++) {
      const [a, b] = [indices[i + k] * 3, indices[i + ((k + 1) % 3)] * 3];
      // How far either end lies beside the direction: the edge is cut where these differ in sign.
      const sa = (p[a] - eye[0]) * dz - (p[a + 2] - eye[2]) * dx;
      const sb = (p[b] - eye[0]) * dz - (p[b + 2] - eye[2]) * dx;
      if (sa > 0 === sb > 0) continue;
      const t = sa / (sa - sb);
      const run = (p[a] + (p[b] - p[a]) * t - eye[0]) * dx + (p[a + 2] + (p[b + 2] - p[a + 2]) * t - eye[2]) * dz;
      if (run < 0.01) continue;
      const side = run < toEdge ? 0 : 1;
      const rise = slope(p[a + 1] + (p[b + 1] - p[a + 1]) * t, eye[1], run);
      if (rise > seen[side]) seen[side] = rise;
    }
  }
  return seen;
}

/** Whether a ray in plan meets a box. */
function meets(o: Vec3, dx: number, dz: number, min: Vec3, max: Vec3): boolean {
  let [near, far] = [0, Infinity];
  for (const [from, d, low, high] of [
    [o[0], dx, min[0], max[0]],
    [o[2], dz, min[2], max[2]],
  ]) {
    if (Math.abs(d) < 1e-12) {
      if (from < low || from > high) return false;
      continue;
    }
    near = Math.max(near, Math.min((low - from) / d, (high - from) / d));
    far = Math.min(far, Math.max((low - from) / d, (high - from) / d));
  }
  return near <= far;
}
