import type { Species } from '../level/objects';
import { tanDeg } from '../num/trig';
import { clamp, smoothstep } from '../num/vec';
import { SURFACES } from '../surface/surfaces';

/** The masks of a species' rule, made ready: bands in tangents and metres, and which surfaces count. */
export interface Masks {
  on: boolean;
  /** where the band begins to let in, lets all in, lets all in until, lets none in any more */
  slope: [number, number, number, number];
  height: [number, number, number, number];
  /** 1 for each of the four surfaces it grows on; all 1 where none was named */
  grounds: Float64Array;
  anyGround: boolean;
}

export function masksOf(species: Pick<Species, 'rule'>, surfaces: readonly string[]): Masks {
  const { rule } = species;
  const tan = (deg: number) => tanDeg(clamp(deg, 0, 89.9));
  const soft = rule.soft / 4;
  const anyGround = rule.grounds.length === 0;
  return {
    on: rule.on,
    slope: [rule.slope[0] <= 0 ? -1 : tan(rule.slope[0] - rule.soft), rule.slope[0] <= 0 ? -1 : tan(rule.slope[0]), tan(rule.slope[1]), tan(rule.slope[1] + rule.soft)],
    height: [rule.height[0] - soft, rule.height[0], rule.height[1], rule.height[1] + soft],
    grounds: Float64Array.from({ length: SURFACES }, (_, i) => (anyGround || rule.grounds.includes(surfaces[i]) ? 1 : 0)),
    anyGround,
  };
}

/** 1 inside the band, 0 beyond its soft ends. */
export function inBand([a, b, c, d]: readonly [number, number, number, number], v: number): number {
  const enter = v >= b ? 1 : v <= a ? 0 : smoothstep(a, b, v);
  return enter === 0 || v <= c ? enter : v >= d ? 0 : enter * (1 - smoothstep(c, d, v));
}

/** Share of the ground that the species grows on. Bare blockout has none of the surfaces. */
export function onGround(masks: Masks, weights: Float64Array): number {
  let sum = 0;
  for (let i = 0; i < SURFACES; i++) sum += weights[i] * masks.grounds[i];
  return sum;
}
