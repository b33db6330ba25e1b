/** One row of `npm run bench`. `ratio` is how many times better ours is; low and high are its quartiles. */
export interface Row {
  name: string;
  ours: number;
  baseline: number;
  unit: string;
  ratio: number;
  low: number;
  high: number;
  target?: number;
  note: string;
}

export interface Pair {
  name: string;
  unit?: string;
  target?: number;
  note: string;
  /** pairs to run, at least 7 */
  pairs?: number;
  /** how many times the baseline's work would have to be done for that of ours; its time is told for all of it */
  times?: number;
  /** each does the whole of its work and forces it to be finished */
  ours(): void | Promise<void>;
  baseline(): void | Promise<void>;
}

const PAIRS = 9;

async function time(work: () => void | Promise<void>): Promise<number> {
  const start = performance.now();
  await work();
  return performance.now() - start;
}

/** Runs ours and the baseline in turn, pair by pair, so that both meet the machine in the same state. */
export async function measure(pair: Pair): Promise<Row> {
  // Both are compiled before they are timed: each runs thrice, or as often as a second holds.
  for (const work of [pair.ours, pair.baseline]) for (let i = 0, spent = 0; i < 3 && spent < 1000; i++) spent += await time(work);
  const ours: number[] = [];
  const baseline: number[] = [];
  const ratios: number[] = [];
  for (let i = 0; i < Math.max(7, pair.pairs ?? PAIRS); i++) {
    const a = await time(pair.ours);
    const b = (await time(pair.baseline)) * (pair.times ?? 1);
    ours.push(a);
    baseline.push(b);
    ratios.push(b / a);
  }
  return {
    name: pair.name,
    ours: quantile(ours, 0.5),
    baseline: quantile(baseline, 0.5),
    unit: pair.unit ?? 'ms',
    ratio: quantile(ratios, 0.5),
    low: quantile(ratios, 0.25),
    high: quantile(ratios, 0.75),
    ...(pair.target === undefined ? {} : { target: pair.target }),
    note: pair.note,
  };
}

/** Linear quantile of a list; 0.5 is the median. */
export function quantile(list: readonly number[], q: number): number {
  const sorted = [...list].sort((a, b) => a - b);
  const at = (sorted.length - 1) * q;
  const low = Math.floor(at);
  return sorted[low] + (sorted[Math.min(low + 1, sorted.length - 1)] - sorted[low]) * (at - low);
}
