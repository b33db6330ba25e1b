import type { Dressed, Dressing } from '@rammer/core/level/lay/dressed';
import type { Piece } from '@rammer/core/level/objects';
import { presentOf } from '@rammer/core/level/present';
import { useDressing } from '../store/dressing';
import { newId, nextName } from '../store/names';
import type { Session } from '../store/session';

/** What was dressed last on this page, and how it is drawn anew: other places, turns and sizes. */
interface Last {
  level: string;
  ids: readonly string[];
  again(seed: number): void;
}
let last: Last | undefined;

/** Keeps what was dressed, so that one key draws it anew. */
export const keepLast = (session: Session, ids: readonly string[], again: Last['again']): void => {
  last = { level: session.id, ids, again };
};

/** Draws what was dressed last anew. */
export function rollAgain(session: Session): void {
  const { level } = session;
  const known = last && last.level === session.id && last.ids.every((id) => level.object(id)?.kind === 'piece') ? last : undefined;
  if (!known || !session.writable) {
    session.say('there is nothing to roll again: brush or throw pieces first', true);
    return;
  }
  const { of, set } = useDressing.getState();
  set({ seed: of.seed + 1 });
  known.again(of.seed + 1);
}

/** Pieces of the level that are of a list, those made for copies and lines too. */
export const ofList = (session: Session, { list }: Dressing): Piece[] => {
  const assets = new Set(list.map((l) => l.asset));
  return presentOf(session.level.objects)
    .of('piece')
    .filter((p) => assets.has(p.asset));
};

export const asPiece = (d: Dressed, id: string, name: string): Piece => ({
  id,
  version: 1,
  kind: 'piece',
  name,
  collider: 'asset',
  hidden: false,
  out: false,
  ...d,
});

/** What was dressed as objects of the level, with names that follow. */
export function asObjects(session: Session, list: readonly Dressed[]): Piece[] {
  const next = new Map<string, number>();
  return list.map((d) => {
    const word = session.level.object(d.asset)?.name ?? 'piece';
    const n = next.get(word) ?? Number(/\d+$/.exec(nextName(session.level, word))![0]);
    next.set(word, n + 1);
    return asPiece(d, newId('piece'), `${word} ${n}`);
  });
}

/** Adds what was dressed, in the place of what was dressed before where it is drawn anew. One edit. @returns ids, or nothing where it was refused */
export function addDressed(session: Session, list: readonly Dressed[], what: string, instead: readonly string[] = []): string[] | undefined {
  const objects = asObjects(session, list);
  const add = { kind: 'add' as const, objects };
  const edit =
    instead.length > 0 ? { kind: 'together' as const, parts: [{ kind: 'remove' as const, ids: [...instead] }, ...(objects.length > 0 ? [add] : [])] } : add;
  return session.commit(edit, `${what} ${objects.length} pieces`) ? objects.map((o) => o.id) : undefined;
}
