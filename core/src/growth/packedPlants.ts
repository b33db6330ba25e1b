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

const _float = new Float32Array(1);
const _bits = new Int32Array(_float.buffer);

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
export const keptTurn = (turn: number): number => ((Math.round((turn * FULL) / 360) & 0xffff) * 360) / FULL;

/** A kept size from 2^-8 to under 2^8 in 16 bits; 0, which is none, for any other. */
function sizeBits(size: number): number {
  _float[0] = size;
  const bits = (_bits[0] >>> 11) - ((127 - 8) << 12);
  return bits > 0 && bits < FULL ? bits : 0;
}
function sizeOf(bits: number): number {
  _bits[0] = (bits + ((127 - 8) << 12)) << 11;
  return _float[0];
}

/** Packs plants; `unpacked` gives them back bit for bit. */
export function packPlants({ place, id, ...plants }: Plants): PackedPlants {
  const { count } = plants;
  const column = () => new Uint16Array(count);
  const [turn, to, lean, tall, wide, deep] = [column(), column(), column(), column(), column(), column()];
  const at = new Float32Array(count * 3);
  let asWide = true;
  for (let i = 0, o = 0; i < count; i++, o += PLANT_STRIDE) {
    at[i * 3] = place[o];
    at[i * 3 + 1] = place[o + 1];
    at[i * 3 + 2] = place[o + 2];
    turn[i] = Math.round((place[o + TURN] * FULL) / 360);
    to[i] = Math.round((place[o + TO] * FULL) / 360);
    lean[i] = Math.round((place[o + LEAN] * FULL) / 180);
    tall[i] = sizeBits(place[o + TALL]);
    wide[i] = sizeBits(place[o + WIDE]);
    deep[i] = sizeBits(place[o + DEEP]);
    asWide &&= deep[i] === wide[i];
  }
  const packed: PackedPlants = {
    ...plants,
    at,
    turn,
    to,
    lean,
    tall,
    wide,
    ...(asWide ? {} : { deep }),
    ...packIds(id, count),
    odd: new Uint32Array(),
    oddPlace: new Float32Array(),
  };
  const back = unpackPlace(packed);
  const odd: number[] = [];
  for (let i = 0; i < count; i++) {
    for (let k = i * PLANT_STRIDE; k < (i + 1) * PLANT_STRIDE; k++)
      if (back[k] !== place[k]) {
        odd.push(i);
        break;
      }
  }
  const oddPlace = new Float32Array(odd.length * PLANT_STRIDE);
  odd.forEach((i, n) => oddPlace.set(place.subarray(i * PLANT_STRIDE, (i + 1) * PLANT_STRIDE), n * PLANT_STRIDE));
  return { ...packed, odd: Uint32Array.from(odd), oddPlace };
}

function packIds(id: Int32Array, count: number): Pick<PackedPlants, 'slot' | 'runs' | 'id'> {
  const runs: number[] = [];
  const slot = new Uint16Array(count);
  // Past as many runs the three integers themselves are shorter.
  for (let i = 0; i < count && runs.length * 2 <= count * 5; i++) {
    const [x, z, s] = [id[i * 3], id[i * 3 + 1], id[i * 3 + 2]];
    if (s < -1 || s >= BY_HAND) return { id: id.slice(0, count * 3) };
    if (i === 0 || x !== runs[runs.length - 2] || z !== runs[runs.length - 1]) runs.push(i, x, z);
    slot[i] = s < 0 ? BY_HAND : s;
  }
  return runs.length * 2 > count * 5 ? { id: id.slice(0, count * 3) } : { slot, runs: Int32Array.from(runs) };
}

function unpackPlace({ count, at, turn, to, lean, tall, wide, deep = wide, odd, oddPlace }: PackedPlants): Float32Array {
  const place = new Float32Array(count * PLANT_STRIDE);
  for (let i = 0, o = 0; i < count; i++, o += PLANT_STRIDE) {
    place[o] = at[i * 3];
    place[o + 1] = at[i * 3 + 1];
    place[o + 2] = at[i * 3 + 2];
    place[o + TURN] = (turn[i] * 360) / FULL;
    place[o + TALL] = sizeOf(tall[i]);
    place[o + WIDE] = sizeOf(wide[i]);
    place[o + LEAN] = (lean[i] * 180) / FULL;
    place[o + TO] = (to[i] * 360) / FULL;
    place[o + DEEP] = sizeOf(deep[i]);
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
