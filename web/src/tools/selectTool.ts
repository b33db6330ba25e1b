import { isMade, ownerOf } from '@rammer/core/level/instance';
import { lockText, type Lock } from '@rammer/core/kit/lockJoin';
import { snapMove } from '@rammer/core/block/snapPoint';
import type { Block, Piece } from '@rammer/core/level/objects';
import { isMaker } from '@rammer/core/level/present';
import type { Vec3 } from '@rammer/core/num/vec';
import { rayPlane } from '../view/project';
import { snapTo, useUi } from '../store/ui';
import { thingsOfCopy } from './asBlock';
import { SNAP_PX } from './placing';
import { copyThings } from './duplicateThings';
import { fine, lockOf } from './joins';
import { isLocked, moveThings, setThings, thing, things } from './things';
import type { Tool, ToolContext, ToolMark } from './tool';

/** More blocks than this are dragged by the grid alone. */
const MOST_SNAPPED = 24;

/** A piece where the pointer has it, off any grid. */
const freely = (piece: Piece, p: Vec3, from: Vec3): Piece => ({ ...piece, at: [piece.at[0] + p[0] - from[0], piece.at[1], piece.at[2] + p[2] - from[2]] });

/**
 * Picks blocks and pieces (Shift adds and takes away) and drags what is picked over the level plane it
 * stands on. Corners and sides of blocks take those of others, a part of a kit locks join to join; with Ctrl held a duplicate is dragged.
 */
export function selectTool({ session, view }: ToolContext): Tool {
  let grab: { at: Vec3; ids: string[]; pressed: [number, number]; moving: boolean; copy: boolean; met: boolean } | undefined;
  let shift: Vec3 = [0, 0, 0];
  /** where a piece that is dragged by itself locks */
  let lock: Lock | undefined;

  const stop = () => {
    grab = undefined;
    shift = [0, 0, 0];
    lock = undefined;
    view.blocks.preview(undefined);
    view.setPiecePreview(undefined);
  };

  /** The shift with which dragged blocks stand corner to corner, or flush, with others near them. */
  const meeting = (free: Vec3, moved: (by: Vec3) => { kind: string }[], except: readonly string[], perMetre: number): Vec3 | undefined => {
    const blocks = moved(free).filter((t): t is Block => t.kind === 'block');
    if (blocks.length === 0 || blocks.length > MOST_SNAPPED) return undefined;
    const own = new Set(except);
    const on = snapMove(
      blocks,
      session.scene.solids.all.filter((b) => !own.has(b.id) && !b.hidden),
      session.scene.solids.built,
      SNAP_PX / perMetre,
    );
    return on && [free[0] + on[0], 0, free[2] + on[1]];
  };

  return {
    begin(e) {
      const ui = useUi.getState();
      const host = e.pick?.host;
      if (!e.pick || !host || host.kind === 'terrain') {
        grab = undefined;
        if (!e.shift && ui.selection.length > 0) ui.select([]);
        return false;
      }
      // What a void cut is the void's own face: it is picked there.
      // What belongs to a copy is the copy; Alt takes hold of what stands in it.
      const under = host.cut ?? host.id;
      const id = e.alt || (isMade(under) && ui.selection.includes(under)) ? under : ownerOf(under);
      const object = thing(session, id);
      if (object && isLocked(session, object)) {
        session.say(`${object.name} is locked: unlock it in the bench to change it`);
        if (!e.shift && ui.selection.length > 0) ui.select([]);
        return false;
      }
      const chosen = ui.selection.includes(id);
      if (e.shift) {
        ui.select(chosen ? ui.selection.filter((other) => other !== id) : [...ui.selection, id]);
        return true;
      }
      if (!chosen) ui.select([id]);
      grab = { at: e.pick.point, ids: chosen ? ui.selection : [id], pressed: [e.x, e.y], moving: false, copy: false, met: false };
      return true;
    },
    move(e) {
      if (!grab || !session.writable) return;
      if (!grab.moving && Math.hypot(e.x - grab.pressed[0], e.y - grab.pressed[1]) < 5) return;
      grab.moving = true;
      const p = rayPlane(view.ray(e.x, e.y), grab.at, [0, 1, 0]);
      if (!p) return;
      const { snap } = useUi.getState();
      shift = [snapTo(p[0] - grab.at[0], snap), 0, snapTo(p[2] - grab.at[2], snap)];
      grab.copy = e.ctrl;
      const list = things(session, grab.ids);
      const moved = (by: Vec3) => list.map((t) => ({ ...t, at: [t.at[0] + by[0], t.at[1], t.at[2] + by[2]] as Vec3 }));
      const met = e.shift ? undefined : meeting([p[0] - grab.at[0], 0, p[2] - grab.at[2]], moved, grab.copy ? [] : grab.ids, view.pixelsPerMetre(grab.at));
      grab.met = met !== undefined;
      if (met) shift = met;
      const [one] = list;
      lock = list.length === 1 && one.kind === 'piece' && !isMade(one.id) && !grab.copy && !e.shift ? lockOf(session, freely(one, p, grab.at)) : undefined;
      const locked = lock?.fits ? lock : undefined;
      if (locked) shift = [locked.at[0] - one.at[0], 0, locked.at[2] - one.at[2]];
      const blocks = new Map<string, Block>();
      const pieces = new Map<string, Piece>();
      for (const t of moved(shift)) {
        // What is copied stays where it is and its copy is dragged beside it.
        const id = grab.copy ? `copy-${t.id}` : t.id;
        for (const own of isMaker(t) ? thingsOfCopy(session, { ...t, id }) : [{ ...t, id }]) {
          if (own.kind === 'block') blocks.set(own.id, own);
          else if (own.kind === 'piece') pieces.set(own.id, locked ? { ...own, at: locked.at, turn: locked.turn } : own);
        }
      }
      view.blocks.preview(blocks.size > 0 ? blocks : undefined);
      view.setPiecePreview(pieces.size > 0 ? pieces : undefined);
    },
    end() {
      const done = grab;
      const by = shift;
      const to = lock?.fits ? lock : undefined;
      stop();
      if (!done?.moving || (by[0] === 0 && by[2] === 0)) return;
      if (to) setThings(session, things(session, done.ids), () => ({ at: to.at.map(fine), turn: fine(to.turn) }), 'join');
      else if (done.copy) copyThings(session, things(session, done.ids), by);
      else moveThings(session, done.ids, by);
    },
    cancel: stop,
    cursor() {},
    marks(): ToolMark[] {
      if (!grab?.moving) return [];
      return [
        {
          kind: 'label',
          at: [grab.at[0] + shift[0], grab.at[1], grab.at[2] + shift[2]],
          text:
            `${grab.copy ? 'duplicate ' : ''}${shift[0] >= 0 ? '+' : ''}${shift[0].toFixed(2)}, ` +
            `${shift[2] >= 0 ? '+' : ''}${shift[2].toFixed(2)} m${grab.met ? ', to a block' : ''}${lock ? `; ${lockText(lock)}` : ''}`,
        },
      ];
    },
  };
}
