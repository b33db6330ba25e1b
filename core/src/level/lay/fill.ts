import type { REMAINDERS } from '../kinds/laidLine';
import { apart, reachFrom, type Path } from './path';

export type Remainder = (typeof REMAINDERS)[number];

/** A stretch of a path filled: where its parts meet, a filler at its end where one is needed, and what is left, metres. */
export interface Filled {
  /** along the path: one more than there are parts */
  cuts: number[];
  /** where the filler behind the last part ends */
  filler?: number;
  left: number;
  /** why the remainder is there still, where it was to be taken up */
  why?: string;
}

export interface Filling {
  path: Path;
  from: number;
  to: number;
  /** of a part, metres */
  length: number;
  /** counts the ground's slope */
  lean: boolean;
  remainder: Remainder;
  /** as shares of a part's length */
  stretch: readonly [number, number];
}

/** Two parts meet within this, metres: a thousandth of what the checks allow. */
export const MEETS = 1e-6;
/** The most parts that one line is filled with. */
export const MOST_PARTS = 20_000;

/** Fills a stretch of a path with parts of one length. */
export function fill(of: Filling): Filled {
  const { path, from, to, length, lean, remainder, stretch } = of;
  if (to - from < MEETS) return { cuts: [from], left: 0 };
  const cuts = march(of, length, Infinity);
  const end = cuts[cuts.length - 1];
  const left = apart(path, end, to, lean);
  if (left < 1e-4) {
    cuts[cuts.length - 1] = to;
    return { cuts, left: 0 };
  }
  if (remainder === 'filler') return { cuts, filler: to, left: 0 };
  if (remainder !== 'stretch') return { cuts, left };
  const whole = cuts.length - 1 + left / length;
  const counts = [Math.floor(whole), Math.floor(whole) + 1].filter((n) => n > 0);
  // The count whose parts are drawn out or pressed together least.
  const off = (n: number) => Math.max(whole / n, n / whole);
  const fits = counts.filter((n) => whole / n >= stretch[0] - MEETS && whole / n <= stretch[1] + MEETS).sort((a, b) => off(a) - off(b));
  if (fits.length === 0)
    return {
      cuts,
      left,
      why: `${(to - from).toFixed(2)} m would stretch its parts to ${counts.map((n) => `${((whole / n) * 100).toFixed(0)} %`).join(' or ')}`,
    };
  return { cuts: evenly(of, fits[0], (to - from) / fits[0]), left: 0 };
}

function march({ path, from, to, lean }: Filling, length: number, most: number): number[] {
  const cuts = [from];
  if (path.straight && !lean) {
    // Each from the start, so that nothing adds up.
    for (let i = 1; i <= most && from + i * length <= to + MEETS; i++) cuts.push(from + i * length);
    return cuts;
  }
  for (let s = from; cuts.length <= Math.min(most, MOST_PARTS);) {
    s = reachFrom(path, s, length, lean);
    if (s > to + MEETS) break;
    cuts.push(s);
  }
  return cuts;
}

/** So many parts that are all as long as each other, and end where the stretch does. */
function evenly(of: Filling, count: number, guess: number): number[] {
  const { path, from, to, lean } = of;
  if (path.straight && !lean) return Array.from({ length: count + 1 }, (_, i) => (i === count ? to : from + i * guess));
  const end = (length: number): number => {
    let s = from;
    for (let i = 0; i < count; i++) s = reachFrom(path, s, length, lean);
    return s;
  };
  let [low, high] = [guess * 0.3, guess * 4];
  for (let i = 0; i < 60; i++) {
    const middle = (low + high) / 2;
    if (end(middle) < to) low = middle;
    else high = middle;
  }
  const cuts = march({ ...of, to: Infinity }, high, count);
  cuts[count] = to;
  return cuts;
}
