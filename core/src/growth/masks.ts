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
    grounds: Float64Array.from({ length: MOST_SURFACES }, (_, i) => (anyGround || rule.grounds.includes(surfaces[i]) ? 1 : 0)),
    anyGround,
  };
}

/** Share of the ground at a point that the species grows on, bilinear between samples. Bare blockout has none of the surfaces. */
export function onGround(masks: Masks, ground: GroundRaster, x: number, z: number, top: boolean): number {
  const { nx } = ground.grid;
  const data = top ? ground.tops : ground.weights;
  const of = top ? ground.topOf : ground.of;
  const g = masks.grounds;
  const { ix, iz, u, v } = quadAt(ground.grid, x, z);
  const a = (iz * nx + ix) * SLOTS;
  const c = a + nx * SLOTS;
  let north = 0;
  let south = 0;
  for (let k = 0; k < SLOTS; k++) {
    north += data[a + k] * g[of[a + k]] * (1 - u) + data[a + SLOTS + k] * g[of[a + SLOTS + k]] * u;
    south += data[c + k] * g[of[c + k]] * (1 - u) + data[c + SLOTS + k] * g[of[c + SLOTS + k]] * u;
  }
  return (north * (1 - v) + south * v) / 255;
}
