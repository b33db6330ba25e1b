import type { Block } from '../level/objects';
import { add, distance, dot, scale, sub, type Vec3 } from '../num/vec';
import { blockEdges, meshEdges } from './edges';
import type { PlacedMesh } from './placedMesh';
import { blockBounds } from './solid';

export interface Snapped {
  at: Vec3;
  on: 'corner' | 'middle' | 'edge';
  /** id of the block */
  of: string;
}

/** Edges of a block as it stands: those of its mesh where a void or its shape made one. */
export const standingEdges = (block: Block, mesh: PlacedMesh | undefined): Vec3[] => (mesh ? meshEdges(mesh) : blockEdges(block));

/**
 * The corner, else the middle of an edge, else the place on an edge, of blocks near a point.
 *
 * @param meshes blocks that are meshes, by id
 * @param within metres; edges are taken within half of it
 */
export function snapPoint(point: Vec3, blocks: Iterable<Block>, meshes: ReadonlyMap<string, PlacedMesh>, within: number): Snapped | undefined {
  let corner: Snapped | undefined;
  let middle: Snapped | undefined;
  let edge: Snapped | undefined;
  let [toCorner, toMiddle, toEdge] = [within, within * 0.7, within * 0.5];
  for (const block of blocks) {
    const { min, max } = blockBounds(block);
    if ([0, 1, 2].some((k) => point[k] < min[k] - within || point[k] > max[k] + within)) continue;
    const edges = standingEdges(block, meshes.get(block.id));
    for (let i = 0; i < edges.length; i += 2) {
      const [a, b] = [edges[i], edges[i + 1]];
      for (const p of [a, b]) {
        const d = distance(p, point);
        if (d <= toCorner) {
          toCorner = d;
          corner = { at: p, on: 'corner', of: block.id };
        }
      }
      const m = scale(add(a, b), 0.5);
      const dm = distance(m, point);
      if (dm <= toMiddle) {
        toMiddle = dm;
        middle = { at: m, on: 'middle', of: block.id };
      }
      const along = sub(b, a);
      const t = Math.min(1, Math.max(0, dot(sub(point, a), along) / (dot(along, along) || 1)));
      const q = add(a, scale(along, t));
      const de = distance(q, point);
      if (de <= toEdge) {
        toEdge = de;
        edge = { at: q, on: 'edge', of: block.id };
      }
    }
  }
  return corner ?? middle ?? edge;
}

/**
 * How far a block that is moved over the level is to be moved on in plan, so that one of its corners
 * stands on a corner of another, else on an edge; `undefined` where none is near.
 *
 * @param within metres
 */
export function snapMove(
  moved: readonly Block[],
  others: Iterable<Block>,
  meshes: ReadonlyMap<string, PlacedMesh>,
  within: number,
): [dx: number, dz: number] | undefined {
  const corners = moved.flatMap((b) => blockEdges(b));
  const bounds = moved.map(blockBounds);
  const low = [0, 1, 2].map((k) => Math.min(...bounds.map((b) => b.min[k])) - within);
  const high = [0, 1, 2].map((k) => Math.max(...bounds.map((b) => b.max[k])) + within);
  let corner: [number, number] | undefined;
  let edge: [number, number] | undefined;
  let [toCorner, toEdge] = [within * within, (within / 2) ** 2];
  for (const block of others) {
    const { min, max } = blockBounds(block);
    if ([0, 1, 2].some((k) => min[k] > high[k] || max[k] < low[k])) continue;
    const edges = standingEdges(block, meshes.get(block.id));
    for (const p of corners) {
      for (let i = 0; i < edges.length; i += 2) {
        const [a, b] = [edges[i], edges[i + 1]];
        for (const q of [a, b]) {
          const [dx, dz] = [q[0] - p[0], q[2] - p[2]];
          const d = dx * dx + dz * dz;
          if (d < toCorner) {
            toCorner = d;
            corner = [dx, dz];
          }
        }
        const [ex, ez] = [b[0] - a[0], b[2] - a[2]];
        const l = ex * ex + ez * ez;
        if (l < 1e-9) continue;
        const t = ((p[0] - a[0]) * ex + (p[2] - a[2]) * ez) / l;
        if (t < 0 || t > 1) continue;
        const [dx, dz] = [a[0] + ex * t - p[0], a[2] + ez * t - p[2]];
        const d = dx * dx + dz * dz;
        if (d < toEdge) {
          toEdge = d;
          edge = [dx, dz];
        }
      }
    }
  }
  return corner ?? edge;
}
