import type { Asset } from '../kit/asset';
import { assetMesh } from '../kit/assetMesh';
import type { Join } from '../level/kinds/kit';
import type { Mesh } from '../num/mesh';
import { cross, dot, length, sub, type Vec3 } from '../num/vec';
import { sinCosDeg } from '../num/trig';
import { weldPoints } from '../num/weld';
import { coatGrid, pointsNear, pointsOf, type CoatGrid } from './grid';

/** The byte of what is flat; 255 is a right edge, 1 a right corner that goes in. */
export const FLAT = 128;

/** How far an edge is felt, in cells. */
const FELT = 2;
/** A place half a cell from a right edge is of it whole: points rarely lie on an edge. */
const LIFT = 1.4;
/** Edges that bend less, radians, are taken as none. */
const LEAST = 0.01;

/** So near the plane of a join, metres, an edge is one that its neighbour closes. */
const AT_JOIN = 0.04;

const known = new WeakMap<object, { joins: string; bends: Uint8Array }>();

/** How sharply an asset bends about each point of its grid, a byte each, see `FLAT`; worked out once. @param joins of the part of a kit it is */
export function bendsOf(asset: Pick<Asset, 'lods'>, joins: readonly Join[] = []): Uint8Array {
  const key = JSON.stringify(joins);
  const old = known.get(asset);
  if (old?.joins === key) return old.bends;
  const made = bends(assetMesh(asset as Asset), coatGrid(asset), joins);
  known.set(asset, { joins: key, bends: made });
  return made;
}

/**
 * How sharply a mesh bends about each point of a grid: the angles of its edges, outward above and inward below nothing, added
 * up within two cells, nearer ones more, against a long right edge through the point. So a bevel bends as much as the edge it
 * breaks. Edges with one face bend nowhere; those of a body that is thinner than a cell (a slate among slates) count for less,
 * for what it lies on is not known to bend back. Those at a join bend nowhere: another part goes on there.
 */
export function bends(mesh: Mesh, grid: CoatGrid, joins: readonly Join[] = []): Uint8Array {
  const felt = FELT * grid.cell;
  const sums = new Float32Array(pointsOf(grid));
  const step = grid.cell / 2;
  const weld = weldPoints(mesh.positions, 1e-4);
  const thick = thicknesses(mesh, weld);
  for (const { a, b, angle, point } of edgesOf(mesh, weld)) {
    if (joins.some((join) => atJoin(join, a) && atJoin(join, b))) continue;
    const way = sub(b, a);
    const long = length(way);
    const n = Math.max(1, Math.ceil(long / step));
    for (let i = 0; i < n; i++) {
      const t = (i + 0.5) / n;
      const weight = ((angle * long) / n) * Math.min(1, (thick(point) / grid.cell) ** 2);
      pointsNear(grid, [a[0] + way[0] * t, a[1] + way[1] * t, a[2] + way[2] * t], felt, (point, d) => {
        sums[point] += weight * (1 - d / felt);
      });
    }
  }
  // A right edge through the point: pi/2 times the integral of 1 - |t| / felt from -felt to felt.
  const right = (Math.PI / 2) * felt;
  return Uint8Array.from(sums, (s) => Math.round(FLAT + 127 * Math.max(-1, Math.min(1, (LIFT * s) / right))));
}

/** Whether a place lies in the plane that a join closes. */
function atJoin({ at, turn }: Join, p: Vec3): boolean {
  const [s, c] = sinCosDeg(turn);
  return Math.abs((p[0] - at[0]) * c - (p[2] - at[2]) * s) < AT_JOIN;
}

interface Edge {
  a: Vec3;
  b: Vec3;
  /** radians between the ways its faces look, below 0 where they look at each other */
  angle: number;
  /** the welded point it begins at */
  point: number;
}

/** Edges that two faces share and that bend. */
function* edgesOf({ positions, indices }: Mesh, weld: Uint32Array): Generator<Edge> {
  const first = new Map<number, number>();
  const count = positions.length / 3;
  const at = (i: number): Vec3 => [positions[i * 3], positions[i * 3 + 1], positions[i * 3 + 2]];
  const normal = (t: number): Vec3 => {
    const p = at(indices[t]);
    return cross(sub(at(indices[t + 1]), p), sub(at(indices[t + 2]), p));
  };
  for (let t = 0; t < indices.length; t += 3) {
    for (let k = 0; k < 3; k++) {
      const [i, j, other] = [weld[indices[t + k]], weld[indices[t + ((k + 1) % 3)]], indices[t + ((k + 2) % 3)]];
      const key = Math.min(i, j) * count + Math.max(i, j);
      const before = first.get(key);
      if (before === undefined) {
        first.set(key, t);
        continue;
      }
      first.delete(key);
      const [n, m] = [normal(before), normal(t)];
      const size = length(n) * length(m);
      if (size < 1e-16) continue;
      const angle = Math.acos(Math.max(-1, Math.min(1, dot(n, m) / size)));
      if (angle < LEAST) continue;
      const a = at(i);
      // Beneath the plane of the first face the second turns away from it.
      yield { a, b: at(j), angle: dot(n, sub(at(other), a)) < 0 ? angle : -angle, point: i };
    }
  }
}

/** How thick the body about a welded point is, metres: twice its volume over its surface, which of a sheet is its thickness; endless where it is open. */
function thicknesses({ positions: p, indices }: Mesh, weld: Uint32Array): (point: number) => number {
  const parent = Uint32Array.from(weld);
  const root = (i: number): number => {
    let r = i;
    while (parent[r] !== r) r = parent[r];
    while (parent[i] !== r) [i, parent[i]] = [parent[i], r];
    return r;
  };
  for (let t = 0; t < indices.length; t += 3) for (const k of [1, 2]) parent[root(indices[t + k])] = root(indices[t]);
  const sums = new Map<number, { volume: number; area: number; edges: Map<number, number> }>();
  for (let t = 0; t < indices.length; t += 3) {
    const [i, j, k] = [weld[indices[t]], weld[indices[t + 1]], weld[indices[t + 2]]];
    const [a, b, c] = [i, j, k].map((v): Vec3 => [p[v * 3], p[v * 3 + 1], p[v * 3 + 2]]);
    const n = cross(sub(b, a), sub(c, a));
    const body = root(i);
    const sum = sums.get(body) ?? { volume: 0, area: 0, edges: new Map() };
    sum.volume += dot(a, n) / 6;
    sum.area += length(n) / 2;
    // Every edge of a closed body is gone along once either way.
    for (const [from, to] of [
      [i, j],
      [j, k],
      [k, i],
    ]) {
      const key = Math.min(from, to) * weld.length + Math.max(from, to);
      sum.edges.set(key, (sum.edges.get(key) ?? 0) + (from < to ? 1 : -1));
    }
    sums.set(body, sum);
  }
  const thick = new Map<number, number>();
  for (const [body, { volume, area, edges }] of sums) {
    const closed = [...edges.values()].every((turns) => turns === 0);
    thick.set(body, closed && area > 0 ? (2 * Math.abs(volume)) / area : Infinity);
  }
  return (point) => thick.get(root(point)) ?? Infinity;
}
