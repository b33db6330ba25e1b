import { orthoRaster, type OrthoView } from '../num/orthoRaster';
import { openEdges, weldPoints } from '../num/weld';
import { assetBounds, type Asset } from './asset';
import { assetMesh } from './assetMesh';

/** Sides of an asset as one stands before it: front is +z, as in glTF, left is -x. */
export const SIDES = ['left', 'right', 'below', 'above', 'back', 'front'] as const;
export type Side = (typeof SIDES)[number];

const TO: Record<Side, [number, number, number]> = {
  left: [-1, 0, 0],
  right: [1, 0, 0],
  below: [0, -1, 0],
  above: [0, 1, 0],
  back: [0, 0, -1],
  front: [0, 0, 1],
};

/** A look from a direction at all of an asset. */
export function viewOf(asset: Pick<Asset, 'lods'>, to: readonly number[]): OrthoView {
  const { min, max } = assetBounds(asset);
  const steep = Math.abs(to[1]) > 0.999;
  const side = steep ? [1, 0, 0] : unit([to[2], 0, -to[0]]);
  const up = [to[1] * side[2] - to[2] * side[1], to[2] * side[0] - to[0] * side[2], to[0] * side[1] - to[1] * side[0]];
  const middle = [0, 1, 2].map((k) => (min[k] + max[k]) / 2);
  const size = [0, 1, 2].map((k) => (max[k] - min[k]) / 2);
  const reach = (axis: readonly number[]) => Math.abs(axis[0]) * size[0] + Math.abs(axis[1]) * size[1] + Math.abs(axis[2]) * size[2];
  return { right: side, up, to, middle, half: Math.max(reach(side), reach(up), 1e-6) * 1.0001 };
}

const unit = (v: readonly number[]): number[] => {
  const l = Math.sqrt(v[0] * v[0] + v[1] * v[1] + v[2] * v[2]) || 1;
  return v.map((c) => c / l);
};

/** How whole the surface of an asset is. */
export interface Openness {
  /** every edge is shared by two triangles that face the same way */
  closed: boolean;
  openEdges: number;
  /** sides from which one sees into it, or through its faces from behind where they are not drawn */
  hollow: Side[];
}

/** So much of what one sees from a side must be the back of faces for it to be hollow there. */
const HOLLOW = 0.02;
const PIXELS = 96;

const known = new WeakMap<Asset, Openness>();

/** Whether an asset is closed, and from which sides its missing faces are seen; worked out once. */
export function openness(asset: Asset): Openness {
  let found = known.get(asset);
  if (!found) known.set(asset, (found = look(asset)));
  return found;
}

function look(asset: Asset): Openness {
  const mesh = assetMesh(asset);
  const { min, max } = assetBounds(asset);
  const size = Math.max(max[0] - min[0], max[1] - min[1], max[2] - min[2]);
  const welded = weldPoints(mesh.positions, size * 1e-5);
  const { open } = openEdges(
    mesh.indices.map((i) => welded[i]),
    mesh.positions.length / 3,
  );
  const parts = asset.lods[0];
  const twoSided = parts.map((p) => p.look !== undefined && asset.materials?.[p.look].doubleSided === true);
  const starts: number[] = [];
  parts.reduce((at, p) => (starts.push(at), at + p.indices.length / 3), 0);
  const hollow = SIDES.filter((side) => {
    const to = TO[side];
    const { triangle } = orthoRaster(parts, viewOf(asset, to), PIXELS);
    let [seen, behind] = [0, 0];
    for (const t of triangle) {
      if (t < 0) continue;
      seen++;
      let part = starts.length - 1;
      while (starts[part] > t) part--;
      if (!twoSided[part] && facing(parts[part], t - starts[part], to) < 0) behind++;
    }
    return seen > 0 && behind / seen > HOLLOW;
  });
  return { closed: open === 0, openEdges: open, hollow };
}

/** How far a triangle looks along a direction: negative where one sees its back. */
function facing({ positions: p, indices }: { positions: Float32Array; indices: Uint32Array }, t: number, to: readonly number[]): number {
  const [a, b, c] = [indices[t * 3] * 3, indices[t * 3 + 1] * 3, indices[t * 3 + 2] * 3];
  const u = [p[b] - p[a], p[b + 1] - p[a + 1], p[b + 2] - p[a + 2]];
  const w = [p[c] - p[a], p[c + 1] - p[a + 1], p[c + 2] - p[a + 2]];
  return (u[1] * w[2] - u[2] * w[1]) * to[0] + (u[2] * w[0] - u[0] * w[2]) * to[1] + (u[0] * w[1] - u[1] * w[0]) * to[2];
}

/** Share of a picture's pixels, `PIXELS` a side, that an asset covers from a direction. */
export function coverage(asset: Pick<Asset, 'lods'>, to: readonly number[], lod = 0, pixels = PIXELS): number {
  const { triangle } = orthoRaster(asset.lods[lod], viewOf(asset, to), pixels);
  return triangle.reduce((n, t) => n + (t >= 0 ? 1 : 0), 0) / triangle.length;
}
