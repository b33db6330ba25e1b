import type { PlantObject, Species } from '../level/objects';
import { hashInts, hashText, mix32 } from '../num/hash';
import type { Candidates } from './candidates';
import type { GrowthRoom } from './growthRoom';
import { leanOfPose, PLANT_STRIDE, type Plants } from './plants';

/** Two numbers a draw of a plant's own holds, 0 to 1: its upper and its lower half. */
const upper = (draw: number): number => (draw >>> 16) / 65536;
const lower = (draw: number): number => (draw & 0xffff) / 65536;
/** The second and the third draw of a plant, from its first. */
const second = (first: number): number => mix32(first + 0x85ebca77);
const third = (first: number): number => mix32(first + 0x9e3779b9);

/** Room that species are grown in one after the other; it doubles as it fills and is kept. */

/** What a plant set by hand is drawn from: its species' seed and its own id. */
export const handSeed = (s: Pick<Species, 'seed'>, id: string): number => hashInts(s.seed, parseInt(hashText(id).slice(0, 8), 16), 9);

/** How far such a plant leans and which way, degrees. */
export const handLean = (s: Pick<Species, 'lean'>, seed: number): [lean: number, to: number] => [s.lean * lower(second(seed)), upper(third(seed)) * 360];

/** Plants while they are chosen. One species at a time: all use the same room until they are `done`. */
export class Growing {
  count = 0;
  place: Float32Array;
  private tint: Uint8Array;
  id: Int32Array;
  /** how many the ceiling kept out */
  over = 0;
  private readonly hand: string[] = [];
  /** @param expected about how many there will be */
  constructor(
    private readonly species: string,
    expected: number,
    private readonly room: GrowthRoom,
  ) {
    const least = Math.max(64, expected);
    if (room.tint.length < least) room.fit(least);
    ({ place: this.place, tint: this.tint, id: this.id } = room);
  }

  /** All that are left of a copy of the pattern. */
  addAll(c: Candidates, { copy, s, asset, cx, cz }: { copy: number; s: Species; asset: number; cx: number; cz: number }): void {
    while ((this.count + c.count) * PLANT_STRIDE > this.place.length) this.double();
    const own = hashInts(copy, 1);
    const { place, tint, id } = this;
    const [low, high] = s.height;
    const [slim, stout] = s.slenderness;
    const { lean } = s;
    const perAsset = 1 / asset;
    const tints = s.tints.length;
    for (let i = 0; i < c.count; i++) {
      const slot = c.live[i];
      const a = mix32(own ^ Math.imul(slot + 1, 0x27d4eb2d));
      const b = second(a);
      const n = this.count + i;
      const o = n * PLANT_STRIDE;
      const tall = (low + (high - low) * upper(a)) * perAsset;
      const wide = tall * (slim + (stout - slim) * upper(b));
      place[o] = c.x[slot];
      place[o + 1] = c.height[slot];
      place[o + 2] = c.z[slot];
      place[o + 3] = lower(a) * 360;
      place[o + 4] = tall;
      place[o + 5] = wide;
      place[o + 6] = lean * lower(b);
      const d = third(a);
      place[o + 7] = upper(d) * 360;
      place[o + 8] = wide;
      tint[n] = lower(d) * tints;
      id[n * 3] = cx;
      id[n * 3 + 1] = cz;
      id[n * 3 + 2] = slot;
    }
    this.count += c.count;
  }

  /** Takes some out. @param gone one byte a plant, 1 for those that go @returns how many went */
  drop(gone: Uint8Array): number {
    const { place, tint, id } = this;
    let n = 0;
    for (let i = 0; i < this.count; i++) {
      if (gone[i]) continue;
      place.copyWithin(n * PLANT_STRIDE, i * PLANT_STRIDE, (i + 1) * PLANT_STRIDE);
      tint[n] = tint[i];
      id.copyWithin(n * 3, i * 3, (i + 1) * 3);
      n++;
    }
    const went = this.count - n;
    this.count = n;
    return went;
  }

  addHand(p: PlantObject, seed: number, s: Species): void {
    if ((this.count + 1) * PLANT_STRIDE > this.place.length) this.double();
    const n = this.count++;
    const [wide, tall, deep] = typeof p.scale === 'number' ? [p.scale, p.scale, p.scale] : p.scale;
    const [turn, lean, to] = p.tilt ? leanOfPose(p) : [p.turn, ...handLean(s, seed)];
    this.place.set([p.at[0], p.at[1], p.at[2], turn, tall, wide, lean, to, deep], n * PLANT_STRIDE);
    this.tint[n] = Math.min(p.tint ?? lower(third(seed)) * s.tints.length, Math.max(0, s.tints.length - 1));
    this.id.set([this.hand.length, 0, -1], n * 3);
    this.hand.push(p.id);
  }

  private double(): void {
    const { room } = this;
    room.fit(this.tint.length * 2);
    room.place.set(this.place);
    room.tint.set(this.tint);
    room.id.set(this.id);
    ({ place: this.place, tint: this.tint, id: this.id } = room);
  }

  done(): Plants {
    return {
      species: this.species,
      count: this.count,
      place: this.place.slice(0, this.count * PLANT_STRIDE),
      tint: this.tint.slice(0, this.count),
      id: this.id.slice(0, this.count * 3),
      hand: this.hand,
      ...(this.over > 0 ? { over: this.over } : {}),
    };
  }
}
