import { assetBounds, type Asset } from '../kit/asset';
import { MOST_PAINT, type Paint } from '../level/kinds/coat';
import { clamp, type Vec3 } from '../num/vec';

/**
 * Points about a mesh, in its own axes and size: what coats know of it, and what is painted on it, is kept at these. A point
 * (i, j, k) is at `min + (i, j, k) * cell`, and lies at `i + size[0] * (j + size[1] * k)` of a list.
 */
export type CoatGrid = Pick<Paint, 'min' | 'cell' | 'size'>;

/** The finest that is worth keeping, metres. */
const FINEST = 0.03;
/** Most points that grids are made with: some under what a document may hold. */
const MOST = 6000;
/** Most points along an axis. */
const LONGEST = 126;

const known = new WeakMap<object, CoatGrid>();

/**
 * The grid of an asset: the finest there may be, with its bounds within; worked out once.
 *
 * @example
 * const [nx, ny, nz] = coatGrid(asset).size; // 20 x 29 x 8 about a wall of 2 x 3 x 0.4 m
 */
export function coatGrid(asset: Pick<Asset, 'lods'>): CoatGrid {
  const old = known.get(asset);
  if (old) return old;
  const { min, max } = assetBounds(asset);
  const wide = [0, 1, 2].map((k) => Math.max(0, max[k] - min[k]));
  const sizeAt = (cell: number) => wide.map((w) => Math.ceil(w / cell - 1e-9) + 2) as [number, number, number];
  let cell = FINEST;
  for (let size = sizeAt(cell); size[0] * size[1] * size[2] > MOST || Math.max(...size) > LONGEST; size = sizeAt(cell)) cell *= 1.05;
  cell = Math.round(cell * 1e4) / 1e4;
  const size = sizeAt(cell);
  // What is left over lies half on either side.
  const from = [0, 1, 2].map((k) => (min[k] + max[k]) / 2 - ((size[k] - 1) * cell) / 2) as Vec3;
  const grid = { min: from, cell, size };
  known.set(asset, grid);
  return grid;
}

/** How many points a grid has. */
export const pointsOf = ({ size: [nx, ny, nz] }: Pick<CoatGrid, 'size'>): number => nx * ny * nz;

/** Calls with each point within a distance of a place, in the mesh's own axes, and how far it is. */
export function pointsNear({ min, cell, size }: CoatGrid, at: Vec3, within: number, each: (point: number, distance: number) => void): void {
  const low = [0, 1, 2].map((k) => Math.max(0, Math.ceil((at[k] - within - min[k]) / cell)));
  const high = [0, 1, 2].map((k) => Math.min(size[k] - 1, Math.floor((at[k] + within - min[k]) / cell)));
  for (let z = low[2]; z <= high[2]; z++) {
    const dz = min[2] + z * cell - at[2];
    for (let y = low[1]; y <= high[1]; y++) {
      const dy = min[1] + y * cell - at[1];
      for (let x = low[0]; x <= high[0]; x++) {
        const dx = min[0] + x * cell - at[0];
        const d = Math.sqrt(dx * dx + dy * dy + dz * dz);
        if (d <= within) each(x + size[0] * (y + size[1] * z), d);
      }
    }
  }
}

/** The value at a place between the points, by the eight about it; beyond the grid that of its border. @param cells a byte a point */
export function cellAt({ min, cell, size }: CoatGrid, cells: Uint8Array, at: Vec3): number {
  const g = [0, 1, 2].map((k) => clamp((at[k] - min[k]) / cell, 0, size[k] - 1));
  const i = g.map((v, k) => Math.min(size[k] - 2, Math.floor(v)));
  const f = g.map((v, k) => v - i[k]);
  let sum = 0;
  for (let k = 0; k < 8; k++) {
    const [a, b, c] = [k & 1, (k >> 1) & 1, k >> 2];
    const share = (a ? f[0] : 1 - f[0]) * (b ? f[1] : 1 - f[1]) * (c ? f[2] : 1 - f[2]);
    if (share > 0) sum += share * cells[i[0] + a + size[0] * (i[1] + b + size[1] * (i[2] + c))];
  }
  return sum;
}

if (MOST > MOST_PAINT) throw new Error('a grid must be one a document may hold');
