import { blocksNear, type BlockGrid } from '../block/grid';
import { rayMeshes, thicknessAt, type PlacedMesh } from '../block/placedMesh';
import { solidSpanAt } from '../block/solid';
import { heightAt } from '../earth/sample';
import { assetOf } from '../kit/bentAsset';
import { assetBounds, type Asset } from '../kit/asset';
import type { Piece } from '../level/objects';
import { placer, poseAxes, toOwn } from '../num/pose';
import { add, cross, dot, normalize, scale, sub, type Vec3 } from '../num/vec';
import { BoxIndex } from './boxIndex';
import type { Snag } from './finding';
import type { SnagInput } from './input';

/** Two faces this near fight for the same pixels, metres. */
const NEAR = 0.002;
/** Faces count from so much area that both cover, m2. */
const LEAST = 0.02;
/** What covers faces lies so far before them at least, metres. */
const BEFORE = 0.004;
/** Faces that look so nearly the same way lie in one plane: a quarter of a degree. */
const ALIKE = 0.99999;
/** So far out of it, metres, may the middle of one be that looks that much another way. */
const TILTED = 0.02;
/** A flat side is one face where its triangles fill so much of their bounds. */
const FILLED = 0.6;

/** A flat side of a mesh: all its triangles in one plane across one of its axes. */
interface Face {
  axis: 0 | 1 | 2;
  sign: 1 | -1;
  /** lowest and highest corner in the mesh's own axes; the same along `axis` */
  low: Vec3;
  high: Vec3;
}

const known = new WeakMap<Asset, Face[]>();

/** The flat sides of a mesh that look along its axes; worked out once. */
function facesOf(asset: Asset): Face[] {
  const found = known.get(asset);
  if (found) return found;
  const planes = new Map<string, Face & { area: number }>();
  for (const { positions: p, indices } of asset.lods[0]) {
    for (let i = 0; i < indices.length; i += 3) {
      const at = [0, 1, 2].map((k) => indices[i + k] * 3);
      const u = [0, 1, 2].map((k) => p[at[1] + k] - p[at[0] + k]);
      const v = [0, 1, 2].map((k) => p[at[2] + k] - p[at[0] + k]);
      const n = [u[1] * v[2] - u[2] * v[1], u[2] * v[0] - u[0] * v[2], u[0] * v[1] - u[1] * v[0]];
      const length = Math.sqrt(n[0] * n[0] + n[1] * n[1] + n[2] * n[2]);
      const axis = [0, 1, 2].find((k) => Math.abs(n[k]) > 0.9998 * length) as Face['axis'] | undefined;
      if (axis === undefined || length < 1e-9) continue;
      const sign = n[axis] > 0 ? 1 : -1;
      const key = `${axis}${sign}${Math.round((p[at[0] + axis] / NEAR) * 2)}`;
      const corners = at.map((a) => [p[a], p[a + 1], p[a + 2]] as Vec3);
      const face = planes.get(key) ?? { axis, sign, low: [...corners[0]] as Vec3, high: [...corners[0]] as Vec3, area: 0 };
      face.area += length / 2;
      for (const c of corners)
        for (let k = 0; k < 3; k++) {
          face.low[k] = Math.min(face.low[k], c[k]);
          face.high[k] = Math.max(face.high[k], c[k]);
        }
      planes.set(key, face);
    }
  }
  const faces = [...planes.values()].filter((f) => {
    const [a, b] = [0, 1, 2].filter((k) => k !== f.axis).map((k) => f.high[k] - f.low[k]);
    return a * b >= LEAST && f.area >= FILLED * a * b;
  });
  known.set(asset, faces);
  return faces;
}

/**
 * Flat sides of two pieces in one plane, looking the same way over each other: they flicker. What something else covers, a block
 * or the ground too, does not count. Each pair once.
 */
export function coplanar({
  pieces,
  placed,
  assets,
  terrain,
  grid,
}: Pick<SnagInput, 'pieces' | 'placed' | 'assets'> & Partial<Pick<SnagInput, 'terrain' | 'grid'>>): Snag[] {
  const bounds = new Map(placed.map((m) => [m.id, m]));
  const list = pieces.filter((p) => bounds.has(p.id) && assets.has(p.asset));
  const sides = list.map((): Side[] | undefined => undefined);
  const sidesAt = (i: number) => (sides[i] ??= sidesOf(list[i], assetOf(assets, list[i])!));
  const index = new BoxIndex(list.map((p) => bounds.get(p.id)!));
  const out: Snag[] = [];
  list.forEach((piece, i) => {
    for (const j of index.touching(bounds.get(piece.id)!, NEAR)) {
      if (j <= i) continue;
      const other = list[j];
      // What a third thing covers is not seen: a quoin over the ends of two walls.
      const open = fighting(sidesAt(i), sidesAt(j)).filter(
        ({ at, way }) =>
          !insideOf(bounds.get(piece.id)!, at, way) &&
          !insideOf(bounds.get(other.id)!, at, way) &&
          !(terrain && at[1] < heightAt(terrain, at[0], at[2])) &&
          !(grid && withinBlock(grid, at)) &&
          !index.touching({ min: at, max: at }).some((k) => k !== i && k !== j && within(list[k], assetOf(assets, list[k])!, at)),
      );
      const area = open.reduce((sum, patch) => sum + patch.area, 0);
      if (area < LEAST) continue;
      out.push({
        code: 'faces-fight',
        severity: 'warning',
        message: `${piece.name} and ${other.name} have ${area.toFixed(2)} m² of faces in one plane: they flicker`,
        mend: `move one of them by a centimetre, or let it end where the other begins`,
        at: piece.at,
        object: piece.id,
      });
    }
  });
  return out;
}

/**
 * Whether a place before a face lies within a mesh: one way along the face and back, rays leave it before they enter it.
 * What is built of boxes has sides within, and lacks others.
 *
 * @param way out of the face
 */
function insideOf(mesh: PlacedMesh, at: Vec3, way: Vec3): boolean {
  const beside = Math.abs(way[1]) > 0.5 ? ([1, 0, 0] as Vec3) : normalize(cross([0, 1, 0], way));
  const other = cross(way, beside);
  return [beside, other].some((d) =>
    [d, d.map((v) => -v) as Vec3].every((ray) => {
      const leaves = thicknessAt(mesh, at, ray);
      return leaves !== undefined && (rayMeshes([mesh], at, ray, leaves)?.distance ?? Infinity) > leaves;
    }),
  );
}

/** Whether a place lies in a plain block. */
function withinBlock(grid: BlockGrid, [x, y, z]: Vec3): boolean {
  for (const block of blocksNear(grid, x, z)) {
    const span = solidSpanAt(block, x, z);
    if (span && span.bottom <= y && y <= span.top) return true;
  }
  return false;
}

/** Whether a place lies in the box of a piece. */
function within(piece: Piece, asset: Asset, at: Vec3): boolean {
  const { min, max } = assetBounds(asset);
  const own = toOwn(piece, at);
  return own.every((v, k) => v / (piece.scale?.[k] ?? 1) >= min[k] && v / (piece.scale?.[k] ?? 1) <= max[k]);
}

/** A flat side where it stands: a rectangle about its middle. */
interface Side {
  at: Vec3;
  way: Vec3;
  /** its own axes in its plane, of length 1, and half its size along each */
  axes: [Vec3, Vec3];
  half: [number, number];
}

function sidesOf(piece: Piece, asset: Asset): Side[] {
  const place = placer(piece);
  const axes = poseAxes(piece);
  return facesOf(asset).map(({ axis, sign, low, high }) => {
    const [u, v] = [0, 1, 2].filter((k) => k !== axis);
    const half = (k: number) => ((high[k] - low[k]) / 2) * (piece.scale?.[k] ?? 1);
    return {
      at: place((low[0] + high[0]) / 2, (low[1] + high[1]) / 2, (low[2] + high[2]) / 2),
      way: scale([...axes[axis]], sign),
      axes: [[...axes[u]], [...axes[v]]],
      half: [half(u), half(v)],
    };
  });
}

/** What the sides of two pieces both cover in one plane: how much, and the middle of it, a little before the faces. */
function fighting(mine: readonly Side[], theirs: readonly Side[]): { area: number; at: Vec3; way: Vec3 }[] {
  const out: { area: number; at: Vec3; way: Vec3 }[] = [];
  for (const f of mine)
    for (const g of theirs) {
      if (dot(f.way, g.way) < ALIKE || Math.abs(dot(f.way, sub(g.at, f.at))) > NEAR + TILTED) continue;
      const shared = within2d(cornersIn(g, f), f.half);
      const area = areaOf(shared);
      if (area <= 0) continue;
      const [x, y] = [0, 1].map((k) => shared.reduce((sum, p) => sum + p[k], 0) / shared.length);
      const middle = add(f.at, add(scale(f.axes[0], x), scale(f.axes[1], y)));
      // There, and not only in the middle of the other, they are that near.
      if (Math.abs(dot(g.way, sub(middle, g.at))) > NEAR) continue;
      out.push({ area, at: add(middle, scale(f.way, BEFORE)), way: f.way });
    }
  return out;
}

type V2 = [number, number];

/** Corners of a side in the axes of another in its plane, in order round. */
function cornersIn(g: Side, f: Side): V2[] {
  return [
    [-1, -1],
    [1, -1],
    [1, 1],
    [-1, 1],
  ].map(([a, b]): V2 => {
    const p = sub(add(g.at, add(scale(g.axes[0], a * g.half[0]), scale(g.axes[1], b * g.half[1]))), f.at);
    return [dot(p, f.axes[0]), dot(p, f.axes[1])];
  });
}

/** What of a convex polygon lies in a rectangle about the origin (Sutherland and Hodgman, 1974). */
function within2d(polygon: readonly V2[], half: readonly [number, number]): V2[] {
  let left = [...polygon];
  for (const k of [0, 1])
    for (const sign of [1, -1]) {
      const inside = (p: V2) => half[k] - sign * p[k];
      const next: V2[] = [];
      left.forEach((p, i) => {
        const q = left[(i + 1) % left.length];
        const [dp, dq] = [inside(p), inside(q)];
        if (dp >= 0) next.push(p);
        if (dp >= 0 !== dq >= 0) next.push([p[0] + ((q[0] - p[0]) * dp) / (dp - dq), p[1] + ((q[1] - p[1]) * dp) / (dp - dq)]);
      });
      left = next;
    }
  return left;
}

const areaOf = (polygon: readonly V2[]): number =>
  Math.abs(polygon.reduce((sum, [x, y], i) => sum + x * polygon[(i + 1) % polygon.length][1] - polygon[(i + 1) % polygon.length][0] * y, 0)) / 2;
