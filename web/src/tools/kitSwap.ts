import { counterpart, variantOf } from '@rammer/core/kit/otherParts';
import type { Kit, Part, Piece } from '@rammer/core/level/objects';
import type { Session } from '../store/session';
import { kitsOf } from './laidLines';
import { setThings } from './things';

/** The part that a mesh is, and its kit: the first that has it. */
export function partIn(kits: readonly Kit[], asset: string): { kit: Kit; part: Part } | undefined {
  for (const kit of kits) {
    const part = kit.parts.find((p) => p.asset === asset);
    if (part) return { kit, part };
  }
  return undefined;
}

/** Sets what another part is in the place of each piece that has one. Poses stay. One edit. */
function swapEach(session: Session, pieces: readonly Piece[], by: (of: { kit: Kit; part: Part }) => Part | undefined, verb: string): number {
  const kits = kitsOf(session);
  const next = new Map(
    pieces.flatMap((p): [string, string][] => {
      const of = partIn(kits, p.asset);
      const other = of && by(of);
      return other && other.asset !== p.asset ? [[p.id, other.asset]] : [];
    }),
  );
  if (next.size > 0)
    setThings(
      session,
      pieces.filter((p) => next.has(p.id)),
      (t) => ({ asset: next.get(t.id) }),
      verb,
    );
  return next.size;
}

/** Swaps parts for those of another kit that do the same; what has none there stays, and is told. */
export function toKit(session: Session, pieces: readonly Piece[], id: string): void {
  const kit = session.level.object(id);
  if (kit?.kind !== 'kit') return;
  const none = pieces.filter((p) => {
    const of = partIn(kitsOf(session), p.asset);
    return of && !counterpart(of.part, kit);
  });
  swapEach(session, pieces, ({ part }) => counterpart(part, kit), `${kit.name} for`);
  if (none.length > 0) session.say(`${none.length === 1 ? `${none[0].name} stays` : `${none.length} stay`}: ${kit.name} has no part of that use`, true);
}

/** Swaps each part for the next variant of its kit. */
export const nextVariant = (session: Session, pieces: readonly Piece[]): number => swapEach(session, pieces, ({ kit, part }) => variantOf(part, kit), 'vary');
