import type { Bend, Piece } from '../level/kinds/piece';
import type { Mesh } from '../num/mesh';
import { sliced, type Sliceable } from '../num/sliced';
import { normalize, type Vec3 } from '../num/vec';
import type { Asset, Primitive } from './asset';
import { bentBy, bentFrame, bentPlace } from './bend';

/** A slice of the finest LOD turns by this at most, degrees; of each coarser one by twice as much as of the one before. */
const TURN = 4;
/** The most slices a mesh is cut into. */
const MOST = 48;
/** So many bends of one mesh are kept at hand. */
const KEPT = 2000;

const keys = new WeakMap<Bend, string>();

/** What is the same for the same bend. */
export function bendKey(bend: Bend): string {
  let found = keys.get(bend);
  if (found === undefined) keys.set(bend, (found = [...bend.at, bend.length, bend.run, bend.rise, ...bend.side, ...bend.slope].join()));
  return found;
}

/** Slices the length of a bend is cut into. @param lod 0 is the finest */
const slicesOf = (bend: Bend, lod: number): number => Math.min(MOST, Math.max(1, Math.ceil(bentBy(bend) / (TURN * 2 ** lod))));

/** Where a bend cuts a mesh: both its ends too, beyond which it goes straight on. */
const cutsOf = (bend: Bend, lod: number): number[] => {
  const count = slicesOf(bend, lod);
  return Array.from({ length: count + 1 }, (_, i) => bend.at[0] + (bend.length * i) / count);
};

/** A closed shape or any mesh, cut and bent. */
export function bentMesh(mesh: Mesh, bend: Bend, lod = 0): Mesh {
  const { indices, streams } = sliced({ indices: mesh.indices, streams: [{ of: mesh.positions, each: 3 }] }, cutsOf(bend, lod));
  return { positions: bentPositions(streams[0].of, bend), indices };
}

function bentPositions(p: Float32Array, bend: Bend): Float32Array {
  const out = new Float32Array(p.length);
  for (let i = 0; i < p.length; i += 3) out.set(bentPlace(bend, [p[i], p[i + 1], p[i + 2]]), i);
  return out;
}

const STREAMS = [
  ['normals', 3],
  ['colours', 4],
  ['tangents', 4],
  ['uvs', 2],
  ['uvs1', 2],
] as const;

function bentPrimitive(p: Primitive, bend: Bend, lod: number): Primitive {
  const own = STREAMS.filter(([name]) => p[name] !== undefined);
  const of: Sliceable = { indices: p.indices, streams: [{ of: p.positions, each: 3 }, ...own.map(([name, each]) => ({ of: p[name]!, each }))] };
  const { indices, streams } = sliced(of, cutsOf(bend, lod));
  const straight = streams[0].of;
  const out: Primitive = { ...p, indices, positions: bentPositions(straight, bend) };
  own.forEach(([name], i) => {
    const stream = streams[i + 1].of;
    out[name] = name === 'normals' ? turnedBy(stream, straight, bend, [3, -1]) : name === 'tangents' ? turnedBy(stream, straight, bend, [4, 1]) : stream;
  });
  return out;
}

/** Directions as a bend turns them. @param how numbers a vertex, and the power of the stretch their part along it takes */
function turnedBy(of: Float32Array, straight: Float32Array, bend: Bend, [each, power]: readonly [number, number]): Float32Array {
  const out = Float32Array.from(of);
  for (let v = 0; v < straight.length / 3; v++) {
    const { along, up, across, stretch } = bentFrame(bend, (straight[v * 3] - bend.at[0]) / bend.length);
    const [x, y, z] = [of[v * each] * stretch ** power, of[v * each + 1], of[v * each + 2]];
    out.set(normalize([0, 1, 2].map((k) => along[k] * x + up[k] * y + across[k] * z) as Vec3), v * each);
  }
  return out;
}

const made = new WeakMap<Asset, Map<string, Asset>>();

/** An asset bent, every LOD of it and what stops a body; worked out once. */
export function bentAsset(asset: Asset, bend: Bend): Asset {
  let known = made.get(asset);
  if (!known) made.set(asset, (known = new Map()));
  const key = bendKey(bend);
  let found = known.get(key);
  if (!found) {
    if (known.size >= KEPT) known.clear();
    // A card that turns to the eye stays as it is.
    const card = asset.distant ? asset.lods.length - 1 : -1;
    found = { ...asset, lods: asset.lods.map((lod, i) => (i === card ? lod : lod.map((p) => bentPrimitive(p, bend, i)))) };
    straights.set(found, { asset, bend });
    known.set(key, found);
  }
  return found;
}

/** What bent assets were before, and how they are bent. */
const straights = new WeakMap<Asset, { asset: Asset; bend: Bend }>();

/** The straight asset of a bent one, and its bend. */
export const straightOf = (asset: Asset): { asset: Asset; bend: Bend } | undefined => straights.get(asset);

/** What a piece shows: its asset, bent where the piece is; `undefined` where the asset is not there. */
export function assetOf(assets: ReadonlyMap<string, Asset>, { asset: id, bend }: Pick<Piece, 'asset' | 'bend'>): Asset | undefined {
  const asset = assets.get(id);
  return asset && bend ? bentAsset(asset, bend) : asset;
}

/** Tells meshes of pieces apart: the id of the asset, and how it is bent. */
export const meshKey = ({ asset, bend }: Pick<Piece, 'asset' | 'bend'>): string => (bend ? `${asset}~${bendKey(bend)}` : asset);
