import { Heap } from '../num/heap';
import type { Vec3 } from '../num/vec';
import type { Terrain } from './compose';
import type { Rect } from './rect';

/**
 * The drawn ground is two triangles a quad, split from north-west to south-east. Of such a surface the
 * part below a height hangs together exactly where its samples do along the triangles' edges: six
 * neighbours each.
 */
export const EDGES: readonly (readonly [dx: number, dz: number])[] = [[1, 0], [-1, 0], [0, 1], [0, -1], [1, 1], [-1, -1]];
export const EDGE_DX = Int32Array.from(EDGES, (e) => e[0]);
export const EDGE_DZ = Int32Array.from(EDGES, (e) => e[1]);

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
 */
export function flood({ grid, heights }: Pick<Terrain, 'grid' | 'heights'>, seeds: Iterable<number>, height: number): Flood | undefined {
  const { nx, nz, spacing } = grid;
  const seen = new Uint8Array(nx * nz);
  const queue: number[] = [];
  for (const s of seeds) {
    if (heights[s] >= height || seen[s]) continue;
    seen[s] = 1;
    queue.push(s);
  }
  if (queue.length === 0) return undefined;
  const rect = { x0: nx, z0: nz, x1: 0, z1: 0 };
  let leak = -1;
  let count = 0;
  while (queue.length > 0) {
    const s = queue.pop()!;
    const x = s % nx;
    const z = (s - x) / nx;
    count++;
    if (x < rect.x0) rect.x0 = x;
    if (x > rect.x1) rect.x1 = x;
    if (z < rect.z0) rect.z0 = z;
    if (z > rect.z1) rect.z1 = z;
    if ((x === 0 || z === 0 || x === nx - 1 || z === nz - 1) && (leak < 0 || heights[s] < heights[leak] || (heights[s] === heights[leak] && s < leak))) leak = s;
    for (let e = 0; e < 6; e++) {
      const u = x + EDGE_DX[e];
      const v = z + EDGE_DZ[e];
      if (u < 0 || v < 0 || u >= nx || v >= nz) continue;
      const t = v * nx + u;
      if (seen[t] !== 0 || heights[t] >= height) continue;
      seen[t] = 1;
      queue.push(t);
    }
  }
  const w = rect.x1 - rect.x0 + 1;
  const wet = new Uint8Array(w * (rect.z1 - rect.z0 + 1));
  for (let z = rect.z0; z <= rect.z1; z++) wet.set(seen.subarray(z * nx + rect.x0, z * nx + rect.x1 + 1), (z - rect.z0) * w);
  return { rect, wet, count, ...(leak < 0 ? {} : { leak: [(leak % nx) * spacing, heights[leak], Math.floor(leak / nx) * spacing] as Vec3 }) };
}

/**
 * Where a basin would run over: the least height at which water poured in at a sample reaches the edge
 * of the level, and the lowest saddle on that way.
 *
 * Spreads from the seed always over the lowest sample reached (a priority flood, Barnes, Lehman, Mulla
 * 2014); each sample remembers the highest one passed on its way, and that of the edge is the saddle.
 */
export function spillOf({ grid, heights }: Pick<Terrain, 'grid' | 'heights'>, seed: number): { at: Vec3; height: number } {
  const { nx, nz, spacing } = grid;
  /** sample number of the highest on the way, plus one; 0 not reached yet */
  const highest = new Int32Array(nx * nz);
  highest[seed] = seed + 1;
  const heap = new Heap();
  heap.push(seed, heights[seed]);
  for (;;) {
    // Never empty here: the edge of the level is always reached.
    const s = heap.pop()!;
    const saddle = highest[s] - 1;
    const x = s % nx;
    const z = (s - x) / nx;
    if (x === 0 || z === 0 || x === nx - 1 || z === nz - 1) return { at: [(saddle % nx) * spacing, heights[saddle], Math.floor(saddle / nx) * spacing], height: heights[saddle] };
    for (let e = 0; e < 6; e++) {
      const t = s + EDGE_DZ[e] * nx + EDGE_DX[e];
      if (highest[t] !== 0) continue;
      highest[t] = heights[t] > heights[saddle] ? t + 1 : saddle + 1;
      heap.push(t, heights[t]);
    }
  }
}
