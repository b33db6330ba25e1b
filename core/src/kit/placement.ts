import { placeMesh, type PlacedMesh } from '../block/placedMesh';
import type { Piece } from '../level/objects';
import { placer } from '../num/pose';
import type { Asset, Collider } from './asset';
import { assetMesh } from './assetMesh';
import { assetOf, bentAsset } from './bentAsset';
import { colliderShapes } from './mend/colliders';

/** Assets of a level by the id of their asset object. */
export type Assets = ReadonlyMap<string, Asset>;

/** What stops a body at this piece. Background stops nobody, whatever is said. */
export const colliderOf = (piece: Pick<Piece, 'collider'>, asset: Asset): Collider =>
  asset.role === 'background' ? 'none' : piece.collider === 'asset' ? asset.collider : piece.collider;

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

/** One piece as it is seen and stood on; the same mesh for the same piece. @param asset straight, where the piece is bent */
export function placedPiece(piece: Piece, asset: Asset): PlacedMesh {
  const known = placedOf.get(piece);
  if (known?.asset === asset) return known.mesh;
  const mesh = placeMesh(piece.id, piece.name, assetMesh(piece.bend ? bentAsset(asset, piece.bend) : asset), placer(piece));
  placedOf.set(piece, { asset, mesh });
  return mesh;
}

/** Pieces as they stop a body, one mesh for each shape of their colliders; none where a piece has no collider. */
export function pieceColliders(pieces: Iterable<Piece>, assets: Assets): PlacedMesh[] {
  const out: PlacedMesh[] = [];
  for (const piece of pieces) {
    const asset = assetOf(assets, piece);
    if (!asset) continue;
    for (const shape of colliderShapes(asset, colliderOf(piece, asset))) out.push(placeMesh(piece.id, piece.name, shape, placer(piece)));
  }
  return out;
}
