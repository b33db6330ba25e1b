import { quadAt } from '../earth/sample';
import type { Species } from '../level/objects';
import { tanDeg } from '../num/trig';
import { clamp, smoothstep } from '../num/vec';
import type { GroundRaster } from '../surface/ground';
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

/** Share of the ground at a point that the species grows on, bilinear between samples. Bare blockout has none of the surfaces. */
export function onGround(masks: Masks, ground: GroundRaster, x: number, z: number, top: boolean): number {
  const { nx } = ground.grid;
  const data = top ? ground.tops : ground.weights;
  const g = masks.grounds;
  const { ix, iz, u, v } = quadAt(ground.grid, x, z);
  const a = (iz * nx + ix) * SURFACES;
  const c = a + nx * SURFACES;
  let north = 0;
  let south = 0;
  for (let i = 0; i < SURFACES; i++) {
    if (g[i] === 0) continue;
    north += data[a + i] * (1 - u) + data[a + SURFACES + i] * u;
    south += data[c + i] * (1 - u) + data[c + SURFACES + i] * u;
  }
  return (north * (1 - v) + south * v) / 255;
}
