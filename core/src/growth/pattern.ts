import { hashInts, randomStream } from '../num/hash';

/**
 * A blue-noise pattern on a torus: points no nearer than 1 to each other, also across its edges, so
 * that copies laid side by side keep the distance. `side` is its period; x and z lie in [0, side).
 */
export interface Pattern {
  side: number;
  count: number;
  x: Float64Array;
  z: Float64Array;
  /** the place of each point along a Z-order curve through them all: what lies near in it lies near on the ground */
  rank: Uint16Array;
}

const SIDE = 24;
/** A hair over 1, so that the promise holds after positions are rounded to float32. */
const APART = 1.001;
/** Throws a unit of area: more find next to no further gap. */
const TRIES = 90;

const cache = new Map<number, Pattern>();

/** Dart throwing on the torus with a grid of one point a cell; the same seed gives the same points. */
export function pattern(seed: number): Pattern {
  const known = cache.get(seed);
  if (known) return known;
  const cells = Math.floor((SIDE * Math.SQRT2) / APART);
  const size = SIDE / cells;
  const grid = new Int32Array(cells * cells).fill(-1);
  const xs: number[] = [];
  const zs: number[] = [];
  const random = randomStream(hashInts(seed, 77));
  for (let n = SIDE * SIDE * TRIES; n > 0; n--) {
    const x = random() * SIDE;
    const z = random() * SIDE;
    const cx = Math.min(cells - 1, Math.floor(x / size));
    const cz = Math.min(cells - 1, Math.floor(z / size));
    if (grid[cz * cells + cx] >= 0) continue;
    let free = true;
    for (let dz = -2; dz <= 2 && free; dz++) {
      for (let dx = -2; dx <= 2 && free; dx++) {
        const i = grid[((cz + dz + cells) % cells) * cells + ((cx + dx + cells) % cells)];
        if (i < 0) continue;
        let ax = Math.abs(xs[i] - x);
        let az = Math.abs(zs[i] - z);
        if (ax > SIDE / 2) ax = SIDE - ax;
        if (az > SIDE / 2) az = SIDE - az;
        free = ax * ax + az * az >= APART * APART;
      }
    }
    if (!free) continue;
    grid[cz * cells + cx] = xs.length;
    xs.push(x);
    zs.push(z);
  }
  // Slots run along rows two units high, so that neighbours in the list are neighbours on the ground.
  const order = xs.map((_, i) => i).sort((a, b) => Math.floor(zs[a] / 2) - Math.floor(zs[b] / 2) || xs[a] - xs[b]);
  const made: Pattern = {
    side: SIDE,
    count: xs.length,
    x: Float64Array.from(order, (i) => xs[i]),
    z: Float64Array.from(order, (i) => zs[i]),
    rank: ranks(order.map((i) => zOrder(xs[i], zs[i]))),
  };
  if (cache.size > 32) cache.clear();
  cache.set(seed, made);
  return made;
}

/** The bits of a place's x and z in turn, the highest first. */
function zOrder(x: number, z: number): number {
  let code = 0;
  for (let bit = 9, [qx, qz] = [Math.floor((x / SIDE) * 1024), Math.floor((z / SIDE) * 1024)]; bit >= 0; bit--)
    code = code * 4 + ((qx >> bit) & 1) * 2 + ((qz >> bit) & 1);
  return code;
}

function ranks(codes: readonly number[]): Uint16Array {
  const out = new Uint16Array(codes.length);
  codes
    .map((_, i) => i)
    .sort((a, b) => codes[a] - codes[b] || a - b)
    .forEach((slot, rank) => {
      out[slot] = rank;
    });
  return out;
}

/** The densest a species can stand at a spacing, plants per 100 m2: what the pattern holds. */
export const densest = (spacing: number, seed = 1): number => {
  const p = pattern(seed);
  return (p.count / (p.side * p.side * spacing * spacing)) * 100;
};
