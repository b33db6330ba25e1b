import { rayMeshes, thicknessAt, type PlacedMesh } from '../block/placedMesh';
import { assetBounds, type Asset } from '../kit/asset';
import type { Piece } from '../level/objects';
import { placer, poseAxes, toOwn } from '../num/pose';
import { cross, normalize, type Vec3 } from '../num/vec';
import { BoxIndex } from './boxIndex';
import type { Snag } from './finding';
import type { SnagInput } from './input';

/** Two faces this near fight for the same pixels, metres. */
const NEAR = 0.002;
/** Faces count from so much area that both cover, m2. */
const LEAST = 0.02;
/** What covers faces lies so far before them at least, metres. */
const BEFORE = 0.004;
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

/** Whether a piece's own axes lie along those of the level, turned by quarters: the axis of the level and its sign for each. */
function quarters(piece: Piece): [axis: number, sign: number][] | undefined {
  const axes = poseAxes(piece).map((a): [number, number] | undefined => {
    const k = [0, 1, 2].find((i) => Math.abs(a[i]) > 0.99999);
    return k === undefined ? undefined : [k, Math.sign(a[k])];
  });
  return axes.every((a) => a !== undefined) ? (axes as [number, number][]) : undefined;
}

/** How pieces are turned against the first of them, so that those that lie askew in the level can be compared with each other. */
const against = (piece: Piece, turn: number): Piece => {
  const place = placer({ at: [0, 0, 0], turn: -turn });
  return { ...piece, at: place(...piece.at), turn: piece.turn - turn };
};

/** Flat sides of two pieces in one plane, looking the same way over each other: they flicker. What something else covers does not count. Each pair once. */
export function coplanar({ pieces, placed, assets }: Pick<SnagInput, 'pieces' | 'placed' | 'assets'>): Snag[] {
  const bounds = new Map(placed.map((m) => [m.id, m]));
  const list = pieces.filter((p) => bounds.has(p.id) && assets.has(p.asset) && !p.tilt);
  const index = new BoxIndex(list.map((p) => bounds.get(p.id)!));
  const out: Snag[] = [];
  list.forEach((piece, i) => {
    for (const j of index.touching(bounds.get(piece.id)!, NEAR)) {
      if (j <= i) continue;
      const other = list[j];
      // What a third thing covers is not seen: a quoin over the ends of two walls.
      const open = fighting(piece, other, assets).filter(
        ({ at, way }) =>
          !insideOf(bounds.get(piece.id)!, at, way) &&
          !insideOf(bounds.get(other.id)!, at, way) &&
          !index.touching({ min: at, max: at }).some((k) => k !== i && k !== j && within(list[k], assets.get(list[k].asset)!, at)),
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
 * @param way out of the face, along an axis of the mesh
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

/** Whether a place lies in the box of a piece. */
function within(piece: Piece, asset: Asset, at: Vec3): boolean {
  const { min, max } = assetBounds(asset);
  const own = toOwn(piece, at);
  return own.every((v, k) => v / (piece.scale?.[k] ?? 1) >= min[k] && v / (piece.scale?.[k] ?? 1) <= max[k]);
}

/** What two pieces both cover in one plane: how much, and the middle of it, a little before the faces. */
function fighting(a: Piece, b: Piece, assets: SnagInput['assets']): { area: number; at: Vec3; way: Vec3 }[] {
  const [p, q] = [against(a, a.turn), against(b, a.turn)];
  const [ways, others] = [quarters(p), quarters(q)];
  if (!ways || !others) return [];
  const [mine, theirs] = [placedFaces(p, assets.get(a.asset)!, ways), placedFaces(q, assets.get(b.asset)!, others)];
  const back = placer({ at: [0, 0, 0], turn: a.turn });
  const out: { area: number; at: Vec3; way: Vec3 }[] = [];
  for (const f of mine)
    for (const g of theirs) {
      if (f.axis !== g.axis || f.sign !== g.sign || Math.abs(f.low[f.axis] - g.low[g.axis]) > NEAR) continue;
      const low = [0, 1, 2].map((k) => Math.max(f.low[k], g.low[k]));
      const high = [0, 1, 2].map((k) => Math.min(f.high[k], g.high[k]));
      const [u, v] = [0, 1, 2].filter((k) => k !== f.axis).map((k) => high[k] - low[k]);
      if (u <= 0 || v <= 0) continue;
      const middle = [0, 1, 2].map((k) => (k === f.axis ? f.low[k] + f.sign * BEFORE : (low[k] + high[k]) / 2));
      const way = [0, 1, 2].map((k) => (k === f.axis ? f.sign : 0)) as Vec3;
      out.push({ area: u * v, at: back(middle[0], middle[1], middle[2]), way: back(...way) });
    }
  return out;
}

function placedFaces(piece: Piece, asset: Asset, ways: readonly [axis: number, sign: number][]): Face[] {
  const place = placer(piece);
  return facesOf(asset).map((f) => {
    const [u, v] = [place(...f.low), place(...f.high)];
    const [axis, sign] = ways[f.axis];
    return {
      axis: axis as Face['axis'],
      sign: (sign * f.sign) as Face['sign'],
      low: [0, 1, 2].map((k) => Math.min(u[k], v[k])) as Vec3,
      high: [0, 1, 2].map((k) => Math.max(u[k], v[k])) as Vec3,
    };
  });
}
