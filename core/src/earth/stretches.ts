import type { Point2 } from '../num/outline';

/** Side of a cell of the index, metres. */
const CELL_M = 8;

/**
 * Straight stretches in plan, found by place: each cell of 8 m names those that come within `reach` of
 * it. Four numbers a stretch, x and z of either end; `cells` holds ids of stretches, ascending, so
 * that of two equally near ones the first always wins.
 */
export interface Stretches {
  ends: Float64Array;
  reach: number;
  cells: Map<number, number[]>;
}

const cellOf = (x: number, z: number): number => (Math.floor(x / CELL_M) + 32_768) * 65_536 + Math.floor(z / CELL_M) + 32_768;

/** @param closed whether the last point leads back to the first */
export function stretchesOf(line: readonly Point2[], closed: boolean, reach: number): Stretches {
  const count = closed ? line.length : line.length - 1;
  const ends = new Float64Array(count * 4);
  const cells = new Map<number, number[]>();
  for (let i = 0; i < count; i++) {
    const [a, b] = [line[i], line[(i + 1) % line.length]];
    ends.set([a[0], a[1], b[0], b[1]], i * 4);
    for (let x = Math.floor((Math.min(a[0], b[0]) - reach) / CELL_M); x <= Math.floor((Math.max(a[0], b[0]) + reach) / CELL_M); x++) {
      for (let z = Math.floor((Math.min(a[1], b[1]) - reach) / CELL_M); z <= Math.floor((Math.max(a[1], b[1]) + reach) / CELL_M); z++) {
        const key = (x + 32_768) * 65_536 + z + 32_768;
        const list = cells.get(key);
        if (list) list.push(i);
        else cells.set(key, [i]);
      }
    }
  }
  return { ends, reach, cells };
}

/** Nearest stretch of a point: its id, how far along it (0 to 1), the distance and the side, + to the right of its way (x east, z south). */
export interface Near {
  id: number;
  t: number;
  distance: number;
  side: number;
}

/** @param out filled in; `id` is -1 where nothing is within reach */
export function nearestStretch({ ends, reach, cells }: Stretches, x: number, z: number, out: Near): Near {
  out.id = -1;
  let best = reach * reach;
  const list = cells.get(cellOf(x, z));
  if (!list) return out;
  for (const id of list) {
    const o = id * 4;
    const ax = ends[o];
    const az = ends[o + 1];
    const dx = ends[o + 2] - ax;
    const dz = ends[o + 3] - az;
    const px = x - ax;
    const pz = z - az;
    let t = (px * dx + pz * dz) / (dx * dx + dz * dz || 1);
    t = t < 0 ? 0 : t > 1 ? 1 : t;
    const ex = px - dx * t;
    const ez = pz - dz * t;
    const d = ex * ex + ez * ez;
    if (d < best || (out.id < 0 && d <= best)) {
      best = d;
      out.id = id;
      out.t = t;
      out.side = dx * pz - dz * px >= 0 ? 1 : -1;
    }
  }
  out.distance = Math.sqrt(best);
  return out;
}

/** What `nearestStretch` fills in: nothing yet. */
export const noNear = (): Near => ({ id: -1, t: 0, distance: 0, side: 1 });

/** Samples of a row: at z metres, `count` of them from number `x0` on, `spacing` metres apart. */
export interface SampleRow {
  z: number;
  x0: number;
  count: number;
  spacing: number;
}

/**
 * Signed distance to an outline along a row of places, + inside, no farther than `reach` either way.
 *
 * @param z of the row; places are (x0 + i) * spacing
 */
export function outlineRow(outline: readonly Point2[], sides: Stretches, { z, x0, count, spacing }: SampleRow, out: Float64Array): void {
  const crossings: number[] = [];
  for (let i = 0, j = outline.length - 1; i < outline.length; j = i++) {
    const [ax, az] = outline[i];
    const [bx, bz] = outline[j];
    if (az > z !== bz > z) crossings.push(((bx - ax) * (z - az)) / (bz - az) + ax);
  }
  crossings.sort((a, b) => a - b);
  const near = noNear();
  for (let i = 0, passed = 0; i < count; i++) {
    const x = (x0 + i) * spacing;
    while (passed < crossings.length && crossings[passed] <= x) passed++;
    const found = nearestStretch(sides, x, z, near);
    const d = found.id < 0 ? sides.reach : found.distance;
    out[i] = passed % 2 === 1 ? d : -d;
  }
}
