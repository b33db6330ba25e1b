import { joinGrid, partsByAsset, type JoinGrid } from '@rammer/core/kit/joinGrid';
import { lockJoin, type Lock } from '@rammer/core/kit/lockJoin';
import { ofKind } from '@rammer/core/level/level';
import type { Piece } from '@rammer/core/level/objects';
import { presentOf } from '@rammer/core/level/present';
import type { Session } from '../store/session';

let known: { of: readonly unknown[]; grid: JoinGrid; parts: ReturnType<typeof partsByAsset> } | undefined;

/** Joins of all that stands in the level, made anew after an edit and not before. */
function joinsHere(session: Session): NonNullable<typeof known> {
  const of = [session.level, session.level.version];
  if (known?.of.every((v, i) => v === of[i])) return known;
  const kits = ofKind(session.level, 'kit');
  const pieces = kits.length > 0 ? presentOf(session.level.objects).of('piece') : [];
  known = { of, grid: joinGrid(pieces, kits), parts: partsByAsset(kits) };
  return known;
}

/** Where a piece of a kit locks near where it is held; nothing where it is of no kit, lies askew, or no join is near. */
export function lockOf(session: Session, piece: Piece): Lock | undefined {
  const { grid, parts } = joinsHere(session);
  const part = parts.get(piece.asset)?.part;
  return part && part.joins.length > 0 && !piece.tilt ? lockJoin(piece, part, grid) : undefined;
}

/** To a tenth of a millimetre: joins meet to less than one. */
export const fine = (v: number): number => Math.round(v * 1e4) / 1e4 + 0;
