import { blocksNear, CELL } from '../../block/grid';
import { blockSolid, solidTriangles } from '../../block/solid';
import type { Block } from '../../level/objects';
import type { Grid } from '../../level/tiles';
import type { Mesh } from '../../num/mesh';
import type { WhereSource } from './field';

/** Everything of a kind that stands in a level, each mesh once; background is none. */
export function* meshesOf({ terrain: { grid }, blocks, meshes }: WhereSource, what: 'block' | 'piece'): Generator<Mesh> {
  const seen = new Set<object>();
  for (const list of meshes.values())
    for (const mesh of list)
      if ((mesh.of === 'block') === (what === 'block') && !seen.has(mesh)) {
        seen.add(mesh);
        yield mesh;
      }
  if (what === 'piece') return;
  // Cell by cell: those that are so wide that they are kept beside the cells are told there too.
  for (let z = 0; z < grid.depth; z += CELL)
    for (let x = 0; x < grid.width; x += CELL)
      for (const block of blocksNear(blocks, x, z))
        if (!seen.has(block) && !block.background) {
          seen.add(block);
          yield blockMesh(block);
        }
}

function blockMesh(block: Block): Mesh {
  const solid = blockSolid(block);
  return { positions: Float32Array.from(solid.corners.flat()), indices: Uint32Array.from(solidTriangles(solid)) };
}

/** Which samples about a mesh are marked. */
interface Marking {
  /** how near the mesh comes to them in plan, in steps from one sample to the next; at a half nothing thin is missed */
  reach?: number;
  /** whether one that is so near is to be marked */
  counts?(sample: number): boolean;
}

/** Marks the samples that a mesh comes near to in plan. @param marked one byte a sample, 1 where marked */
export function markInPlan(
  marked: Uint8Array,
  { nx, nz, spacing }: Grid,
  { positions: p, indices }: Mesh,
  { reach = 0.5, counts = () => true }: Marking = {},
): void {
  for (let i = 0; i < indices.length; i += 3) {
    const [a, b, c] = [0, 1, 2].map((k): [number, number] => [p[indices[i + k] * 3] / spacing, p[indices[i + k] * 3 + 2] / spacing]);
    const x1 = Math.min(nx - 1, Math.floor(Math.max(a[0], b[0], c[0]) + reach));
    const z1 = Math.min(nz - 1, Math.floor(Math.max(a[1], b[1], c[1]) + reach));
    for (let z = Math.max(0, Math.ceil(Math.min(a[1], b[1], c[1]) - reach)); z <= z1; z++)
      for (let x = Math.max(0, Math.ceil(Math.min(a[0], b[0], c[0]) - reach)); x <= x1; x++)
        if (marked[z * nx + x] === 0 && nearTriangle([a, b, c], x, z, reach) && counts(z * nx + x)) marked[z * nx + x] = 1;
  }
}

type Corner = readonly [x: number, z: number];

/** Whether a point lies in a triangle of the plan, or as near to one of its sides. */
function nearTriangle(corners: readonly [Corner, Corner, Corner], x: number, z: number, reach: number): boolean {
  let [left, right] = [false, false];
  for (let k = 0; k < 3; k++) {
    const [ax, az] = corners[k];
    const [bx, bz] = corners[(k + 1) % 3];
    const [dx, dz] = [bx - ax, bz - az];
    const length = dx * dx + dz * dz;
    const t = length > 0 ? Math.min(1, Math.max(0, ((x - ax) * dx + (z - az) * dz) / length)) : 0;
    const [ex, ez] = [ax + dx * t - x, az + dz * t - z];
    if (ex * ex + ez * ez <= reach * reach) return true;
    const turn = dx * (z - az) - dz * (x - ax);
    if (turn > 0) left = true;
    else if (turn < 0) right = true;
  }
  return left !== right;
}
