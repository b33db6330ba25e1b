import type { Mesh } from '../num/mesh';
import { sinCosDeg } from '../num/trig';
import { cross, length, normalize, sub, type Vec3 } from '../num/vec';
import type { Asset, Collider, Primitive } from './asset';

/** Where a cast's pivot lies: the middle of its base, its middle, its low north-west corner, or the level's origin. */
export const PIVOTS = ['base', 'centre', 'corner', 'origin'] as const;
export type Pivot = (typeof PIVOTS)[number];

export interface CastOptions {
  name: string;
  /** the point of the level that becomes the asset's origin */
  pivot: Vec3;
  /** degrees about Y by which its own axes are turned in the level: those of the blocks it is cast from */
  turn?: number;
  collider: Collider;
  /** pixels a metre that its texture coordinates are laid out for */
  texel: number;
  /** side of the texture they are laid out for, pixels */
  picture: number;
}

/** Blockout grey as the shipped kit's colours are: linear. */
const GREY: [number, number, number] = [0.42, 0.38, 0.31];

/** The turn that blocks share, as a cast takes it over; 0 where they do not. Quarter turns are the same axes. */
export function commonTurn(turns: readonly number[]): number {
  const quarter = (t: number) => ((t % 90) + 90) % 90;
  return turns.length > 0 && turns.every((t) => Math.abs(quarter(t) - quarter(turns[0])) < 1e-6) ? turns[0] : 0;
}

/** @param turn degrees of the axes its bounds are taken in */
export function pivotOf(mesh: Mesh, kind: Pivot, turn = 0): Vec3 {
  if (kind === 'origin') return [0, 0, 0];
  const p = turn === 0 ? mesh.positions : turned(mesh.positions, -turn);
  const min: Vec3 = [Infinity, Infinity, Infinity];
  const max: Vec3 = [-Infinity, -Infinity, -Infinity];
  for (let i = 0; i < p.length; i++) {
    if (p[i] < min[i % 3]) min[i % 3] = p[i];
    if (p[i] > max[i % 3]) max[i % 3] = p[i];
  }
  const own: Vec3 = kind === 'corner' ? min : [(min[0] + max[0]) / 2, kind === 'base' ? min[1] : (min[1] + max[1]) / 2, (min[2] + max[2]) / 2];
  return turn === 0 ? own : (Array.from(turned(own, turn)) as Vec3);
}

/** Points turned about the level's Y axis, degrees counter-clockwise seen from above. */
function turned(p: ArrayLike<number>, deg: number): Float64Array {
  const [s, c] = sinCosDeg(deg);
  const out = new Float64Array(p.length);
  for (let i = 0; i < p.length; i += 3) {
    out[i] = c * p[i] + s * p[i + 2];
    out[i + 1] = p[i + 1];
    out[i + 2] = -s * p[i] + c * p[i + 2];
  }
  return out;
}

/**
 * A mesh of the level as an asset of a kit, with its real dimensions: flat shaded, one material, one
 * level of detail.
 *
 * Texture coordinates lie in each face's own plane: u along the level, v down the slope, so that every
 * face has the texel density asked for, whatever way it leans, and courses run level round a corner.
 */
export function castAsset(mesh: Mesh, { name, pivot, turn = 0, collider, texel, picture }: CastOptions): Asset {
  const { indices } = mesh;
  const p = turned(
    Float64Array.from(mesh.positions, (v, i) => v - pivot[i % 3]),
    -turn,
  );
  const positions: number[] = [];
  const normals: number[] = [];
  const uvs: number[] = [];
  const out: number[] = [];
  const known = new Map<string, number>();
  const perMetre = texel / picture;
  let top = 0;
  for (let i = 0; i < indices.length; i += 3) {
    const at = [0, 1, 2].map((k): Vec3 => [p[indices[i + k] * 3], p[indices[i + k] * 3 + 1], p[indices[i + k] * 3 + 2]]);
    const across = cross(sub(at[1], at[0]), sub(at[2], at[0]));
    if (length(across) < 1e-10) continue;
    const n = normalize(across);
    const level = Math.abs(n[1]) > 0.9999;
    const u: Vec3 = level ? [1, 0, 0] : normalize(cross([0, 1, 0], n));
    const v = level ? ([0, 0, 1] as Vec3) : cross(u, n);
    for (let k = 0; k < 3; k++) {
      const key = `${indices[i + k]},${n.map((c) => Math.round(c * 1e4)).join()}`;
      let vertex = known.get(key);
      if (vertex === undefined) {
        known.set(key, (vertex = positions.length / 3));
        const q = at[k];
        positions.push(q[0] + 0, q[1] + 0, q[2] + 0);
        normals.push(n[0] + 0, n[1] + 0, n[2] + 0);
        uvs.push((q[0] * u[0] + q[1] * u[1] + q[2] * u[2]) * perMetre, (q[0] * v[0] + q[1] * v[1] + q[2] * v[2]) * perMetre);
        top = Math.max(top, q[1]);
      }
      out.push(vertex);
    }
  }
  const colours = new Float32Array((positions.length / 3) * 4);
  for (let i = 0; i < colours.length; i += 4) colours.set([...GREY, 0], i);
  const primitive: Primitive = {
    positions: Float32Array.from(positions),
    normals: Float32Array.from(normals),
    uvs: Float32Array.from(uvs),
    colours,
    indices: Uint32Array.from(out),
    material: 'blockout',
    alphaTested: false,
  };
  return { name, role: 'piece', collider, tags: ['cast'], trunk: 0, lods: [[primitive]], textureBytes: 0 };
}

/** Pixels a metre of a primitive's faces at a texture's side: the least and the most. */
export function texelDensity({ positions: p, uvs, indices }: Primitive, picture: number): [number, number] | undefined {
  if (!uvs) return undefined;
  let [least, most] = [Infinity, 0];
  for (let i = 0; i < indices.length; i += 3) {
    const at = [0, 1, 2].map((k): Vec3 => [p[indices[i + k] * 3], p[indices[i + k] * 3 + 1], p[indices[i + k] * 3 + 2]]);
    const uv = [0, 1, 2].map((k) => [uvs[indices[i + k] * 2], uvs[indices[i + k] * 2 + 1]]);
    const area = length(cross(sub(at[1], at[0]), sub(at[2], at[0])));
    const flat = Math.abs((uv[1][0] - uv[0][0]) * (uv[2][1] - uv[0][1]) - (uv[2][0] - uv[0][0]) * (uv[1][1] - uv[0][1]));
    const density = Math.sqrt(flat / area) * picture;
    least = Math.min(least, density);
    most = Math.max(most, density);
  }
  return [least, most];
}
