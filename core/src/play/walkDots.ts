import type { Grid } from '../level/tiles';
import type { Vec3 } from '../num/vec';
import { FINE, PLAIN, STAND } from './bakeTile';
import { linkedTo, type StandSet } from './linked';
import { markerStands } from './markerStands';
import { terrainAt } from './standing';
import { standAt, standsAt, type StandAt, type WalkArea } from './walkArea';

/** How far from its marker an entry may be taken for, metres. */
export const ENTRY_RADIUS = 1;

const NOBODY: StandSet = { has: () => false, size: 0 };

/** Dots along the longer side of a level at most. */
const MOST_ALONG = 2048;

/** Distance between two dots, metres: 1, and as many whole metres more on wide levels as keep them few. */
export const dotsApart = ({ width, depth }: Pick<Grid, 'width' | 'depth'>): number => Math.max(1, Math.ceil(Math.max(width, depth) / MOST_ALONG));

/**
 * The walk area as points `dotsApart` from each other, for drawing and counting: x, y, z and 1 where the entry's
 * ground links to it or 0, float32 each. A point stands for the square around it.
 */
export function walkDots(area: WalkArea, entry: Vec3 | undefined): Float32Array {
  const [start] = entry ? markerStands(area, entry, ENTRY_RADIUS) : [];
  const linked = start === undefined ? NOBODY : linkedTo(area, start);
  const { grid } = area.cut;
  const apart = dotsApart(grid);
  const out: number[] = [];
  const ids: number[] = [];
  const at: StandAt = { x: 0, z: 0, h: 0 };
  for (let z = 0; z <= grid.depth; z += apart) {
    for (let x = 0; x <= grid.width; x += apart) {
      const n = standsAt(area, x, z, ids);
      if (n === 0) continue;
      const qx = Math.min(grid.nx - 2, Math.floor(x / grid.spacing));
      const qz = Math.min(grid.nz - 2, Math.floor(z / grid.spacing));
      const state = area.quads[qz * (grid.nx - 1) + qx];
      if (state === PLAIN || state === STAND) out.push(x, terrainAt(area.on.terrain, x, z).y, z, linked.has(ids[0]) ? 1 : 0);
      else if (state === FINE) for (let i = 0; i < n; i++) out.push(x, standAt(area, ids[i], at).h, z, linked.has(ids[i]) ? 1 : 0);
    }
  }
  return Float32Array.from(out);
}
