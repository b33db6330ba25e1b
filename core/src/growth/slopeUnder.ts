import { CELL } from '../block/grid';
import { gradientAt } from '../earth/sample';
import type { Vec3 } from '../num/vec';
import { groundAt } from '../surface/groundAt';
import type { Hosts, Standable } from './spot';

/** Rise over run along x and z of what a foot stands on: the terrain, or the block or piece under it. */
export type SlopeUnder = (foot: Vec3) => readonly [gx: number, gz: number];

/** A foot may be a little in what it stands on, metres. */
const ABOVE = 0.05;
/** What is steeper is a wall: nothing leans with it, rise over run. */
const STEEPEST = 20;

/** How to find the slope under feet. @param hosts what is built, by cell */
export const slopeUnder =
  (input: Standable, hosts: Hosts): SlopeUnder =>
  ([x, y, z]) => {
    if (hosts.built[Math.floor(z / CELL) * hosts.across + Math.floor(x / CELL)] === 1) {
      const { host, normal: n } = groundAt(input.terrain, input.blocks, [x, y + ABOVE, z], { meshes: input.meshes });
      if (host.kind !== 'terrain' && Math.abs(n[1]) * STEEPEST > 1) return [-n[0] / n[1], -n[2] / n[1]];
    }
    return gradientAt(input.terrain, x, z);
  };
