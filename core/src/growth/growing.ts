import type { PlantObject, Species } from '../level/objects';
import { hashInts, mix32 } from '../num/hash';
import type { Candidates } from './candidates';
import { PLANT_STRIDE, type Plants } from './plants';

/** The n-th number of a plant's own, 0 to 1. */
const unit = (seed: number, n: number): number => mix32(seed + Math.imul(n, 0x85ebca77)) / 4294967296;

/** Room that species are grown in one after the other; it doubles as it fills and is kept. */
let _place = new Float32Array(0);
let _tint = new Uint8Array(0);
let _id = new Int32Array(0);

let _seeds = new Uint32Array(0);

/** What each of the candidates left draws its size, turn and tint from. */
function seedsOf(c: Candidates, copy: number): Uint32Array {
  if (_seeds.length < c.count) _seeds = new Uint32Array(c.live.length);
  for (let i = 0; i < c.count; i++) _seeds[i] = hashInts(copy, c.live[i], 1);
  return _seeds;
}

/** Plants while they are chosen. One species at a time: all share the same room until they are `done`. */
export class Growing {
  count = 0;
  place: Float32Array;
  private tint: Uint8Array;
  private id: Int32Array;
  private readonly hand: string[] = [];
  /** @param expected about how many there will be */
  constructor(private readonly species: string, expected: number) {
    if (_tint.length < Math.max(64, expected)) this.room(Math.max(64, expected));
    this.place = _place;
    this.tint = _tint;
    this.id = _id;
  }

  private room(n: number): void {
    _place = new Float32Array(n * PLANT_STRIDE);
    _tint = new Uint8Array(n);
    _id = new Int32Array(n * 3);
  }

  /** All that are left of a copy of the pattern. */
  addAll(c: Candidates, copy: number, s: Species, asset: number, cx: number, cz: number): void {
    while ((this.count + c.count) * PLANT_STRIDE > this.place.length) this.double();
    const seeds = seedsOf(c, copy);
    const { place, tint, id } = this;
    const [low, high] = s.height;
    const [slim, stout] = s.slenderness;
    const tints = s.tints.length;
    for (let i = 0; i < c.count; i++) {
      const slot = c.live[i];
      const seed = seeds[i];
      const n = this.count + i;
      const o = n * PLANT_STRIDE;
      const tall = (low + (high - low) * unit(seed, 1)) / asset;
      place[o] = c.x[slot];
      place[o + 1] = c.height[slot];
      place[o + 2] = c.z[slot];
      place[o + 3] = unit(seed, 2) * 360;
      place[o + 4] = tall;
      place[o + 5] = tall * (slim + (stout - slim) * unit(seed, 3));
      place[o + 6] = s.lean * unit(seed, 4);
      place[o + 7] = unit(seed, 5) * 360;
      tint[n] = Math.floor(unit(seed, 6) * tints);
      id[n * 3] = cx;
      id[n * 3 + 1] = cz;
      id[n * 3 + 2] = slot;
    }
    this.count += c.count;
  }

  addHand(p: PlantObject, seed: number, s: Species): void {
    if ((this.count + 1) * PLANT_STRIDE > this.place.length) this.double();
    const n = this.count++;
    this.place.set([p.at[0], p.at[1], p.at[2], p.turn, p.scale, p.scale, s.lean * unit(seed, 4), unit(seed, 5) * 360], n * PLANT_STRIDE);
    this.tint[n] = Math.floor(unit(seed, 6) * s.tints.length);
    this.id.set([this.hand.length, 0, -1], n * 3);
    this.hand.push(p.id);
  }

  private double(): void {
    this.room(this.tint.length * 2);
    _place.set(this.place);
    _tint.set(this.tint);
    _id.set(this.id);
    this.place = _place;
    this.tint = _tint;
    this.id = _id;
  }

  done(): Plants {
    return { species: this.species, count: this.count, place: this.place.slice(0, this.count * PLANT_STRIDE), tint: this.tint.slice(0, this.count), id: this.id.slice(0, this.count * 3), hand: this.hand };
  }
}
