import { blocksNear, CELL } from '../../block/grid';
import { blockSolid, solidTriangles } from '../../block/solid';
import type { Block } from '../../level/objects';
import type { Grid } from '../../level/tiles';
import type { Mesh } from '../../num/mesh';
import { nearestMarked } from '../../num/nearest';
import type { PlaceKind, WhereOf, WhereSource } from './field';

/** Of each source what was reckoned: a rule may ask for it twice. */
const known = new WeakMap<WhereSource, Map<'block' | 'piece', Int32Array | undefined>>();

/** For every sample the nearest one that a block or a piece lies over or under, as `nearestMarked` tells it. */
function nearestOf(source: WhereSource, what: 'block' | 'piece'): Int32Array | undefined {
  const of = known.get(source) ?? known.set(source, new Map()).get(source)!;
  if (!of.has(what)) {
    const { grid } = source.terrain;
    const marked = new Uint8Array(grid.nx * grid.nz);
    for (const mesh of meshesOf(source, what)) mark(marked, grid, mesh);
    const near = marked.includes(1) ? nearestMarked(marked, grid.nx, grid.nz) : undefined;
    of.set(what, near);
  }
  return of.get(what);
}

function* meshesOf({ terrain: { grid }, blocks, meshes }: WhereSource, what: 'block' | 'piece'): Generator<Mesh> {
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

/** Marks the samples that a mesh comes as near to in plan as half the distance between them: nothing thin is missed. */
function mark(marked: Uint8Array, { nx, nz, spacing }: Grid, { positions: p, indices }: Mesh): void {
  const reach = 0.5;
  for (let i = 0; i < indices.length; i += 3) {
    const [a, b, c] = [0, 1, 2].map((k): [number, number] => [p[indices[i + k] * 3] / spacing, p[indices[i + k] * 3 + 2] / spacing]);
    const x1 = Math.min(nx - 1, Math.floor(Math.max(a[0], b[0], c[0]) + reach));
    const z1 = Math.min(nz - 1, Math.floor(Math.max(a[1], b[1], c[1]) + reach));
    for (let z = Math.max(0, Math.ceil(Math.min(a[1], b[1], c[1]) - reach)); z <= z1; z++)
      for (let x = Math.max(0, Math.ceil(Math.min(a[0], b[0], c[0]) - reach)); x <= x1; x++)
        if (marked[z * nx + x] === 0 && nearTriangle([a, b, c], x, z, reach)) marked[z * nx + x] = 1;
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

const kindOf = (what: 'block' | 'piece', name: string): PlaceKind<WhereOf<'block'> | WhereOf<'piece'>> => ({
  name,
  unit: 'm',
  make(_, source) {
    const { nx, nz, spacing } = source.terrain.grid;
    const near = nearestOf(source, what);
    return {
      at(x, z) {
        if (!near) return NaN;
        const [fx, fz] = [x / spacing, z / spacing];
        const [ix, iz] = [Math.min(nx - 1, Math.max(0, Math.round(fx))), Math.min(nz - 1, Math.max(0, Math.round(fz)))];
        const of = near[iz * nx + ix];
        const [dx, dz] = [(of % nx) - fx, Math.floor(of / nx) - fz];
        // A marked sample stands for half a step about it.
        return Math.max(0, Math.sqrt(dx * dx + dz * dz) - 0.5) * spacing;
      },
      open: { below: 0, above: 200 },
    };
  },
});

/** Metres in plan from the nearest block, to the distance between samples: rather nearer than farther. */
export const block = kindOf('block', 'from block');
/** The same from the nearest piece. */
export const piece = kindOf('piece', 'from piece');
