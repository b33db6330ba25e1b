import type { Part } from '../level/kinds/kit';
import { placer, wrapDeg } from '../num/pose';
import { atan2Deg } from '../num/trig';
import { dot, sub, type Vec3 } from '../num/vec';
import { fits, joinsOf, type JoinGrid, type PlacedJoin } from './joinGrid';
import type { Piece } from '../level/objects';

/** A piece that is being placed locks where it would move no further than this, metres. */
export const LOCK_REACH = 1;
/** What is left to the next piece is told up to this far, metres. */
const TOLD = 4;
/** A quarter of a turn counts as so many metres of the way to a join. */
const TURN_COST = 0.5;
/** Two joins meet within this, metres. */
const MEETS = 1e-3;

/** Where a piece locks, and what the person is told of it. */
export interface Lock {
  at: Vec3;
  /** degrees */
  turn: number;
  to: PlacedJoin;
  /** the two joins take each other's kind */
  fits: boolean;
  /** metres from its other joins to the next ones before them; none where nothing is near */
  left: { metres: number; to: PlacedJoin }[];
}

/**
 * Locks a piece join to join with what stands near: the pair that moves and turns it least, those that fit and are free first.
 *
 * @param piece where the pointer has it, upright
 * @param part what it is in its kit
 * @returns nothing where no join is near
 */
export function lockJoin(piece: Piece, part: Part, grid: JoinGrid): Lock | undefined {
  const kit = '';
  let best: { cost: number; lock: Lock } | undefined;
  for (const own of joinsOf(piece, { kit, part })) {
    for (const other of grid.near(own.at, LOCK_REACH * 2)) {
      if (other.piece.id === piece.id || Math.abs(other.way[1]) > 0.1) continue;
      // Its way out looks against the other's.
      const turn = wrapDeg(atan2Deg(other.way[2], -other.way[0]) - own.join.turn);
      const scaled = placer({ at: [0, 0, 0], turn, scale: piece.scale })(...own.join.at);
      const at = sub(other.at, scaled);
      const moved = sub(at, piece.at);
      const far = Math.sqrt(dot(moved, moved));
      if (far > LOCK_REACH) continue;
      const fit = fits(own.join, other.join);
      const taken = grid.near(other.at, MEETS * 5).some((j) => j.piece.id !== other.piece.id && j.piece.id !== piece.id && dot(j.way, other.way) < -0.9);
      const cost = far + (Math.abs(wrapDeg(turn - piece.turn)) / 90) * TURN_COST + (fit ? 0 : 2) + (taken ? 1 : 0);
      if (!best || cost < best.cost - 1e-9) best = { cost, lock: { at, turn, to: other, fits: fit, left: [] } };
    }
  }
  if (!best) return undefined;
  const { lock } = best;
  lock.left = leftAt({ ...piece, at: lock.at, turn: lock.turn }, part, lock.to, grid);
  return lock;
}

/** How far it is from the joins of a piece to those before them. */
function leftAt(piece: Piece, part: Part, met: PlacedJoin, grid: JoinGrid): Lock['left'] {
  return joinsOf(piece, { kit: '', part }).flatMap((own) => {
    let found: { metres: number; to: PlacedJoin } | undefined;
    for (const other of grid.near(own.at, TOLD)) {
      if (other.piece.id === piece.id || other === met || dot(own.way, other.way) > -0.9) continue;
      const by = sub(other.at, own.at);
      const ahead = dot(by, own.way);
      const aside = Math.sqrt(Math.max(0, dot(by, by) - ahead * ahead));
      if (aside < 0.3 && ahead > -0.5 && (!found || Math.abs(ahead) < Math.abs(found.metres))) found = { metres: ahead, to: other };
    }
    return found && Math.abs(found.metres) < TOLD ? [found] : [];
  });
}

/** What a lock is, in words: `meets wall 3; 0.60 m left to wall 7`. */
export function lockText({ to, fits: fit, left }: Lock): string {
  const first = fit ? `meets ${to.piece.name}` : `does not fit ${to.piece.name}: its join takes ${(to.join.fits ?? [to.join.kind]).join(' or ')}`;
  return [
    first,
    ...left.map(({ metres, to: next }) =>
      Math.abs(metres) < MEETS
        ? `meets ${next.piece.name}`
        : metres > 0
          ? `${metres.toFixed(2)} m left to ${next.piece.name}`
          : `${(-metres).toFixed(2)} m into ${next.piece.name}`,
    ),
  ].join('; ');
}
