import type { Species } from '../level/objects';
import type { Grid } from '../level/tiles';
import { copyOf, drawOf } from './growCopy';
import type { Growing } from './growing';
import { pattern } from './pattern';
import { PLANT_STRIDE } from './plants';

/** Side of a square of 100 m2. */
export const SQUARE = 10;

/**
 * The most plants of all species that a square of 100 m2 holds. Those set by hand come first, then species in their order; of
 * one species those that drew the lowest numbers stay, so that what is over thins out evenly and nothing outside a square
 * that is full goes or comes.
 */
export class Ceiling {
  private readonly across: number;
  private readonly counts: Uint32Array;

  constructor(
    { width, depth }: Pick<Grid, 'width' | 'depth'>,
    private readonly most: number,
  ) {
    this.across = Math.max(1, Math.ceil(width / SQUARE));
    this.counts = new Uint32Array(this.across * Math.max(1, Math.ceil(depth / SQUARE)));
  }

  private square(x: number, z: number): number {
    const down = this.counts.length / this.across;
    const cell = (v: number, n: number) => Math.min(n - 1, Math.max(0, Math.floor(v / SQUARE)));
    return cell(z, down) * this.across + cell(x, this.across);
  }

  /** One that stands whatever the ceiling is. */
  add(x: number, z: number): void {
    this.counts[this.square(x, z)]++;
  }

  /** Takes out of what has grown what is over the ceiling, and counts the rest. @returns how many it took */
  limit(out: Growing, { seed }: Pick<Species, 'seed'>): number {
    const { rank } = pattern(seed);
    const { place, id } = out;
    const over = new Map<number, number[]>();
    const squares = new Uint32Array(out.count);
    const here = this.counts.slice();
    for (let i = 0; i < out.count; i++) {
      const square = this.square(place[i * PLANT_STRIDE], place[i * PLANT_STRIDE + 2]);
      squares[i] = square;
      if (++here[square] > this.most) over.set(square, []);
    }
    if (over.size > 0) {
      for (let i = 0; i < out.count; i++) over.get(squares[i])?.push(i);
      const drew = (i: number) => drawOf(copyOf(seed, id[i * 3], id[i * 3 + 1]), rank[id[i * 3 + 2]]);
      const gone = new Uint8Array(out.count);
      for (const [square, list] of over) {
        const room = Math.max(0, this.most - this.counts[square]);
        list.sort((a, b) => drew(a) - drew(b) || a - b);
        for (const i of list.slice(room)) gone[i] = 1;
        here[square] = Math.max(this.most, this.counts[square]);
      }
      this.counts.set(here);
      return out.drop(gone);
    }
    this.counts.set(here);
    return 0;
  }
}
