import { PLANT_STRIDE, type Plants } from './plants';

/**
 * Plants of a species as they lie at rest, 27 bytes each and some for each copy of their pattern:
 *
 * - `at`: x, y, z, three float32, metres
 * - `turn`, `to`: uint16, 65,536 to a full turn
 * - `lean`: uint16, 65,536 to 180 degrees
 * - `tall`, `wide`, `deep`: uint16, four bits of exponent from 2^-8 on and twelve of mantissa; `deep` is left out where all are as
 *   deep as wide
 * - `look`: a byte
 * - `slot`: uint16, the last of the three integers of its id; the first two are those of its run: `runs` has start, x and z of each
 *   stretch of plants that have both in common. Where that would be longer, `id` is there instead.
 *
 * Those that do not come back bit for bit stand in `odd` by their index, nine float32 each in `oddPlace`: what was set by hand.
 */
export interface PackedPlants extends Omit<Plants, 'place' | 'id'> {
  at: Float32Array;
  turn: Uint16Array;
  to: Uint16Array;
  lean: Uint16Array;
  tall: Uint16Array;
  wide: Uint16Array;
  deep?: Uint16Array;
  slot?: Uint16Array;
  runs?: Int32Array;
  id?: Int32Array;
  odd: Uint32Array;
  oddPlace: Float32Array;
}

/** Places of turn, lean and sizes among the numbers of a plant. */
const [TURN, TALL, WIDE, LEAN, TO, DEEP] = [3, 4, 5, 6, 7, 8];
const FULL = 65_536;
/** The slot of one that was set by hand, whose own is -1. */
const BY_HAND = 0xffff;

/** Splits off what is beyond 13 bits of a double (Dekker, 1971), and what is beyond a whole number. */
const SPLIT = 2 ** 40 + 1;
const WHOLE = 1.5 * 2 ** 52;
const LEAN_STEPS = FULL / 180;
/** exact, as all its multiples are */
const LEAN_STEP = 180 / FULL;

/**
 * A size as it is kept: twelve bits of mantissa behind the first, at most 1 part in 8192 off. Growth gives plants such sizes, so that
 * packing loses nothing.
 */
export function keptSize(size: number): number {
  const split = size * SPLIT;
  return split - (split - size);
}
/** A lean as it is kept, degrees: 0.0014 off at most. */
export const keptLean = (lean: number): number => (lean * LEAN_STEPS + WHOLE - WHOLE) * LEAN_STEP;
/** A direction as it is kept, degrees from 0 to under 360: 0.003 off at most. */
export const keptTurn = (turn: number): number => (Math.round(turn * TURN_STEPS) & 0xffff) * TURN_STEP;

/** What of a float's bits 16 are kept of: those below are none of a kept size, and its exponent begins at 2^-8. */
const BELOW = 11;
const LOWEST = (127 - 8) << 12;
const LOST = (1 << BELOW) - 1;
const TURN_STEPS = FULL / 360;
const TURN_STEP = 360 / FULL;

/** Packs plants; `unpacked` gives them back bit for bit. In one pass: it follows each dab. */
export function packPlants({ place, id, ...plants }: Plants): PackedPlants {
  const { count } = plants;
  const bits = new Int32Array(place.buffer, place.byteOffset, count * PLANT_STRIDE);
  const column = () => new Uint16Array(count);
  const [turn, to, lean, tall, wide, deep] = [column(), column(), column(), column(), column(), column()];
  const at = new Float32Array(count * 3);
  const atBits = new Int32Array(at.buffer);
  const odd: number[] = [];
  let asWide = true;
  for (let i = 0, o = 0, a = 0; i < count; i++, o += PLANT_STRIDE, a += 3) {
    atBits[a] = bits[o];
    atBits[a + 1] = bits[o + 1];
    atBits[a + 2] = bits[o + 2];
    const turns = place[o + TURN];
    const leans = place[o + LEAN];
    const ways = place[o + TO];
    turn[i] = (turns * TURN_STEPS + 0.5) | 0;
    lean[i] = (leans * LEAN_STEPS + 0.5) | 0;
    to[i] = (ways * TURN_STEPS + 0.5) | 0;
    tall[i] = (bits[o + TALL] >>> BELOW) - LOWEST;
    wide[i] = (bits[o + WIDE] >>> BELOW) - LOWEST;
    deep[i] = (bits[o + DEEP] >>> BELOW) - LOWEST;
    asWide &&= deep[i] === wide[i];
    if (
      Math.fround(turn[i] * TURN_STEP) !== turns ||
      Math.fround(lean[i] * LEAN_STEP) !== leans ||
      Math.fround(to[i] * TURN_STEP) !== ways ||
      !isKept(bits[o + TALL]) ||
      !isKept(bits[o + WIDE]) ||
      !isKept(bits[o + DEEP])
    )
      odd.push(i);
  }
  const oddPlace = new Float32Array(odd.length * PLANT_STRIDE);
  odd.forEach((i, n) => oddPlace.set(place.subarray(i * PLANT_STRIDE, (i + 1) * PLANT_STRIDE), n * PLANT_STRIDE));
  return { ...plants, at, turn, to, lean, tall, wide, ...(asWide ? {} : { deep }), ...packIds(id, count), odd: Uint32Array.from(odd), oddPlace };
}

/** Whether a float of these bits is a size from 2^-8 to under 2^8 that its 16 bits say all of. */
const isKept = (bits: number): boolean => (bits & LOST) === 0 && bits >>> BELOW >= LOWEST && bits >>> BELOW < LOWEST + FULL;

function packIds(id: Int32Array, count: number): Pick<PackedPlants, 'slot' | 'runs' | 'id'> {
  const runs: number[] = [];
  const slot = new Uint16Array(count);
  let [x, z] = [NaN, NaN];
  for (let i = 0, k = 0; i < count; i++, k += 3) {
    const s = id[k + 2];
    if (id[k] !== x || id[k + 1] !== z) {
      [x, z] = [id[k], id[k + 1]];
      runs.push(i, x, z);
    }
    // With so many runs the three integers themselves are shorter.
    if (s < -1 || s >= BY_HAND || runs.length * 2 > count * 5 + 6) return { id: id.slice(0, count * 3) };
    slot[i] = s < 0 ? BY_HAND : s;
  }
  return { slot, runs: Int32Array.from(runs) };
}

function unpackPlace({ count, at, turn, to, lean, tall, wide, deep = wide, odd, oddPlace }: PackedPlants): Float32Array {
  const place = new Float32Array(count * PLANT_STRIDE);
  const bits = new Int32Array(place.buffer);
  for (let i = 0, o = 0, a = 0; i < count; i++, o += PLANT_STRIDE, a += 3) {
    place[o] = at[a];
    place[o + 1] = at[a + 1];
    place[o + 2] = at[a + 2];
    place[o + TURN] = turn[i] * TURN_STEP;
    bits[o + TALL] = (tall[i] + LOWEST) << BELOW;
    bits[o + WIDE] = (wide[i] + LOWEST) << BELOW;
    place[o + LEAN] = lean[i] * LEAN_STEP;
    place[o + TO] = to[i] * TURN_STEP;
    bits[o + DEEP] = (deep[i] + LOWEST) << BELOW;
  }
  odd.forEach((i, n) => place.set(oddPlace.subarray(n * PLANT_STRIDE, (n + 1) * PLANT_STRIDE), i * PLANT_STRIDE));
  return place;
}

function unpackIds({ count, slot, runs, id }: PackedPlants): Int32Array {
  if (id) return id;
  const out = new Int32Array(count * 3);
  for (let r = 0; r < runs!.length; r += 3) {
    const end = r + 3 < runs!.length ? runs![r + 3] : count;
    for (let i = runs![r]; i < end; i++) {
      out[i * 3] = runs![r + 1];
      out[i * 3 + 1] = runs![r + 2];
      out[i * 3 + 2] = slot![i] === BY_HAND ? -1 : slot![i];
    }
  }
  return out;
}

/** What `make` gives, kept for as long as somebody holds it and remade after that. */
function kept<T extends object>(make: () => T): () => T {
  let known: WeakRef<T> | undefined;
  return () => {
    const there = known?.deref();
    if (there) return there;
    const made = make();
    known = new WeakRef(made);
    return made;
  };
}

/**
 * Packed plants as all that looks at plants sees them: their places and ids are there while somebody reads them. Read once before a
 * loop, not in it. A copy of it (spread, or sent to a worker) is not packed.
 */
export function unpacked(packed: PackedPlants): Plants {
  const place = kept(() => unpackPlace(packed));
  const id = kept(() => unpackIds(packed));
  const { species, count, look, hand, over, by } = packed;
  return {
    species,
    count,
    get place() {
      return place();
    },
    look,
    get id() {
      return id();
    },
    hand,
    ...(over === undefined ? {} : { over }),
    ...(by === undefined ? {} : { by }),
  };
}

/** Bytes of some plants at rest. */
export const packedBytes = (p: PackedPlants): number =>
  [p.at, p.turn, p.to, p.lean, p.tall, p.wide, p.deep, p.look, p.slot, p.runs, p.id, p.odd, p.oddPlace].reduce((sum, a) => sum + (a?.byteLength ?? 0), 0);
