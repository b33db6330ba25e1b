import { lockText, type Lock } from '@rammer/core/kit/lockJoin';
import { snapPiece } from '@rammer/core/kit/snap';
import { assetBounds, type Asset } from '@rammer/core/kit/asset';
import { ofKind } from '@rammer/core/level/level';
import type { AssetObject, Piece } from '@rammer/core/level/objects';
import type { Vec3 } from '@rammer/core/num/vec';
import { assetFile } from '../store/assetFile';
import { usePlanting } from '../store/planting';
import { useUi } from '../store/ui';
import { newId, nextName } from '../store/names';
import { fine, lockOf } from './joins';
import { mm } from './things';
import type { Tool, ToolContext, ToolEvent, ToolMark } from './tool';

/** The asset object of a hash, and whether the level has it yet. */
export function assetObjectFor(
  context: Pick<ToolContext, 'session'>,
  hash: string,
  asset: Pick<Asset, 'name' | 'role'>,
): { object: AssetObject; there: boolean } {
  const there = ofKind(context.session.level, 'asset').find((a) => a.hash === hash);
  return { object: there ?? { id: newId('asset'), version: 1, kind: 'asset', name: asset.name, role: asset.role, hash }, there: there !== undefined };
}

/**
 * Sets pieces where they lock join to join with what stands, or on the grid, on whatever is under the pointer. Q and E turn by a
 * quarter, Shift leaves joins and grid.
 */
export function pieceTool(context: ToolContext): Tool {
  const { session, view } = context;
  let asset: Asset | undefined;
  let hash: string | undefined;
  let at: Vec3 | undefined;
  let last: ToolEvent | undefined;
  let lock: Lock | undefined;

  /** The chosen mesh, read once a page; `undefined` where it cannot be read or another was chosen meanwhile. */
  const load = async (): Promise<Asset | undefined> => {
    const wanted = usePlanting.getState().kitAsset;
    if (!wanted) return undefined;
    try {
      const read = await assetFile(wanted);
      if (wanted !== usePlanting.getState().kitAsset) return undefined;
      hash = wanted;
      asset = read;
      return read;
    } catch (error) {
      session.say((error as Error).message, true);
      return undefined;
    }
  };

  const place = (e: ToolEvent) => {
    last = e;
    if (usePlanting.getState().kitAsset !== hash) {
      // The mesh is on its way; the ghost comes with it.
      void load().then((read) => {
        if (read && last === e) place(e);
      });
      return;
    }
    if (!e.pick || !asset) {
      at = undefined;
      view.aids.setAssetGhost();
      return;
    }
    const { pieceTurn, pieceSink } = usePlanting.getState();
    const p = e.pick.point;
    const [x, z] = e.shift ? [mm(p[0]), mm(p[2])] : snapPiece(asset.tags, pieceTurn, p[0], p[2]);
    // A piece stands on what is pointed at; on a flank, on the height it is pointed at.
    at = [x, mm(p[1] - pieceSink - (factsOf()?.sink ?? 0)), z];
    const object = objectOf();
    lock = object && !e.shift ? lockOf(session, draft(object.id, { at: [p[0], at[1], p[2]], turn: pieceTurn })) : undefined;
    if (lock?.fits) at = lock.at.map(fine) as Vec3;
    view.aids.setAssetGhost(asset, { at, turn: turnOf() });
  };

  /** How it is turned: as it locks, or as it is held. */
  const turnOf = (): number => (lock?.fits ? fine(lock.turn) : usePlanting.getState().pieceTurn);
  const objectOf = () => ofKind(session.level, 'asset').find((a) => a.hash === hash);
  const draft = (id: string, pose: Pick<Piece, 'at' | 'turn'>): Piece => ({
    id: 'draft',
    version: 1,
    kind: 'piece',
    name: 'draft',
    asset: id,
    sink: 0,
    collider: 'asset',
    hidden: false,
    out: false,
    ...pose,
  });

  /** What the level says of the chosen mesh. */
  const factsOf = () => objectOf()?.facts;

  const put = () => {
    if (!asset || !at || !hash) return;
    const { object, there } = assetObjectFor(context, hash, asset);
    const pieceSink = usePlanting.getState().pieceSink + (object.facts?.sink ?? 0);
    const piece: Piece = { ...draft(object.id, { at, turn: turnOf() }), id: newId('piece'), name: nextName(session.level, asset.name), sink: pieceSink };
    if (session.commit({ kind: 'add', objects: there ? [piece] : [object, piece] }, `set ${piece.name}`)) useUi.getState().select([piece.id]);
  };

  return {
    begin(e) {
      place(e);
      if (!e.pick) return false;
      if (!usePlanting.getState().kitAsset) {
        session.say('pick a piece in the library first', true);
        return true;
      }
      if (!session.writable) {
        session.say('this level is read only here: take over to edit it', true);
        return true;
      }
      if (asset && hash === usePlanting.getState().kitAsset) put();
      else
        void load().then((read) => {
          if (read) {
            place(e);
            put();
          }
        });
      return true;
    },
    move() {},
    end() {},
    cancel() {
      at = undefined;
      view.aids.setAssetGhost();
    },
    cursor: place,
    key(key) {
      const by = key.toLowerCase() === 'q' ? 90 : key.toLowerCase() === 'e' ? -90 : 0;
      if (by === 0) return false;
      const turn = usePlanting.getState().pieceTurn + by;
      usePlanting.setState({ pieceTurn: ((turn + 540) % 360) - 180 });
      if (last) place(last);
      return true;
    },
    marks(): ToolMark[] {
      // Over the piece, where it hides nothing of it.
      return at && asset
        ? [
            {
              kind: 'label',
              at: [at[0], at[1] + assetBounds(asset).max[1], at[2]],
              text: `${asset.name}, ${at[0].toFixed(1)} ${at[2].toFixed(1)}, ${turnOf().toFixed(0)}°${lock ? `; ${lockText(lock)}` : ''}`,
            },
          ]
        : [];
    },
  };
}
