import { placeMesh, type PlacedMesh } from '../block/placedMesh';
import type { Piece } from '../level/objects';
import type { Mesh } from '../num/mesh';
import { placer } from '../num/pose';
import type { Vec3 } from '../num/vec';
import { assetBounds, type Asset, type Collider } from './asset';

/** Assets of a level by the id of their asset object. */
export type Assets = ReadonlyMap<string, Asset>;

/** What stops a body at this piece. */
export const colliderOf = (piece: Pick<Piece, 'collider'>, asset: Asset): Collider => (piece.collider === 'asset' ? asset.collider : piece.collider);

/** The finest LOD of an asset as one mesh. */
export function assetMesh(asset: Asset): Mesh {
  const parts = asset.lods[0];
  if (parts.length === 1) return parts[0];
  const positions = new Float32Array(parts.reduce((s, p) => s + p.positions.length, 0));
  const indices = new Uint32Array(parts.reduce((s, p) => s + p.indices.length, 0));
  let v = 0;
  let o = 0;
  for (const p of parts) {
    positions.set(p.positions, v * 3);
    for (const i of p.indices) indices[o++] = v + i;
    v += p.positions.length / 3;
  }
  return { positions, indices };
}

/** A box as 12 triangles. */
export function boxMesh(min: Vec3, max: Vec3): Mesh {
  const positions = new Float32Array(24);
  for (let i = 0; i < 8; i++) positions.set([i & 1 ? max[0] : min[0], i & 2 ? max[1] : min[1], i & 4 ? max[2] : min[2]], i * 3);
  return { positions, indices: Uint32Array.from([0, 1, 5, 0, 5, 4, 2, 6, 7, 2, 7, 3, 0, 2, 3, 0, 3, 1, 4, 5, 7, 4, 7, 6, 0, 4, 6, 0, 6, 2, 1, 3, 7, 1, 7, 5]) };
}

/** Pieces as they are seen and stood on: the finest LOD of each. Pieces whose asset is not there are left out. */
export function placedPieces(pieces: Iterable<Piece>, assets: Assets): PlacedMesh[] {
  const out: PlacedMesh[] = [];
  for (const piece of pieces) {
    const asset = assets.get(piece.asset);
    if (asset) out.push(placedPiece(piece, asset));
  }
  return out;
}

/** What was placed of pieces that are as they were. */
const placedOf = new WeakMap<Piece, { asset: Asset; mesh: PlacedMesh }>();

/** One piece as it is seen and stood on; the same mesh for the same piece. */
export function placedPiece(piece: Piece, asset: Asset): PlacedMesh {
  const known = placedOf.get(piece);
  if (known?.asset === asset) return known.mesh;
  const mesh = placeMesh(piece.id, piece.name, assetMesh(asset), placer(piece));
  placedOf.set(piece, { asset, mesh });
  return mesh;
}

/** Pieces as they stop a body: the box or the mesh of each, none where it has no collider. */
export function pieceColliders(pieces: Iterable<Piece>, assets: Assets): PlacedMesh[] {
  const out: PlacedMesh[] = [];
  for (const piece of pieces) {
    const asset = assets.get(piece.asset);
    const kind = asset && colliderOf(piece, asset);
    if (!asset || kind === 'none') continue;
    const { min, max } = assetBounds(asset);
    out.push(placeMesh(piece.id, piece.name, kind === 'box' ? boxMesh(min, max) : assetMesh(asset), placer(piece)));
  }
  return out;
}
