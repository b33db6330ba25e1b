import { quadAt } from '../earth/sample';
import { MOST_SURFACES, type Species } from '../level/objects';
import { tanDeg } from '../num/trig';
import { clamp } from '../num/vec';
import { SLOTS, type GroundRaster } from '../surface/ground';

/** The masks of a species' rule, made ready: bands in tangents and metres, and which surfaces count. */
export interface Masks {
  on: boolean;
  /** where the band begins to let in, lets all in, lets all in until, lets none in any more */
  slope: [number, number, number, number];
  height: [number, number, number, number];
  /** 1 for each surface it grows on, by its place in the level's list; all 1 where none was named */
  grounds: Float64Array;
  anyGround: boolean;
  /** a bit for each that counts */
  wanted: number;
  /** the first four of them as the bytes of a sample's weights, 255 for each that counts */
  bytes: number;
}

/** The rule of a species made ready: slopes as rise over run, surfaces as indexes. @param surfaces ids of the level's surfaces, in their order */
export function masksOf(species: Pick<Species, 'rule'>, surfaces: readonly string[]): Masks {
  const { rule } = species;
  const tan = (deg: number) => tanDeg(clamp(deg, 0, 89.9));
  const soft = rule.soft / 4;
  const anyGround = rule.grounds.length === 0;
  const grounds = Float64Array.from({ length: MOST_SURFACES }, (_, i) => (anyGround || rule.grounds.includes(surfaces[i]) ? 1 : 0));
  return {
    on: rule.on,
    slope: [
      rule.slope[0] <= 0 ? -1 : tan(rule.slope[0] - rule.soft),
      rule.slope[0] <= 0 ? -1 : tan(rule.slope[0]),
      tan(rule.slope[1]),
      tan(rule.slope[1] + rule.soft),
    ],
    height: [rule.height[0] - soft, rule.height[0], rule.height[1], rule.height[1] + soft],
    grounds,
    anyGround,
    wanted: grounds.reduce((bits, g, k) => (g === 0 ? bits : bits | (1 << k)), 0),
    bytes: new Int32Array(Uint8Array.from(grounds.subarray(0, SLOTS), (g) => g * 255).buffer)[0],
  };
}

/** Share of the ground at a point that the species grows on, bilinear between samples. Bare blockout has none of the surfaces. */
export function onGround(masks: Masks, ground: GroundRaster, x: number, z: number, top: boolean): number {
  const { nx } = ground.grid;
  const data = top ? ground.tops : ground.weights;
  const of = top ? ground.topOf : ground.of;
  const g = masks.grounds;
  const { ix, iz, u, v } = quadAt(ground.grid, x, z);
  const at = (sample: number): number => {
    let sum = 0;
    for (let k = sample * SLOTS; k < (sample + 1) * SLOTS; k++) sum += data[k] * g[of[k]];
    return sum;
  };
  const i = iz * nx + ix;
  const [nw, ne, sw, se] = [at(i), at(i + 1), at(i + nx), at(i + nx + 1)];
  // Level ground is told as it is, without what mixing would round.
  if (nw === ne && nw === sw && nw === se) return nw / 255;
  return ((nw * (1 - u) + ne * u) * (1 - v) + (sw * (1 - u) + se * u) * v) / 255;
}

/** Sum of the four weights of a sample in one word, those that do not count masked out. */
export function wantedIn(bytes: number): number {
  const pairs = (bytes & 0xff00ff) + ((bytes >>> 8) & 0xff00ff);
  return (pairs & 0xffff) + (pairs >>> 16);
}
