import { tanDeg } from '../../num/trig';
import { OPEN, type Terrain } from '../compose';
import { EDGE_DX, EDGE_DZ } from '../flood';

/**
 * Ground a body could stand on, in pieces that hang together: samples on no slope steeper than it walks
 * and not barred by water, joined along the edges of the drawn triangles where these too are no steeper.
 */
export interface Islands {
  /** of each sample: 0 none, 1 the home island, 2 and on the others, the largest first */
  of: Uint16Array;
  /** m2 of each, home first; a sample stands for spacing x spacing */
  areas: number[];
}

/** Islands smaller than this are no place to be, m2: they are left out. */
const LEAST_M2 = 4;
/** Islands told apart; what is beyond counts as the last. */
const MOST = 65_535;

/**
 * @param terrain with `barred` where water is too deep, see earth/water
 * @param maxSlope degrees
 * @param home a place on the home island, x and z; the largest is home where there is none, or it is nowhere
 */
export function islands({ grid, heights, barred }: Terrain, maxSlope: number, home?: readonly [number, number]): Islands {
  const { nx, nz, spacing } = grid;
  const most = tanDeg(maxSlope) * spacing;
  const diagonal = most * Math.sqrt(2);
  const n = nx * nz;
  const steep = (x: number, z: number): boolean => {
    const i = z * nx + x;
    const gx = (heights[z * nx + Math.min(nx - 1, x + 1)] - heights[z * nx + Math.max(0, x - 1)]) / (Math.min(nx - 1, x + 1) - Math.max(0, x - 1));
    const gz = (heights[Math.min(nz - 1, z + 1) * nx + x] - heights[Math.max(0, z - 1) * nx + x]) / (Math.min(nz - 1, z + 1) - Math.max(0, z - 1));
    return (barred !== undefined && barred[i] !== OPEN) || gx * gx + gz * gz > most * most;
  };
  /** group of each sample, 0 not yet, -1 nowhere to stand */
  const group = new Int32Array(n);
  for (let z = 0, i = 0; z < nz; z++) for (let x = 0; x < nx; x++, i++) if (steep(x, z)) group[i] = -1;
  const counts: number[] = [];
  const queue = new Int32Array(n);
  for (let start = 0; start < n; start++) {
    if (group[start] !== 0) continue;
    const id = counts.length + 1;
    let [head, tail] = [0, 0];
    queue[tail++] = start;
    group[start] = id;
    while (head < tail) {
      const s = queue[head++];
      const x = s % nx;
      const z = (s - x) / nx;
      for (let e = 0; e < 6; e++) {
        const u = x + EDGE_DX[e];
        const v = z + EDGE_DZ[e];
        if (u < 0 || v < 0 || u >= nx || v >= nz) continue;
        const t = v * nx + u;
        if (group[t] !== 0 || Math.abs(heights[t] - heights[s]) > (e > 3 ? diagonal : most)) continue;
        group[t] = id;
        queue[tail++] = t;
      }
    }
    counts.push(tail);
  }
  const at = home && Math.min(nz - 1, Math.max(0, Math.round(home[1] / spacing))) * nx + Math.min(nx - 1, Math.max(0, Math.round(home[0] / spacing)));
  const own = at !== undefined && group[at] > 0 ? group[at] : 0;
  const kept = counts.map((count, i) => ({ id: i + 1, area: count * spacing * spacing })).filter(({ id, area }) => area >= LEAST_M2 || id === own);
  kept.sort((a, b) => Number(b.id === own) - Number(a.id === own) || b.area - a.area || a.id - b.id);
  const rank = new Int32Array(counts.length + 1);
  kept.forEach(({ id }, i) => {
    rank[id] = Math.min(MOST, i + 1);
  });
  const of = new Uint16Array(n);
  for (let i = 0; i < n; i++) if (group[i] > 0) of[i] = rank[group[i]];
  return { of, areas: kept.map((k) => k.area) };
}
