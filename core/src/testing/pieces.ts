import type { Piece } from '../level/objects';
import type { Vec3 } from '../num/vec';

/** A piece as it is placed, named by its id. */
export const testPiece = (id: string, at: Vec3, more: Partial<Piece> = {}): Piece => ({
  id,
  version: 1,
  kind: 'piece',
  name: id,
  asset: 'kit-wall',
  at,
  turn: 0,
  sink: 0,
  collider: 'asset',
  hidden: false,
  out: false,
  ...more,
});
