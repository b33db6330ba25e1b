import { Heap } from '../num/heap';
import type { Vec3 } from '../num/vec';
import type { Terrain } from './compose';
import { lookedWhere, type Looked } from './looked';
import type { Rect } from './rect';

/**
 * The drawn ground is two triangles a quad, split from north-west to south-east. Of such a surface the
 * part below a height hangs together exactly where its samples do along the triangles' edges: six
 * neighbours each.
 */
export const EDGES: readonly (readonly [dx: number, dz: number])[] = [
  [1, 0],
  [-1, 0],
  [0, 1],
  [0, -1],
  [1, 1],
  [-1, -1],
];
export const EDGE_DX = Int32Array.from(EDGES, (e) => e[0]);
export const EDGE_DZ = Int32Array.from(EDGES, (e) => e[1]);

const WET = 1;
const DRY = 2;

export interface Flood {
  /** bounds of the wet samples, inclusive */
  rect: Rect;
  /** 1 where a sample of `rect` is wet, row by row */
  wet: Uint8Array;
  /** wet samples */
  count: number;
  /** lowest sample of the level's edge that is wet: there the water runs out of the level */
  leak?: Vec3;
}

/**
 * Floods from seeds to a height: the samples below it that hang together with one of them.
 *
 * @param seeds sample numbers; those that are not below the height start nothing
 * @param looked takes on where heights were looked at
 */
export function flood({ grid, heights }: Pick<Terrain, 'grid' | 'heights'>, seeds: Iterable<number>, height: number, looked?: Looked): Flood | undefined {
  const { nx, nz, spacing } = grid;
  /** WET or DRY where a sample was looked at */
  const seen = new Uint8Array(nx * nz);
  // A sample is pushed once.
  const queue = new Int32Array(nx * nz);
  let queued = 0;
  for (const s of seeds) {
    if (seen[s] !== 0) continue;
    seen[s] = heights[s] < height ? WET : DRY;
    if (seen[s] === WET) queue[queued++] = s;
  }
  if (queued === 0) {
    if (looked) lookedWhere(looked, grid, seen);
    return undefined;
  }
  const rect = { x0: nx, z0: nz, x1: 0, z1: 0 };
  const beside = Int32Array.from(EDGES, ([dx, dz]) => dz * nx + dx);
  let leak = -1;
  let count = 0;
  while (queued > 0) {
    const s = queue[--queued];
    const x = s % nx;
    const z = (s - x) / nx;
    count++;
    if (x < rect.x0) rect.x0 = x;
    if (x > rect.x1) rect.x1 = x;
    if (z < rect.z0) rect.z0 = z;
    if (z > rect.z1) rect.z1 = z;
    const edge = x === 0 || z === 0 || x === nx - 1 || z === nz - 1;
    if (edge && (leak < 0 || heights[s] < heights[leak] || (heights[s] === heights[leak] && s < leak))) leak = s;
    for (let e = 0; e < 6; e++) {
      const t = s + beside[e];
      if (edge && (x + EDGE_DX[e] < 0 || x + EDGE_DX[e] >= nx || t < 0 || t >= seen.length)) continue;
      if (seen[t] !== 0) continue;
      if (heights[t] < height) {
        seen[t] = WET;
        queue[queued++] = t;
      } else seen[t] = DRY;
    }
  }
  if (looked) lookedWhere(looked, grid, seen);
  const w = rect.x1 - rect.x0 + 1;
  const wet = new Uint8Array(w * (rect.z1 - rect.z0 + 1));
  for (let z = rect.z0, o = 0; z <= rect.z1; z++) for (let i = z * nx + rect.x0; i <= z * nx + rect.x1; i++, o++) if (seen[i] === WET) wet[o] = 1;
  return { rect, wet, count, ...(leak < 0 ? {} : { leak: [(leak % nx) * spacing, heights[leak], Math.floor(leak / nx) * spacing] as Vec3 }) };
}

/** A basin that lies less under the brim of its neighbour is a dent, metres. */
const DENT = 0.1;

/** Where water that rises in a basin runs over: into a basin beside it, or out of the level. */
export interface Spill {
  at: Vec3;
  height: number;
  into: 'basin' | 'edge';
}

/**
 * Where water poured in at a sample runs over, in the order it does, until it runs out of the level: each the
 * lowest saddle of what is filled by then. Once it has run over, the basin beside fills too, and both rise.
 *
 * Spreads from the seed always over the lowest sample reached (a priority flood, Barnes, Lehman, Mulla
 * 2014); each sample remembers the highest one passed on its way. The first that lies lower than that tells that
 * the water has run over there.
 *
 * @param looked takes on where heights were looked at
 * @returns ascending in height; the last one is out of the level
 */
export function spillsOf({ grid, heights }: Pick<Terrain, 'grid' | 'heights'>, seed: number, looked?: Looked): Spill[] {
  const { nx, nz, spacing } = grid;
  /** sample number of the highest on the way, plus one; 0 not reached yet */
  const highest = new Int32Array(nx * nz);
  highest[seed] = seed + 1;
  const heap = new Heap();
  heap.push(seed, heights[seed]);
  const found: Spill[] = [];
  let last = seed;
  const tell = (saddle: number, into: Spill['into']) => {
    // Where it went into a basin that is itself open, it is the way out.
    if (saddle === last && found.length > 0) found[found.length - 1].into = into;
    else found.push({ at: [(saddle % nx) * spacing, heights[saddle], Math.floor(saddle / nx) * spacing], height: heights[saddle], into });
    last = saddle;
  };
  for (;;) {
    // Never empty here: the edge of the level is always reached.
    const s = heap.pop()!;
    const saddle = highest[s] - 1;
    const x = s % nx;
    const z = (s - x) / nx;
    if (saddle !== last && heights[s] < heights[saddle] - DENT) tell(saddle, 'basin');
    if (x === 0 || z === 0 || x === nx - 1 || z === nz - 1) {
      tell(saddle, 'edge');
      if (looked) lookedWhere(looked, grid, highest);
      return found;
    }
    for (let e = 0; e < 6; e++) {
      const t = s + EDGE_DZ[e] * nx + EDGE_DX[e];
      if (highest[t] !== 0) continue;
      highest[t] = heights[t] > heights[saddle] ? t + 1 : saddle + 1;
      heap.push(t, heights[t]);
    }
  }
}

/** Where water poured in at a sample leaves the level: the last of `spillsOf`. */
export const spillOf = (terrain: Pick<Terrain, 'grid' | 'heights'>, seed: number, looked?: Looked): Spill => spillsOf(terrain, seed, looked).at(-1)!;
