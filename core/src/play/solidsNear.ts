import { blockSolid, solidTriangles } from '../block/solid';
import type { PlacedMesh } from '../block/placedMesh';
import { OPEN, type Terrain } from '../earth/compose';
import type { Block } from '../level/objects';
import type { Limits } from './limits';

/** Plan rectangle in metres. */
export interface PlanRect {
  x0: number;
  z0: number;
  x1: number;
  z1: number;
}

/** What a triangle is to a body: something to stand on, something over its head, or a wall. */
export const FLOOR = 0;
export const CEILING = 1;
export const WALL = 2;

/** Side of a bin, metres: of those that hold what is about them, and of the smaller ones that hold what is over and under them. */
const BIN = 0.5;
const OVER_BIN = 0.25;
/** Undersides steeper than this are walls that lean out, rise over run: 60 degrees. */
const LEANING = 1.7320508075688772;

/**
 * The triangles that matter to a body in one part of a level: those of solids, and the terrain's where it is
 * too steep to stand on. Terrain that can be stood on is asked for its height instead.
 *
 * Layout: triangle i has its corners in `corners` at 9 i (x, y, z of each), its kind at `kind[i]`, its solid
 * at `of[i]` (-1 terrain), its rise over run at `tan[i]`, its bounds in `bounds` at 6 i (low x, y, z, high x,
 * y, z). Bin b of `about` holds the triangles whose plan bounds come within `look` of it: entries `start[b]` to
 * `start[b + 1]` of its `list`; `over` likewise those of solids that lie over or under it.
 */
export interface SolidsNear {
  terrain: Terrain;
  rect: PlanRect;
  /** metres around a place within which all triangles are known */
  look: number;
  count: number;
  corners: Float64Array;
  bounds: Float64Array;
  kind: Uint8Array;
  of: Int32Array;
  tan: Float64Array;
  solids: { id: string; name: string }[];
  /** whether a solid is closed, so that one can be inside it */
  closed: Uint8Array;
  about: Bins;
  over: Bins;
}

/** Numbers of triangles by the bins of plan they belong to, row by row from the rectangle's north-west corner. */
export interface Bins {
  side: number;
  across: number;
  down: number;
  start: Int32Array;
  list: Int32Array;
}

/**
 * Gathers what matters to a body in a rectangle.
 *
 * @param rect metres; it may reach past the level
 * @param look how far around a place walls matter, metres
 */
export function solidsNear(
  { terrain, blocks, meshes }: { terrain: Terrain; blocks: readonly Block[]; meshes: readonly PlacedMesh[] },
  rect: PlanRect,
  limits: Limits,
  look: number,
): SolidsNear {
  const corners: number[] = [];
  const of: number[] = [];
  const solids: { id: string; name: string }[] = [];
  const closed: number[] = [];
  for (const block of blocks) {
    const solid = blockSolid(block);
    for (const i of solidTriangles(solid)) corners.push(...solid.corners[i]);
    while (of.length < corners.length / 9) of.push(solids.length);
    solids.push({ id: block.id, name: block.name });
    closed.push(1);
  }
  for (const mesh of meshes) {
    const { positions: p, indices } = mesh;
    for (let i = 0; i < indices.length; i += 3) {
      const [a, b, c] = [indices[i] * 3, indices[i + 1] * 3, indices[i + 2] * 3];
      if (
        Math.min(p[a], p[b], p[c]) > rect.x1 ||
        Math.max(p[a], p[b], p[c]) < rect.x0 ||
        Math.min(p[a + 2], p[b + 2], p[c + 2]) > rect.z1 ||
        Math.max(p[a + 2], p[b + 2], p[c + 2]) < rect.z0
      )
        continue;
      corners.push(p[a], p[a + 1], p[a + 2], p[b], p[b + 1], p[b + 2], p[c], p[c + 1], p[c + 2]);
      of.push(solids.length);
    }
    solids.push({ id: mesh.id, name: mesh.name });
    closed.push(isClosed(mesh) ? 1 : 0);
  }
  steepGround(terrain, rect, limits.grade, corners);
  while (of.length < corners.length / 9) of.push(-1);
  return binned({ terrain, rect, look, corners: Float64Array.from(corners), of: Int32Array.from(of), solids, closed: Uint8Array.from(closed) }, limits);
}

/** Terrain triangles of a rectangle that are too steep to stand on. */
function steepGround({ grid, heights: h }: Terrain, rect: PlanRect, grade: number, out: number[]): void {
  const { nx, nz, spacing: s } = grid;
  const [x0, z0] = [Math.max(0, Math.floor(rect.x0 / s)), Math.max(0, Math.floor(rect.z0 / s))];
  const [x1, z1] = [Math.min(nx - 2, Math.floor(rect.x1 / s)), Math.min(nz - 2, Math.floor(rect.z1 / s))];
  const most = grade * s * grade * s;
  for (let z = z0; z <= z1; z++) {
    for (let x = x0; x <= x1; x++) {
      const i = z * nx + x;
      const [nw, ne, sw, se] = [h[i], h[i + 1], h[i + nx], h[i + nx + 1]];
      const [ax, az, bx, bz] = [x * s, z * s, (x + 1) * s, (z + 1) * s];
      if ((ne - nw) * (ne - nw) + (se - ne) * (se - ne) > most) out.push(ax, nw, az, bx, se, bz, bx, ne, az);
      if ((se - sw) * (se - sw) + (sw - nw) * (sw - nw) > most) out.push(ax, nw, az, ax, sw, bz, bx, se, bz);
    }
  }
}

function binned(gathered: Pick<SolidsNear, 'terrain' | 'rect' | 'look' | 'corners' | 'of' | 'solids' | 'closed'>, limits: Limits): SolidsNear {
  const { rect, look, corners, of } = gathered;
  const count = of.length;
  const bounds = new Float64Array(count * 6);
  const kind = new Uint8Array(count);
  const tan = new Float64Array(count);
  for (let i = 0; i < count; i++) {
    const o = i * 9;
    for (let k = 0; k < 3; k++) {
      bounds[i * 6 + k] = Math.min(corners[o + k], corners[o + 3 + k], corners[o + 6 + k]);
      bounds[i * 6 + 3 + k] = Math.max(corners[o + k], corners[o + 3 + k], corners[o + 6 + k]);
    }
    const ux = corners[o + 3] - corners[o],
      uy = corners[o + 4] - corners[o + 1],
      uz = corners[o + 5] - corners[o + 2];
    const vx = corners[o + 6] - corners[o],
      vy = corners[o + 7] - corners[o + 1],
      vz = corners[o + 8] - corners[o + 2];
    const nx = uy * vz - uz * vy,
      ny = uz * vx - ux * vz,
      nz = ux * vy - uy * vx;
    const flat = Math.sqrt(nx * nx + nz * nz);
    tan[i] = Math.abs(ny) < 1e-9 * flat || ny === 0 ? Infinity : flat / Math.abs(ny);
    kind[i] = of[i] >= 0 && ny > 0 && tan[i] <= limits.grade ? FLOOR : ny < 0 && tan[i] <= LEANING ? CEILING : WALL;
  }
  const near = { rect, count, corners, bounds };
  return {
    ...gathered,
    count,
    bounds,
    kind,
    tan,
    about: makeBins(near, BIN, look, () => true),
    over: makeBins(near, OVER_BIN, 0, (i) => of[i] >= 0 && tan[i] < Infinity),
  };
}

function makeBins(
  { rect, count, corners, bounds }: Pick<SolidsNear, 'rect' | 'count' | 'corners' | 'bounds'>,
  side: number,
  look: number,
  wanted: (i: number) => boolean,
): Bins {
  const across = Math.max(1, Math.ceil((rect.x1 - rect.x0) / side));
  const down = Math.max(1, Math.ceil((rect.z1 - rect.z0) / side));
  const start = new Int32Array(across * down + 1);
  let list = new Int32Array(0);
  // Once to count and once to fill.
  for (const fill of [false, true]) {
    for (let i = 0; i < count; i++) {
      const o = i * 6;
      if (bounds[o] - look > rect.x1 || bounds[o + 3] + look < rect.x0 || bounds[o + 2] - look > rect.z1 || bounds[o + 5] + look < rect.z0 || !wanted(i))
        continue;
      const x0 = Math.max(0, Math.floor((bounds[o] - rect.x0 - look) / side)),
        x1 = Math.min(across - 1, Math.floor((bounds[o + 3] - rect.x0 + look) / side));
      const z0 = Math.max(0, Math.floor((bounds[o + 2] - rect.z0 - look) / side)),
        z1 = Math.min(down - 1, Math.floor((bounds[o + 5] - rect.z0 + look) / side));
      // Of a large triangle only the bins it really comes near.
      const large = (x1 - x0 + 1) * (z1 - z0 + 1) > 16;
      for (let z = z0; z <= z1; z++) {
        for (let x = x0; x <= x1; x++) {
          if (large && planDistance(corners, i * 9, rect.x0 + (x + 0.5) * side, rect.z0 + (z + 0.5) * side) > look + side * 0.7072) continue;
          if (fill) list[--start[z * across + x + 1]] = i;
          else start[z * across + x + 1]++;
        }
      }
    }
    if (fill) break;
    for (let b = 0; b < across * down; b++) start[b + 1] += start[b];
    list = new Int32Array(start[across * down]);
  }
  // Filled from the back, each start has come down to the end of the bin before it.
  return { side, across, down, start: shifted(start, list.length), list };
}

/** Starts of bins that were filled from the back: entry b + 1 holds where bin b begins. */
function shifted(start: Int32Array, end: number): Int32Array {
  start.copyWithin(0, 1);
  start[start.length - 1] = end;
  return start;
}

/** Distance in plan from a place to a triangle, metres. */
export function planDistance(c: Float64Array, o: number, x: number, z: number): number {
  let least = Infinity;
  let sides = 0;
  for (let k = 0; k < 3; k++) {
    const a = o + k * 3,
      b = o + (k === 2 ? 0 : k * 3 + 3);
    const ex = c[b] - c[a],
      ez = c[b + 2] - c[a + 2],
      wx = x - c[a],
      wz = z - c[a + 2];
    const l = ex * ex + ez * ez;
    const t = l === 0 ? 0 : Math.min(1, Math.max(0, (wx * ex + wz * ez) / l));
    least = Math.min(least, (wx - ex * t) * (wx - ex * t) + (wz - ez * t) * (wz - ez * t));
    const side = ex * wz - ez * wx;
    sides += side > 0 ? 1 : side < 0 ? -1 : 0;
  }
  return sides === 3 || sides === -3 ? 0 : Math.sqrt(least);
}

/** The bin of a place. */
export const binAt = (rect: PlanRect, { side, across, down }: Bins, x: number, z: number): number =>
  Math.min(down - 1, Math.max(0, Math.floor((z - rect.z0) / side))) * across + Math.min(across - 1, Math.max(0, Math.floor((x - rect.x0) / side)));

const _closed = new WeakMap<ArrayLike<number>, boolean>();

/** Whether each edge of a mesh is met once each way, corners at the same place taken for one: then it has an inside. */
export function isClosed({ positions, indices }: Pick<PlacedMesh, 'positions' | 'indices'>): boolean {
  let closed = _closed.get(indices);
  if (closed === undefined) {
    const count = positions.length / 3;
    closed = edgesMeet(indices, count) || edgesMeet(indices, count, joined(positions));
    _closed.set(indices, closed);
  }
  return closed;
}

function edgesMeet(indices: ArrayLike<number>, count: number, at?: Int32Array): boolean {
  const open = new Map<number, number>();
  for (let i = 0; i < indices.length; i += 3) {
    for (let k = 0; k < 3; k++) {
      const [v, w] = [indices[i + k], indices[i + ((k + 1) % 3)]];
      const [a, b] = at ? [at[v], at[w]] : [v, w];
      if (a === b) continue;
      const [key, way] = a < b ? [a * count + b, 1] : [b * count + a, -1];
      const left = (open.get(key) ?? 0) + way;
      if (left === 0) open.delete(key);
      else open.set(key, left);
    }
  }
  return open.size === 0;
}

/** For each corner the first at its place. */
function joined(positions: ArrayLike<number>): Int32Array {
  const places = new Map<string, number>();
  return Int32Array.from({ length: positions.length / 3 }, (_, v) => {
    const key = `${positions[v * 3]},${positions[v * 3 + 1]},${positions[v * 3 + 2]}`;
    const found = places.get(key);
    if (found === undefined) places.set(key, v);
    return found ?? v;
  });
}

/** Whether the terrain at a sample near a place bars a height: it stands too deep in water there. */
export function isBarred({ barred, grid }: Terrain, x: number, z: number, y: number, onTerrain: boolean): boolean {
  if (!barred) return false;
  // No function of its own in here: this is asked millions of times.
  const ix = Math.min(grid.nx - 1, Math.max(0, Math.round(x / grid.spacing)));
  const iz = Math.min(grid.nz - 1, Math.max(0, Math.round(z / grid.spacing)));
  const least = barred[iz * grid.nx + ix];
  return least !== OPEN && (onTerrain || y < least);
}
