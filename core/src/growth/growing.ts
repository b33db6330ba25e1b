import type { Asset } from '../kit/asset';
import type { Assets } from '../kit/placement';
import type { PlantObject, Species } from '../level/objects';
import { hashInts, hashText, mix32 } from '../num/hash';
import { fractalNoise } from '../num/noise';
import { atan2Deg, sinCosDeg, slopeDeg } from '../num/trig';
import { clamp } from '../num/vec';
import type { Candidates } from './candidates';
import type { GrowthRoom } from './growthRoom';
import { assetsOfSpecies, lookOf, meshByHand, meshDrawn, meshesOf, meshShares, type MeshShares } from './meshes';
import { keptLean, keptSize, keptTurn } from './packedPlants';
import { leanOfPose, PLANT_STRIDE, type Plants } from './plants';
import type { SlopeUnder } from './slopeUnder';

/** Two numbers a draw of a plant's own holds, 0 to 1: its upper and its lower half. */
const upper = (draw: number): number => (draw >>> 16) / 65536;
const lower = (draw: number): number => (draw & 0xffff) / 65536;
/** The second and the third draw of a plant, from its first. */
const second = (first: number): number => mix32(first + 0x85ebca77);
const third = (first: number): number => mix32(first + 0x9e3779b9);
const fourth = (first: number): number => mix32(first + 0x3c6ef372);

/** What a plant's own numbers are drawn for: its species, the meshes it has, the patches its tints stand in. */
export interface Drawing {
  s: Pick<Species, 'height' | 'slenderness' | 'depth' | 'lean' | 'leanToSlope' | 'sink' | 'tints'>;
  meshes: MeshShares;
  /** where it leans with the ground */
  slopeAt?: SlopeUnder;
  patch?: (x: number, z: number, drew: number) => number;
}

/**
 * How plants are drawn: a function that writes how one stands behind its place (see `PLANT_STRIDE`), all by one number it drew, and
 * gives its look. What all of them share is worked out once.
 */
export function drawerOf({ s, meshes, patch, slopeAt }: Drawing): (place: Float32Array, o: number, drew: number) => number {
  const [low, high] = s.height;
  const [slim, stout] = s.slenderness;
  const { lean, leanToSlope = 0, sink = 0, depth } = s;
  const tints = s.tints.length;
  const several = meshes.upTo.length > 1;
  const [per] = meshes.perHeight;
  return (place, o, drew) => {
    const b = second(drew);
    const d = third(drew);
    const e = several || depth ? fourth(drew) : 0;
    const mesh = several ? meshDrawn(meshes, upper(e)) : 0;
    const tall = (low + (high - low) * upper(drew)) * (several ? meshes.perHeight[mesh] : per);
    // Lean and sizes are such as packing keeps.
    const wide = keptSize(tall * (slim + (stout - slim) * upper(b)));
    place[o + 3] = lower(drew) * 360;
    place[o + 4] = keptSize(tall);
    place[o + 5] = wide;
    place[o + 6] = keptLean(lean * lower(b));
    place[o + 7] = upper(d) * 360;
    place[o + 8] = depth ? keptSize(wide * (depth[0] + (depth[1] - depth[0]) * lower(e))) : wide;
    const tint = (patch ? patch(place[o], place[o + 2], lower(d)) : lower(d)) * tints;
    if (slopeAt && leanToSlope > 0) leanAlong(place, o, slopeAt([place[o], place[o + 1], place[o + 2]]), leanToSlope);
    if (sink > 0) place[o + 1] -= sink;
    return lookOf(tint | 0, mesh);
  };
}

/** Adds a share of a slope to a plant's own lean: both as turns about level axes, summed. */
function leanAlong(place: Float32Array, o: number, [gx, gz]: readonly [number, number], share: number): void {
  const angle = slopeDeg(Math.sqrt(gx * gx + gz * gz)) * share;
  if (angle === 0) return;
  // Up turned about this axis goes down the slope.
  const long = Math.sqrt(gx * gx + gz * gz);
  const [s, c] = sinCosDeg(place[o + 7]);
  const x = place[o + 6] * c - (angle * gz) / long;
  const z = place[o + 6] * s + (angle * gx) / long;
  place[o + 6] = keptLean(Math.sqrt(x * x + z * z));
  place[o + 7] = keptTurn(atan2Deg(z, x));
}

/** What a plant set by hand is drawn from: its species' seed and its own id. */
export const handSeed = (s: Pick<Species, 'seed'>, id: string): number => hashInts(s.seed, parseInt(hashText(id).slice(0, 8), 16), 9);

/** By which number such a plant has its mesh, 0 to 1. */
const handMeshDraw = (seed: number): number => upper(fourth(seed));

/** How far such a plant leans and which way, degrees. */
export const handLean = (s: Pick<Species, 'lean'>, seed: number): [lean: number, to: number] => [s.lean * lower(second(seed)), upper(third(seed)) * 360];

/** Plants while they are chosen. One species at a time: all use the same room until they are `done`. */
export class Growing {
  count = 0;
  place: Float32Array;
  look: Uint8Array;
  id: Int32Array;
  /** how many the ceiling kept out */
  over = 0;
  private readonly hand: string[] = [];
  private patches?: ReturnType<typeof patchesOf>;
  /** @param expected about how many there will be */
  constructor(
    private readonly species: string,
    expected: number,
    private readonly room: GrowthRoom,
  ) {
    const least = Math.max(64, expected);
    if (room.look.length < least) room.fit(least);
    ({ place: this.place, look: this.look, id: this.id } = room);
  }

  /** All that are left of a copy of the pattern. */
  addAll(
    c: Candidates,
    { copy, s, meshes, slopeAt, cx, cz, origin }: Drawing & { copy: number; s: Species; cx: number; cz: number; origin: readonly [number, number] },
  ): void {
    while ((this.count + c.count) * PLANT_STRIDE > this.place.length) this.double();
    const own = hashInts(copy, 1);
    const { place, look, id } = this;
    const patch = s.patch === undefined || s.tints.length < 2 ? undefined : (this.patches ??= patchesOf(s, s.patch, origin));
    const draw = drawerOf({ s, meshes, patch, slopeAt });
    for (let i = 0; i < c.count; i++) {
      const slot = c.live[i];
      const n = this.count + i;
      const o = n * PLANT_STRIDE;
      place[o] = c.x[slot];
      place[o + 1] = c.height[slot];
      place[o + 2] = c.z[slot];
      look[n] = draw(place, o, mix32(own ^ Math.imul(slot + 1, 0x27d4eb2d)));
      id[n * 3] = cx;
      id[n * 3 + 1] = cz;
      id[n * 3 + 2] = slot;
    }
    this.count += c.count;
  }

  /**
   * Takes those that grew before in between those that grew now, where they would lie had all grown now: by row of copies, by
   * copy, by place in it.
   *
   * @param from of the same species and pass, its first `stood`; both are in that order
   * @param dropped which of them go, ascending
   */
  merge(from: Plants, stood: number, dropped: readonly number[]): void {
    const total = this.count + stood - dropped.length;
    const place = new Float32Array(total * PLANT_STRIDE);
    const look = new Uint8Array(total);
    const id = new Int32Array(total * 3);
    let [at, old, d] = [0, 0, 0];
    const put = ({ place: p, look: l, id: n }: Pick<Plants, 'place' | 'look' | 'id'>, first: number, end: number) => {
      place.set(p.subarray(first * PLANT_STRIDE, end * PLANT_STRIDE), at * PLANT_STRIDE);
      look.set(l.subarray(first, end), at);
      id.set(n.subarray(first * 3, end * 3), at * 3);
      at += end - first;
    };
    const putOld = (until: number) => {
      while (old < until) {
        const end = d < dropped.length && dropped[d] < until ? dropped[d] : until;
        put(from, old, end);
        old = end;
        if (d < dropped.length && dropped[d] === old) {
          old++;
          d++;
        }
      }
    };
    for (let n = 0; n < this.count; n++) {
      putOld(placeAmong(from.id, stood, this.id, n));
      put(this, n, n + 1);
    }
    putOld(stood);
    Object.assign(this, { place, look, id, count: total });
  }

  /** Takes some out. @param gone one byte a plant, 1 for those that go @returns how many went */
  drop(gone: Uint8Array): number {
    const { place, look, id } = this;
    let n = 0;
    for (let i = 0; i < this.count; i++) {
      if (gone[i]) continue;
      place.copyWithin(n * PLANT_STRIDE, i * PLANT_STRIDE, (i + 1) * PLANT_STRIDE);
      look[n] = look[i];
      id.copyWithin(n * 3, i * 3, (i + 1) * 3);
      n++;
    }
    const went = this.count - n;
    this.count = n;
    return went;
  }

  addHand(p: PlantObject, seed: number, s: Species, meshes: MeshShares): void {
    if ((this.count + 1) * PLANT_STRIDE > this.place.length) this.double();
    const n = this.count++;
    const [wide, tall, deep] = typeof p.scale === 'number' ? [p.scale, p.scale, p.scale] : p.scale;
    const [turn, lean, to] = p.tilt ? leanOfPose(p) : [p.turn, ...handLean(s, seed)];
    this.place.set([p.at[0], p.at[1], p.at[2], turn, tall, wide, lean, to, deep], n * PLANT_STRIDE);
    const tint = Math.floor(Math.min(p.tint ?? lower(third(seed)) * s.tints.length, Math.max(0, s.tints.length - 1)));
    this.look[n] = lookOf(tint, meshByHand(meshes, p, handMeshDraw(seed)));
    this.id.set([this.hand.length, 0, -1], n * 3);
    this.hand.push(p.id);
  }

  private double(): void {
    const { room } = this;
    room.fit(Math.max(64, this.look.length * 2));
    room.place.set(this.place);
    room.look.set(this.look);
    room.id.set(this.id);
    ({ place: this.place, look: this.look, id: this.id } = room);
  }

  /** What there is, in arrays of its own. */
  private own(): Pick<Plants, 'place' | 'look' | 'id'> {
    const { place, look, id, count } = this;
    // What was merged has them already.
    if (place !== this.room.place && look.length === count) return { place, look, id };
    return { place: place.slice(0, count * PLANT_STRIDE), look: look.slice(0, count), id: id.slice(0, count * 3) };
  }

  done(): Plants {
    return {
      species: this.species,
      count: this.count,
      ...this.own(),
      hand: this.hand,
      ...(this.over > 0 ? { over: this.over } : {}),
    };
  }
}

/** How many of the first `count` of some plants come before plant `k` of others as they grow: rows of copies first, then copies, then places. */
function placeAmong(a: Int32Array, count: number, b: Int32Array, k: number): number {
  let [low, high] = [0, count];
  while (low < high) {
    const i = (low + high) >> 1;
    const order = a[i * 3 + 1] - b[k * 3 + 1] || a[i * 3] - b[k * 3] || a[i * 3 + 2] - b[k * 3 + 2];
    if (order < 0) low = i + 1;
    else high = i;
  }
  return low;
}

/** How far a patch's own shade varies, and how far a plant is off that of its patch. */
const STRETCH = 0.9;
const OFF = 0.35;

/** Which tint a plant has where they stand in patches, 0 to just under 1: by a noise over the ground, and a little by its own chance. */
export function patchesOf({ seed }: Pick<Species, 'seed'>, size: number, [ox, oz]: readonly [number, number]): (x: number, z: number, drew: number) => number {
  const noise = fractalNoise(hashInts(seed, 31), 2);
  return (x, z, drew) => clamp(0.5 + noise.at((x + ox) / size, (z + oz) / size) * STRETCH + (drew - 0.5) * OFF, 0, 0.999_999);
}

/** The mesh a plant set by hand has: the one it names, or one of its species' by its own number. */
export function handAsset(s: Species, p: Pick<PlantObject, 'id' | 'asset'>, assets: Assets): Asset | undefined {
  const list = assetsOfSpecies(s, assets);
  if (list.length === 1) return list[0];
  // Only which of them are there counts here.
  const there = new Map(meshesOf(s).flatMap(({ asset }, i) => (list[i] ? [[asset, 1] as const] : [])));
  return list[meshByHand(meshShares(s, there), p, handMeshDraw(handSeed(s, p.id)))];
}
