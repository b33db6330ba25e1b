/**
 * The plants of one species in plan, sorted by cell: those of cell c are entries `start[c]` to
 * `start[c + 1]` of `at` (x and z in turn, metres). Cells lie row by row, so that a row of them is
 * one run of entries, and what keeps one distance needs no list and no radius of its own.
 */
export interface Standing {
  across: number;
  down: number;
  /** cells a metre */
  perMetre: number;
  start: Int32Array;
  at: Float32Array;
}

/**
 * Sorts points by cell.
 *
 * @param place x at each multiple of `stride` and z two after it; what lies beside the level is found in its nearest cell
 * @param cell side of a cell, metres; about twice the largest distance that is asked for is quick
 */
export function standing(place: Float32Array, stride: number, count: number, width: number, depth: number, cell: number): Standing {
  const across = Math.max(1, Math.ceil(width / cell));
  const down = Math.max(1, Math.ceil(depth / cell));
  const perMetre = 1 / cell;
  const cells = new Int32Array(count);
  const start = new Int32Array(across * down + 1);
  const at = new Float32Array(count * 2);
  // Counts first, then where each cell ends; filling from the back leaves where each begins.
  for (let i = 0; i < count; i++) {
    cells[i] = cellOf(place[i * stride + 2], perMetre, down) * across + cellOf(place[i * stride], perMetre, across);
    start[cells[i]]++;
  }
  sumUp(start);
  fill(at, start, cells, place, stride);
  return { across, down, perMetre, start, at };
}

/** Loops of their own, so that what is compiled for one of them stays good in the next call. */
function sumUp(counts: Int32Array): void {
  let sum = 0;
  for (let c = 0; c < counts.length; c++) {
    sum += counts[c];
    counts[c] = sum;
  }
}

function fill(at: Float32Array, start: Int32Array, cells: Int32Array, place: Float32Array, stride: number): void {
  for (let i = cells.length - 1; i >= 0; i--) {
    const e = --start[cells[i]];
    at[e * 2] = place[i * stride];
    at[e * 2 + 1] = place[i * stride + 2];
  }
}

/** Whether one of them is nearer to a point than `keep` metres. */
export function standsWithin(s: Standing, x: number, z: number, keep: number): boolean {
  const { across, down, start, at, perMetre } = s;
  const x0 = cellOf(x - keep, perMetre, across);
  const x1 = cellOf(x + keep, perMetre, across) + 1;
  const z1 = cellOf(z + keep, perMetre, down) * across;
  const limit = keep * keep;
  for (let row = cellOf(z - keep, perMetre, down) * across; row <= z1; row += across) {
    const end = start[row + x1] * 2;
    for (let i = start[row + x0] * 2; i < end; i += 2) {
      const dx = at[i] - x;
      const dz = at[i + 1] - z;
      if (dx * dx + dz * dz < limit) return true;
    }
  }
  return false;
}

function cellOf(v: number, perMetre: number, cells: number): number {
  const c = v * perMetre;
  return c < 1 ? 0 : c >= cells ? cells - 1 : c | 0;
}
