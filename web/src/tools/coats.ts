import { assetOf } from '@rammer/core/kit/bentAsset';
import { allCoats, coatsOf } from '@rammer/core/coat/coats';
import { BARE, filled, packedPaint, paintOn, type Painted } from '@rammer/core/coat/paint';
import { COAT_RECIPES } from '@rammer/core/coat/recipes';
import { batchList } from '@rammer/core/cost/batches';
import { viewTally } from '@rammer/core/cost/tally';
import { DEVICES, frameOf } from '@rammer/core/cost/frame';
import type { Asset } from '@rammer/core/kit/asset';
import { settingsOf } from '@rammer/core/level/level';
import { MOST_COATS, type Coat, type Piece } from '@rammer/core/level/objects';
import { insertInOrder, moveInOrder } from '@rammer/core/level/ordered';
import { useCoating } from '../store/coating';
import { newId, nextName } from '../store/names';
import type { Session } from '../store/session';
import type { LevelView } from '../view/LevelView';
import { many, setThings } from './things';

/** The coat that is painted: the one picked, else the topmost. */
export function coatInHand(session: Session): Coat | undefined {
  const coats = coatsOf(session.level);
  return coats.find((c) => c.id === useCoating.getState().coat) ?? coats[coats.length - 1];
}

/** Adds a coat of a recipe over the others and takes it in hand. */
export function addCoat(session: Session, recipe: string): void {
  const coats = allCoats(session.level);
  const of = COAT_RECIPES.find((r) => r.name === recipe);
  if (!of) return;
  if (coats.length >= MOST_COATS) {
    session.say(`a level has at most ${MOST_COATS} coats: delete one first`, true);
    return;
  }
  const name = coats.some((c) => c.name === of.name) ? nextName(session.level, of.name) : of.name;
  const made: Coat = { ...of, id: newId('coat'), version: 1, kind: 'coat', name, order: 0, on: true };
  if (session.commit(insertInOrder(coats, made, coats.length), `add the coat ${name}`)) useCoating.setState({ coat: made.id });
}

/** @param set fields; `null` takes an optional one away */
export const setCoat = (session: Session, coat: Coat, set: { [F in keyof Coat]?: Exclude<Coat[F], undefined> | null }, words: string): boolean =>
  session.commit({ kind: 'set', patches: [{ id: coat.id, set }] }, words);

export function placeCoat(session: Session, coat: Coat, to: number): void {
  const edit = moveInOrder(allCoats(session.level), coat.id, to);
  if (edit) session.commit(edit, `move ${coat.name} in the list`);
}

/** Deletes a coat. What is painted of it stays with the pieces, unseen, so that undo brings it back whole. */
export const removeCoat = (session: Session, coat: Coat): boolean => session.commit({ kind: 'remove', ids: [coat.id] }, `delete the coat ${coat.name}`);

/** What is painted on a piece, on the grid of the mesh it has. */
export const paintedOn = (asset: Asset, piece: Piece): Painted => (piece.paint ? paintOn(asset, piece.paint) : new Map());

/** Lays new paint on pieces, as one edit. */
export function setPainted(session: Session, painted: ReadonlyMap<Piece, Painted>, words: string): boolean {
  const { assets } = session.scene.placed;
  return setThings(
    session,
    [...painted.keys()],
    (t) => {
      const asset = assetOf(assets, t as Piece);
      return { paint: (asset && packedPaint(asset, painted.get(t as Piece)!)) ?? null };
    },
    words,
  );
}

/** All of some pieces under a coat, bare of it, or as its rule has it. @param value a byte, see `BARE` */
export function fillPieces(session: Session, pieces: readonly Piece[], coat: Coat, value: number): void {
  const next = new Map<Piece, Painted>();
  for (const piece of pieces) {
    const asset = assetOf(session.scene.placed.assets, piece);
    if (asset) next.set(piece, filled(asset, paintedOn(asset, piece), coat.id, value));
  }
  const verb = value === BARE ? `${coat.name} by its rule on` : value > BARE ? `cover with ${coat.name}:` : `bare of ${coat.name}:`;
  if (next.size > 0) setPainted(session, next, `${verb} ${many([...next.keys()])}`);
}

/** What all coats cost on the target device from where one looks, ms, and the bytes of their cells; as the wall has it. */
export function coatCost(session: Session, view: LevelView): { ms: number; bytes: number } {
  const device = DEVICES[settingsOf(session.level).device];
  const { spacing } = session.terrain.grid;
  const costs = view.costs();
  const { all } = viewTally(costs, view.camera, spacing);
  const without = { ...all };
  for (const b of batchList(costs, view.camera, spacing, 1)) without.overdraw -= b.coats ?? 0;
  const shared = new Map(costs.flatMap((d) => (d.shared ?? []).filter((s) => s.key.startsWith('coats/')).map((s) => [s.key, s.bytes] as const)));
  return { ms: frameOf(device, all).gpu - frameOf(device, without).gpu, bytes: [...shared.values()].reduce((a, b) => a + b, 0) };
}
