import { colliderShapes } from '@rammer/core/kit/mend/colliders';
import { colliderOf } from '@rammer/core/kit/placement';
import { Falling, MOST_THROWN, thrownAt, type Thrown } from '@rammer/core/play/throwPieces';
import type { Dressing, Surface } from '@rammer/core/level/lay/dressed';
import type { Piece } from '@rammer/core/level/objects';
import type { Mesh } from '@rammer/core/num/mesh';
import type { Pose } from '@rammer/core/num/pose';
import { useDressing } from '../store/dressing';
import type { Session } from '../store/session';
import { addDressed, asPiece, keepLast } from './dressed';
import { setThings } from './things';
import type { ToolContext } from './tool';

/** What falling may take of a frame: milliseconds, and where frames are slow a share of them. */
const SHARE = { ms: 12, frames: 0.25 };
/** So much is caught up in one frame at most, seconds. */
const CATCH_UP = 1;

/** The shapes something falls with: its collider, or the hull of what is seen where nothing of its own stops a body. */
function shapesOf(session: Session, asset: string, collider: Piece['collider'] = 'asset'): readonly Mesh[] {
  const found = session.scene.placed.assets.get(asset);
  if (!found) return [];
  const kind = colliderOf({ collider }, found);
  return colliderShapes(found, kind === 'none' ? 'mesh' : kind);
}

/** Where each of some things ended; nothing for those that fell over the edge or had no room. */
type Ended = { poses: (Pose | undefined)[]; lost: number; full: number };

/**
 * Lets things fall while one looks on, until they rest.
 *
 * @param without ids of pieces that are as if they were not there
 * @param show draws them where they are; `undefined` when it is over
 * @returns where they ended; nothing where it was stopped
 */
async function fall(
  { session }: ToolContext,
  list: readonly Thrown[],
  without: ReadonlySet<string>,
  show: (poseOf?: (i: number) => Pose | undefined) => void,
): Promise<Ended | undefined> {
  useDressing.getState().falling?.stop();
  let stopped = false;
  const stop = () => {
    stopped = true;
  };
  const tell = (count: number, seconds: number) => useDressing.setState({ falling: { count, of: list.length, seconds, stop } });
  tell(0, 0);
  const rapier = (await import('@dimforge/rapier3d-compat')).default;
  await rapier.init();
  const { solids, walk } = session.scene;
  // What no walk area counts is lain on all the same.
  const blocks = solids.plain.list.filter((b) => !b.background);
  const falling = new Falling(rapier, { terrain: session.terrain, blocks, meshes: walk.all.filter((m) => !without.has(m.id)) }, list);
  try {
    let moves = true;
    let before = performance.now();
    while (moves && !stopped && !session.closed) {
      const now = await new Promise<number>(requestAnimationFrame);
      // As fast as one sees things fall, and no faster than there is time for.
      const frame = now - before;
      const due = falling.time + Math.min(CATCH_UP, frame / 1000);
      before = now;
      const start = performance.now();
      while (moves && falling.time < due && performance.now() - start < Math.max(SHARE.ms, frame * SHARE.frames)) moves = falling.step();
      show((i) => falling.poseOf(i));
      tell(falling.count, falling.time);
    }
    return stopped || session.closed ? undefined : { poses: list.map((_, i) => falling.poseOf(i)), lost: falling.lost.size, full: falling.full.size };
  } finally {
    falling.dispose();
    // The view is gone with the level that is left meanwhile.
    if (!session.closed) show();
    useDressing.setState({ falling: undefined });
  }
}

/** What became of those that did not end in the level, in words. */
const lostOf = ({ lost, full }: Ended): string | undefined =>
  [...(lost > 0 ? [`${lost} fell over the edge of the level`] : []), ...(full > 0 ? [`there was no room for ${full} more`] : [])].join('; ') || undefined;

/** Throws pieces of a list at a place: they fall, settle and stay. One edit. @param instead ids of those of the throw before that it takes the place of */
export async function throwAt(context: ToolContext, dressing: Dressing, place: Surface, which: number, instead: readonly string[] = []): Promise<void> {
  const { session, view } = context;
  const { throwing, radius } = useDressing.getState();
  const list = thrownAt(dressing, { ...throwing, radius }, place, which, (asset) => shapesOf(session, asset));
  const gone = list.find((t) => t.shapes.length === 0);
  if (gone) {
    session.say(`${session.level.object(gone.asset)?.name ?? 'a mesh'} is not loaded yet: throw again in a moment`, true);
    return;
  }
  const hidden = new Map(
    instead.flatMap((id): [string, Piece][] => {
      const p = session.level.object(id);
      return p?.kind === 'piece' ? [[id, { ...p, hidden: true }]] : [];
    }),
  );
  const pieceOf = (pose: Pose, i: number) => asPiece({ ...pose, asset: list[i].asset, sink: 0 }, `thrown-${i}`, 'thrown');
  const ended = await fall(context, list, new Set(instead), (poseOf) =>
    view.setPiecePreview(
      poseOf &&
        new Map([
          ...hidden,
          ...list.flatMap((_, i): [string, Piece][] => {
            const pose = poseOf(i);
            return pose ? [[`thrown-${i}`, pieceOf(pose, i)]] : [];
          }),
        ]),
    ),
  );
  if (!ended) {
    session.say('the throw was stopped: nothing came of it');
    return;
  }
  const set = ended.poses.flatMap((pose, i) => (pose ? [{ ...pose, asset: list[i].asset, sink: 0 }] : []));
  const why = lostOf(ended);
  if (set.length === 0) session.say(`nothing stays: ${why ?? 'there is nothing to throw'}`, true);
  else {
    const ids = addDressed(session, set, instead.length > 0 ? 'throw again' : 'throw', instead);
    if (ids) keepLast(session, ids, (seed) => void throwAt(context, { ...dressing, seed }, place, which, ids));
    if (ids && why) session.say(`${set.length} stay: ${why}`, true);
  }
}

/** Lets pieces that stand fall and settle where they are: what stands on the air comes down, what leans finds its hold. One edit. */
export async function settle(context: ToolContext, pieces: readonly Piece[]): Promise<void> {
  const { session, view } = context;
  const free = pieces.filter((p) => !p.locked);
  if (free.length === 0 || !session.writable) {
    session.say(free.length === 0 ? 'locked pieces do not settle: unlock them first' : 'this level is read only here: take over to edit it', true);
    return;
  }
  if (free.length > MOST_THROWN) {
    session.say(`${free.length} pieces are selected and ${MOST_THROWN} settle at once: select fewer`, true);
    return;
  }
  const list = free.map(({ at, turn, tilt, scale, asset, collider }): Thrown => ({
    at,
    turn,
    ...(tilt ? { tilt } : {}),
    ...(scale ? { scale } : {}),
    shapes: shapesOf(session, asset, collider),
  }));
  const ended = await fall(context, list, new Set(free.map((p) => p.id)), (poseOf) =>
    view.setPiecePreview(
      poseOf &&
        new Map(
          free.flatMap((p, i): [string, Piece][] => {
            const pose = poseOf(i);
            return pose ? [[p.id, { ...p, at: pose.at, turn: pose.turn, tilt: pose.tilt, sink: 0 }]] : [];
          }),
        ),
    ),
  );
  if (!ended) return;
  const places = new Map(free.flatMap((p, i) => (ended.poses[i] ? [[p.id, ended.poses[i]] as const] : [])));
  if (places.size > 0)
    setThings(
      session,
      free.filter((p) => places.has(p.id)),
      (t) => {
        const { at, turn, tilt } = places.get(t.id)!;
        return { at, turn, tilt: tilt ?? null, sink: 0 };
      },
      'settle',
    );
  if (ended.lost > 0) session.say(`${ended.lost} would fall over the edge of the level and stay where they were`, true);
}
