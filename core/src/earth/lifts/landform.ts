import type { Landform } from '../../level/objects';
import { fractalNoise } from '../../num/noise';
import type { Point2 } from '../../num/outline';
import { smoothstep } from '../../num/vec';
import { rectAround } from '../rect';
import { outlineRow, stretchesOf } from '../stretches';
import type { PassMaker } from './pass';

/** How much of its height a domed crown keeps for its middle, and a dished one sinks by. */
const DOME = 0.3;
const DISH = 0.5;
/** The crown is done rising or sinking where the distance inside is this many feet. */
const CROWN_FEET = 3;

/**
 * Height of a landform over its foot as a share of its crest: 0 at the foot, a straight batter over
 * `foot` metres, then the crown.
 *
 * @param inside distance inside the outline, metres; 0 or less is outside
 */
export function landformProfile({ foot, crown }: Pick<Landform, 'foot' | 'crown'>, inside: number): number {
  if (inside <= 0) return 0;
  const up = Math.min(1, inside / foot);
  if (crown === 'flat') return up;
  const beyond = smoothstep(foot, foot * CROWN_FEET, inside);
  return crown === 'domed' ? up * (1 - DOME) + beyond * DOME : up - beyond * DISH;
}

/** A straight cut through a landform: `at` a place on it, `way` a unit vector, foot to foot from `from` to `to` metres along it. */
export interface LandformCut {
  at: Point2;
  way: Point2;
  from: number;
  to: number;
}

/** The cut through the middle of a landform across its narrower extent; of an outline that is met more than twice the longest stretch inside. */
export function crossSection({ line, radius }: Pick<Landform, 'line' | 'radius'>): LandformCut {
  if (line.length === 1) return { at: line[0] as Point2, way: [1, 0], from: -radius, to: radius };
  const ends = (k: 0 | 1): [number, number] => [Math.min(...line.map((p) => p[k])), Math.max(...line.map((p) => p[k]))];
  const [[x0, x1], [z0, z1]] = [ends(0), ends(1)];
  const along = x1 - x0 <= z1 - z0 ? 0 : 1;
  const across = along === 0 ? 1 : 0;
  const at: Point2 = [(x0 + x1) / 2, (z0 + z1) / 2];
  const met: number[] = [];
  for (let i = 0, j = line.length - 1; i < line.length; j = i++) {
    const [a, b] = [line[j], line[i]];
    if (a[across] > at[across] !== b[across] > at[across])
      met.push(a[along] + ((b[along] - a[along]) * (at[across] - a[across])) / (b[across] - a[across]) - at[along]);
  }
  met.sort((a, b) => a - b);
  let [from, to] = [met[0], met[1]];
  for (let i = 2; i + 1 < met.length; i += 2) if (met[i + 1] - met[i] > to - from) [from, to] = [met[i], met[i + 1]];
  return { at, way: along === 0 ? [1, 0] : [0, 1], from, to };
}

/** Size of the wanderings of a ragged foot, metres. */
const raggedScale = (ragged: number): number => Math.max(6, ragged * 4);

/** Heaps a landform up, or cuts it in: its outline at its height, falling to its foot. Metres. */
export const landformPass: PassMaker<Landform> = (lift, { grid }) => {
  const round = lift.line.length === 1;
  const rect = rectAround(lift.line, (round ? lift.radius : 0) + lift.ragged, grid);
  if (!rect) return undefined;
  const sides = round ? undefined : stretchesOf(lift.line as Point2[], true, lift.foot * (lift.crown === 'flat' ? 1 : CROWN_FEET) + lift.ragged);
  const wander = fractalNoise(lift.seed, 3);
  const scale = raggedScale(lift.ragged);
  const sign = lift.cut ? -1 : 1;
  const row = new Float64Array(grid.nx);
  return {
    blend: 'add',
    rect,
    write(window, part, out, blend) {
      const base = blend === 'add' ? 0 : (lift.base ?? 0);
      const count = part.x1 - part.x0 + 1;
      for (let z = part.z0; z <= part.z1; z++) {
        const pz = z * grid.spacing;
        if (sides) outlineRow(lift.line as Point2[], sides, { z: pz, x0: part.x0, count, spacing: grid.spacing }, row);
        let i = (z - window.z0) * window.w + part.x0 - window.x0;
        for (let k = 0; k < count; k++, i++) {
          const px = (part.x0 + k) * grid.spacing;
          let inside = row[k];
          if (!sides) {
            const [dx, dz] = [px - lift.line[0][0], pz - lift.line[0][1]];
            inside = lift.radius - Math.sqrt(dx * dx + dz * dz);
          }
          if (lift.ragged > 0) inside += lift.ragged * wander.at((px + grid.ox) / scale, (pz + grid.oz) / scale);
          out[i] = inside <= 0 ? NaN : base + sign * lift.height * landformProfile(lift, inside);
        }
      }
    },
  };
};
