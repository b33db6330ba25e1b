import type { Candidates } from './candidates';

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

/** Arrays to sort in, kept from one time to the next: to get and to clear new ones takes about as long as the sorting. */
export interface Room {
  cells: Int32Array;
  start: Int32Array;
  at: Float32Array;
}

/** Room for what stands near a place, empty; it grows as it is used. */
export const room = (): Room => ({ cells: new Int32Array(0), start: new Int32Array(0), at: new Float32Array(0) });

/** Points of a flat array: x of each at a multiple of `stride`, z two after it. */
export interface Points {
  place: Float32Array;
  stride: number;
  count: number;
}

/**
 * Sorts points by cell.
 *
 * @param points what lies beside the level is found in its nearest cell
 * @param cells of a level so wide and deep, metres; `cell`: side of one, metres; about twice the largest distance that is asked for is quick
 * @param kept what is sorted lies in it, until something else is sorted in it
 */
export function standing({ place, stride, count }: Points, { width, depth, cell }: { width: number; depth: number; cell: number }, kept = room()): Standing {
  const across = Math.max(1, Math.ceil(width / cell));
  const down = Math.max(1, Math.ceil(depth / cell));
  const perMetre = 1 / cell;
  if (kept.cells.length < count) {
    const most = Math.ceil(count * 1.25);
    kept.cells = new Int32Array(most);
    kept.at = new Float32Array(most * 2);
  }
  if (kept.start.length <= across * down) kept.start = new Int32Array(across * down + 1);
  const { cells } = kept;
  const start = kept.start.subarray(0, across * down + 1).fill(0);
  const at = kept.at.subarray(0, count * 2);
  // Counts first, then where each cell ends; filling from the back leaves where each begins.
  for (let i = 0; i < count; i++) {
    cells[i] = cellOf(place[i * stride + 2], perMetre, down) * across + cellOf(place[i * stride], perMetre, across);
    start[cells[i]]++;
  }
  sumUp(start);
  fill({ at, start, cells }, { place, stride, count });
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

function fill({ at, start, cells }: Room, { place, stride, count }: Points): void {
  for (let i = count - 1; i >= 0; i--) {
    const e = --start[cells[i]];
    at[e * 2] = place[i * stride];
    at[e * 2 + 1] = place[i * stride + 2];
  }
}

/** Drops the candidates that are nearer than `keep` metres to one of them. */
export function apart(c: Candidates, { across, down, start, at, perMetre }: Standing, keep: number): void {
  const { live, x: xs, z: zs } = c;
  const limit = keep * keep;
  let n = 0;
  each: for (let k = 0; k < c.count; k++) {
    const s = live[k];
    const x = xs[s];
    const z = zs[s];
    // `cellOf` written out: where it is one call too many to be compiled in here, its numbers are boxed.
    const x0 = Math.min(across - 1, Math.max(0, ((x - keep) * perMetre) | 0));
    const x1 = Math.min(across - 1, Math.max(0, ((x + keep) * perMetre) | 0)) + 1;
    const z1 = Math.min(down - 1, Math.max(0, ((z + keep) * perMetre) | 0)) * across;
    for (let row = Math.min(down - 1, Math.max(0, ((z - keep) * perMetre) | 0)) * across; row <= z1; row += across) {
      const end = start[row + x1] * 2;
      for (let i = start[row + x0] * 2; i < end; i += 2) {
        const dx = at[i] - x;
        const dz = at[i + 1] - z;
        if (dx * dx + dz * dz < limit) continue each;
      }
    }
    live[n++] = s;
  }
  c.count = n;
}

function cellOf(v: number, perMetre: number, cells: number): number {
  return Math.min(cells - 1, Math.max(0, (v * perMetre) | 0));
}
