import type { Block, Piece } from '@rammer/core/level/objects';
import type { Vec3 } from '@rammer/core/num/vec';
import { rayPlane } from '../view/project';
import { snapTo, useUi } from '../store/ui';
import { moveThings, things } from './things';
import type { Tool, ToolContext, ToolMark } from './tool';

/** Picks blocks and pieces (Shift adds and takes away) and drags what is picked over the level plane it stands on. */
export function selectTool({ session, view }: ToolContext): Tool {
  let grab: { at: Vec3; ids: string[]; pressed: [number, number]; moving: boolean } | undefined;
  let shift: Vec3 = [0, 0, 0];

  const stop = () => {
    grab = undefined;
    shift = [0, 0, 0];
    view.setBlockPreview(undefined);
    view.setPiecePreview(undefined);
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
      const id = host.cut ?? host.id;
      const chosen = ui.selection.includes(id);
      if (e.shift) {
        ui.select(chosen ? ui.selection.filter((other) => other !== id) : [...ui.selection, id]);
        return true;
      }
      if (!chosen) ui.select([id]);
      grab = { at: e.pick.point, ids: chosen ? ui.selection : [id], pressed: [e.x, e.y], moving: false };
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
      const blocks = new Map<string, Block>();
      const pieces = new Map<string, Piece>();
      for (const t of things(session, grab.ids)) {
        const at: Vec3 = [t.at[0] + shift[0], t.at[1], t.at[2] + shift[2]];
        if (t.kind === 'block') blocks.set(t.id, { ...t, at });
        else if (t.kind === 'piece') pieces.set(t.id, { ...t, at });
      }
      if (blocks.size > 0) view.setBlockPreview(blocks);
      if (pieces.size > 0) view.setPiecePreview(pieces);
    },
    end() {
      const done = grab;
      const by = shift;
      stop();
      if (done?.moving && (by[0] !== 0 || by[2] !== 0)) moveThings(session, done.ids, by);
    },
    cancel: stop,
    cursor() {},
    marks(): ToolMark[] {
      if (!grab?.moving) return [];
      return [{ kind: 'label', at: [grab.at[0] + shift[0], grab.at[1], grab.at[2] + shift[2]], text: `${shift[0] >= 0 ? '+' : ''}${shift[0].toFixed(2)}, ${shift[2] >= 0 ? '+' : ''}${shift[2].toFixed(2)} m` }];
    },
  };
}
