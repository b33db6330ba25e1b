import { Heap } from '../num/heap';
import { fractalNoise } from '../num/noise';
import { thinned } from '../num/outline';
import { clamp, type Vec3 } from '../num/vec';
import { OPEN, type Terrain } from './compose';
import { heightAt } from './sample';

export interface ProposalSettings {
  /** steepest it should go, metres up on 100 m */
  grade: number;
  /** another seed, another way of about the same cost */
  seed: number;
}

/** Most places a side the level is looked at in; the places are this fine or as fine as the samples. */
const PLACES = 160;
/** A metre that is steeper than the grade by its half costs as much as so many level metres. */
const STEEP = 30;
/** Metres cost up to so much more by chance of the seed. */
const WHIM = 0.35;
/** Ways on from a place: its eight neighbours and the eight a knight's move away, so that bends are soft. */
const WAYS: readonly (readonly [number, number])[] = [
  [1, 0],
  [1, 1],
  [0, 1],
  [-1, 1],
  [-1, 0],
  [-1, -1],
  [0, -1],
  [1, -1],
  [2, 1],
  [1, 2],
  [-1, 2],
  [-2, 1],
  [-2, -1],
  [-1, -2],
  [1, -2],
  [2, -1],
];

/**
 * Points of a route between two places that keeps the grade where the ground lets it: the cheapest way over a
 * net of places (Dijkstra 1959), where a metre costs more the more it climbs over the grade, and by a seeded
 * whim. Barred ground is not crossed. Straight parts are drawn together, to half a place.
 *
 * @param from, to x and z, metres
 * @returns points with the heights of the ground, or why there is no way
 */
export function proposeRoute(
  terrain: Terrain,
  from: readonly [number, number],
  to: readonly [number, number],
  settings: ProposalSettings,
): { ok: true; line: Vec3[] } | { ok: false; message: string } {
  const { width, depth, spacing } = terrain.grid;
  const step = Math.max(2 * spacing, 2, Math.max(width, depth) / PLACES);
  const [nx, nz] = [Math.floor(width / step) + 1, Math.floor(depth / step) + 1];
  const n = nx * nz;
  const heights = new Float64Array(n);
  const shut = new Uint8Array(n);
  for (let z = 0, i = 0; z < nz; z++) {
    for (let x = 0; x < nx; x++, i++) {
      heights[i] = heightAt(terrain, x * step, z * step);
      if (terrain.barred) shut[i] = terrain.barred[Math.round((z * step) / spacing) * terrain.grid.nx + Math.round((x * step) / spacing)] === OPEN ? 0 : 1;
    }
  }
  const at = ([x, z]: readonly [number, number]) => clamp(Math.round(z / step), 0, nz - 1) * nx + clamp(Math.round(x / step), 0, nx - 1);
  const [start, goal] = [at(from), at(to)];
  if (start === goal) return { ok: false, message: `the two ends lie within ${step.toFixed(0)} m of each other: draw it by hand` };
  if (shut[start] || shut[goal]) return { ok: false, message: 'an end lies in water too deep to wade: put it on dry ground' };
  const whim = fractalNoise(settings.seed, 3);
  const grade = settings.grade / 100;
  const cost = new Float64Array(n).fill(Infinity);
  const back = new Int32Array(n).fill(-1);
  const done = new Uint8Array(n);
  const heap = new Heap();
  cost[start] = 0;
  heap.push(start, 0);
  for (let s = heap.pop(); s !== undefined && s !== goal; s = heap.pop()) {
    if (done[s]) continue;
    done[s] = 1;
    const x = s % nx;
    const z = (s - x) / nx;
    for (const [dx, dz] of WAYS) {
      const u = x + dx;
      const v = z + dz;
      if (u < 0 || v < 0 || u >= nx || v >= nz) continue;
      const t = v * nx + u;
      // A knight's move passes two places on its way.
      if (done[t] || shut[t] || shut[(z + Math.trunc(dz / 2)) * nx + x + Math.trunc(dx / 2)]) continue;
      const run = Math.sqrt(dx * dx + dz * dz) * step;
      const over = Math.max(0, Math.abs(heights[t] - heights[s]) / run / Math.max(grade, 0.005) - 1);
      const price = cost[s] + run * (1 + STEEP * over * over * 4 + WHIM * (1 + whim.at((u * step) / 25, (v * step) / 25)));
      if (price >= cost[t]) continue;
      cost[t] = price;
      back[t] = s;
      heap.push(t, price);
    }
  }
  if (back[goal] < 0) return { ok: false, message: 'no way leads there on dry ground: bring the ends nearer, or lower the water' };
  const places: [number, number][] = [];
  for (let i = goal; i >= 0; i = back[i]) places.unshift([(i % nx) * step, Math.floor(i / nx) * step]);
  places[0] = [from[0], from[1]];
  places[places.length - 1] = [to[0], to[1]];
  const line = thinned(places, step / 2).map(([x, z]): Vec3 => [x, heightAt(terrain, x, z), z]);
  return line.length > 200 ? { ok: false, message: 'the way has more than 200 bends: allow a steeper grade, or draw it in parts' } : { ok: true, line };
}
