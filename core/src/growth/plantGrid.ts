import { PLANT_STRIDE, type Plants } from './plants';

/** Side of a cell, metres. */
export const PLANT_CELL = 16;

/**
 * Plants of a species by the cells of 16 m their reach touches, as flat arrays: those of cell c are
 * `order[start[c]]` to `order[start[c + 1] - 1]`, cells by rows from `x0`, `z0` on. A plant over a border is in
 * several cells.
 */
export interface PlantGrid {
  x0: number;
  z0: number;
  across: number;
  down: number;
  start: Uint32Array;
  order: Uint32Array;
}

/** No plant reaches farther than this, metres: cells stay few. */
const MOST_REACH = 64;

/** @param reach metres in plan of a plant of scale 1 whose size is the larger of its scales */
function makeGrid({ place, count }: Plants, reach: number): PlantGrid {
  const reachOf = (o: number) => Math.min(MOST_REACH, reach * Math.max(place[o + 4], place[o + 5], place[o + 8]));
  let [x0, z0, x1, z1] = [Infinity, Infinity, -Infinity, -Infinity];
  const cells = (o: number): [number, number, number, number] => {
    const r = reachOf(o);
    return [
      Math.floor((place[o] - r) / PLANT_CELL),
      Math.floor((place[o + 2] - r) / PLANT_CELL),
      Math.floor((place[o] + r) / PLANT_CELL),
      Math.floor((place[o + 2] + r) / PLANT_CELL),
    ];
  };
  for (let i = 0; i < count; i++) {
    const [a, b, c, d] = cells(i * PLANT_STRIDE);
    [x0, z0, x1, z1] = [Math.min(x0, a), Math.min(z0, b), Math.max(x1, c), Math.max(z1, d)];
  }
  if (count === 0) return { x0: 0, z0: 0, across: 0, down: 0, start: new Uint32Array(1), order: new Uint32Array() };
  const [across, down] = [x1 - x0 + 1, z1 - z0 + 1];
  const start = new Uint32Array(across * down + 1);
  const each = (tell: (cell: number, i: number) => void) => {
    for (let i = 0; i < count; i++) {
      const [a, b, c, d] = cells(i * PLANT_STRIDE);
      for (let z = b; z <= d; z++) for (let x = a; x <= c; x++) tell((z - z0) * across + x - x0, i);
    }
  };
  each((cell) => {
    start[cell + 1]++;
  });
  for (let c = 0; c < across * down; c++) start[c + 1] += start[c];
  const order = new Uint32Array(start[across * down]);
  const next = start.slice();
  each((cell, i) => {
    order[next[cell]++] = i;
  });
  return { x0, z0, across, down, start, order };
}

const known = new WeakMap<Plants, Map<number, PlantGrid>>();

/** Plants by cells; made once for plants as they are and a reach. @param reach of a plant of scale 1 in plan, metres */
export function plantGrid(plants: Plants, reach: number): PlantGrid {
  const grids = known.get(plants) ?? known.set(plants, new Map()).get(plants)!;
  return grids.get(reach) ?? grids.set(reach, makeGrid(plants, reach)).get(reach)!;
}

/** Range of `order` that is in a cell; empty beside the grid. */
export function cellRange(grid: PlantGrid, cx: number, cz: number): [first: number, end: number] {
  const [x, z] = [cx - grid.x0, cz - grid.z0];
  if (x < 0 || z < 0 || x >= grid.across || z >= grid.down) return [0, 0];
  const c = z * grid.across + x;
  return [grid.start[c], grid.start[c + 1]];
}
