import type { Block } from '../level/objects';
import type { Vec3 } from '../num/vec';
import { footprint } from './gap';
import { outlineDistance, toStretch, type Point2 } from '../num/outline';
import { blockBounds, blockSolid } from './solid';

/** The nearest other block beside one: how far, and between which points. */
export interface Neighbour {
  to: Block;
  distance: number;
  from: Vec3;
  at: Vec3;
}

/**
 * The nearest block beside another, edge to edge in plan, of those that stand at some of its height.
 * Those that touch or overlap it are not beside it.
 *
 * @param within metres
 */
export function nearestNeighbour(block: Block, others: Iterable<Block>, within: number): Neighbour | undefined {
  const mine = blockBounds(block);
  const outline = footprint(block);
  let best: Neighbour | undefined;
  let least = within;
  for (const other of others) {
    if (other.id === block.id || other.op === 'void') continue;
    const { min, max } = blockBounds(other);
    if (min[1] >= mine.max[1] - 1e-6 || max[1] <= mine.min[1] + 1e-6) continue;
    if (min[0] > mine.max[0] + least || max[0] < mine.min[0] - least || min[2] > mine.max[2] + least || max[2] < mine.min[2] - least) continue;
    const found = nearestPoints(outline, footprint(other));
    if (!found || found.distance >= least) continue;
    least = found.distance;
    const y = Math.max(mine.min[1], min[1]);
    best = { to: other, distance: found.distance, from: [found.a[0], y, found.a[1]], at: [found.b[0], y, found.b[1]] };
  }
  return best;
}

/** The nearest points of two outlines, or `undefined` where they touch. */
function nearestPoints(a: readonly Point2[], b: readonly Point2[]): { distance: number; a: Point2; b: Point2 } | undefined {
  let best: { distance: number; a: Point2; b: Point2 } | undefined;
  const look = (p: Point2, q0: Point2, q1: Point2, swapped: boolean) => {
    const d = toStretch(p, q0, q1);
    if (best && d >= best.distance) return;
    const [dx, dy] = [q1[0] - q0[0], q1[1] - q0[1]];
    const t = Math.min(1, Math.max(0, ((p[0] - q0[0]) * dx + (p[1] - q0[1]) * dy) / (dx * dx + dy * dy || 1)));
    const q: Point2 = [q0[0] + dx * t, q0[1] + dy * t];
    best = swapped ? { distance: d, a: q, b: p } : { distance: d, a: p, b: q };
  };
  for (const p of a) b.forEach((q, i) => look(p, q, b[(i + 1) % b.length], false));
  for (const p of b) a.forEach((q, i) => look(p, q, a[(i + 1) % a.length], true));
  return best && best.distance > 1e-6 && outlineDistance(a, b) > 0 ? best : undefined;
}

/**
 * How far a block's base is over what is under it: the least over its corners and its middle.
 *
 * @param heightUnder of the host below a point
 */
export const overHost = (block: Block, heightUnder: (p: Vec3) => number): number =>
  Math.min(...(block.tilt ? blockSolid(block).corners : [...blockSolid(block).corners.slice(0, 4), block.at]).map((p) => p[1] - heightUnder(p)));
