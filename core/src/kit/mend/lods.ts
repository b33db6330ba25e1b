import type { Mesh } from '../../num/mesh';
import { distanceTo, triangleTree } from '../../num/triangleTree';
import { assetBounds, type Asset, type Primitive } from '../asset';
import { assetMesh } from '../assetMesh';
import { weldPoints } from '../../num/weld';
import { compact } from './corners';
import type { Flag, Simplifier } from './tools';

/** How many points of a mesh its LODs are held against. */
const SAMPLES = 20_000;
/** Measured at samples: so much more is stated, for what lies between them. */
const BETWEEN = 1.15;
/** No LOD lies further off than this share of the size. */
const MOST_OFF = 0.1;
/** What a turn of the surface and a shift of its picture weigh. */
const WEIGHTS_OF = [0.3, 0.3, 0.3, 0.1, 0.1];

/**
 * LODs of the finest one, in place of those it has: all primitives are simplified together, so that no crack opens between two
 * materials. How far each lies from the finest is measured, both ways, and kept.
 *
 * @param shares of the finest's triangles, each smaller than the one before
 */
export function makeLods(asset: Asset, shares: readonly number[], simplifier: Simplifier): Asset {
  const [fine] = asset.lods;
  const lods: Primitive[][] = [fine];
  const errors: number[] = [];
  let before = fine.reduce((s, p) => s + p.indices.length, 0);
  for (const share of [...shares].sort((a, b) => b - a)) {
    const lod = simplified(asset, share, simplifier);
    const size = lod.reduce((s, p) => s + p.indices.length, 0);
    // One that is hardly simpler than the one before is no gain.
    if (size === 0 || size > before * 0.95) continue;
    before = size;
    lods.push(lod);
    errors.push(Math.max(errors.at(-1) ?? 0, deviation(assetMesh(asset), assetMesh({ ...asset, lods: [lod] })) * BETWEEN));
  }
  return { ...asset, lods, errors };
}

function simplified(asset: Asset, share: number, simplifier: Simplifier): Primitive[] {
  const [fine] = asset.lods;
  const { positions, indices } = assetMesh(asset);
  const starts: number[] = [];
  fine.reduce((at, p) => (starts.push(at), at + p.positions.length / 3), 0);
  const count = positions.length / 3;
  // Directions weigh a little, so that edges one sees stay; pictures too, that they do not swim.
  const attributes = new Float32Array(count * 5);
  fine.forEach((p, i) => {
    for (let v = 0; v < p.positions.length / 3; v++) {
      const o = (starts[i] + v) * 5;
      attributes.set(p.normals.subarray(v * 3, v * 3 + 3), o);
      if (p.uvs) attributes.set(p.uvs.subarray(v * 2, v * 2 + 2), o + 3);
    }
  });
  const { min, max } = assetBounds(asset);
  const size = Math.max(max[0] - min[0], max[1] - min[1], max[2] - min[2]);
  const target = Math.max(12, Math.round((indices.length / 3) * share) * 3);
  const run = (flags: Flag[]) =>
    simplifier.simplifyWithAttributes(indices, positions, 3, attributes, 5, WEIGHTS_OF, null, target, size * MOST_OFF, ['ErrorAbsolute', ...flags])[0];
  const owners = new Uint16Array(count);
  starts.forEach((from, i) => owners.fill(i, from, from + fine[i].positions.length / 3));
  let found = run([]);
  // Sharp corners and seams hold it: they may give way too; then what is so small that nobody sees it go.
  for (const flags of [['Permissive'], ['Permissive', 'Prune']] as Flag[][]) {
    if (found.length <= target * 1.4) break;
    const looser = unmixed(run(flags), owners, positions);
    if (looser && looser.length > 0 && looser.length < found.length) found = looser;
  }
  const parts = fine.map((): number[] => []);
  for (let i = 0; i < found.length; i += 3) {
    const part = owners[found[i]];
    parts[part].push(found[i] - starts[part], found[i + 1] - starts[part], found[i + 2] - starts[part]);
  }
  return fine.flatMap((p, i) => (parts[i].length > 0 ? [compact(p, Uint32Array.from(parts[i]))] : []));
}

/**
 * Triangles that came to wear two materials wear one: each corner of another is the one of the same place that wears it.
 *
 * @returns `undefined` where a corner has none
 */
function unmixed(indices: Uint32Array, owners: Uint16Array, positions: Float32Array): Uint32Array | undefined {
  const out = indices.slice();
  const points = weldPoints(positions, 0);
  let places: Map<string, number> | undefined;
  for (let i = 0; i < out.length; i += 3) {
    const three = [out[i], out[i + 1], out[i + 2]];
    if (owners[three[0]] === owners[three[1]] && owners[three[0]] === owners[three[2]]) continue;
    places ??= new Map([...points].map((at, v) => [`${at} ${owners[v]}`, v]));
    const as = three.map((v) => owners[v]).find((owner) => three.every((v) => places!.has(`${points[v]} ${owner}`)));
    if (as === undefined) return undefined;
    three.forEach((v, k) => (out[i + k] = places!.get(`${points[v]} ${as}`)!));
  }
  return out;
}

/** How far two meshes lie apart at most, seen from points of either. */
export function deviation(a: Mesh, b: Mesh): number {
  return Math.max(oneWay(a, b), oneWay(b, a));
}

function oneWay(from: Mesh, to: Mesh): number {
  const tree = triangleTree(to);
  const { positions: p, indices } = from;
  const triangles = indices.length / 3;
  // The middle of each triangle and of its sides, and its corners; of many triangles some.
  const step = Math.max(1, Math.ceil((triangles * 7) / SAMPLES));
  let most = 0;
  for (let t = 0; t < triangles; t += step) {
    const [a, b, c] = [indices[t * 3] * 3, indices[t * 3 + 1] * 3, indices[t * 3 + 2] * 3];
    for (const [u, v, w] of WEIGHTS)
      most = Math.max(
        most,
        distanceTo(tree, p[a] * u + p[b] * v + p[c] * w, p[a + 1] * u + p[b + 1] * v + p[c + 1] * w, p[a + 2] * u + p[b + 2] * v + p[c + 2] * w),
      );
  }
  return most;
}

const WEIGHTS = [
  [1, 0, 0],
  [0, 1, 0],
  [0, 0, 1],
  [0.5, 0.5, 0],
  [0, 0.5, 0.5],
  [0.5, 0, 0.5],
  [1 / 3, 1 / 3, 1 / 3],
] as const;
