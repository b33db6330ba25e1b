import { useLaying } from '../store/laying';
import { laidUse, setOpening } from './laidLines';
import type { Tool, ToolContext, ToolEvent, ToolMark } from './tool';

/** Makes a laid wall a door or a window with a click, and a wall again with the next. */
export function openingTool({ session }: ToolContext): Tool {
  let over: { id: string; use: string; at: ToolEvent } | undefined;
  const cursor = (e: ToolEvent) => {
    const host = e.pick?.host;
    const use = host && host.kind === 'piece' ? laidUse(session, host.id) : undefined;
    over = use && host && host.kind === 'piece' ? { id: host.id, use, at: e } : undefined;
  };
  return {
    begin(e) {
      cursor(e);
      if (!session.writable) session.say('this level is read only here: take over to edit it', true);
      else if (over) setOpening(session, [over.id], over.use === useLaying.getState().opening ? 'wall' : useLaying.getState().opening);
      else if (e.pick?.host.kind === 'piece') session.say('an opening is made in a laid wall: point at one', true);
      else return false;
      return true;
    },
    move() {},
    end() {},
    cancel() {
      over = undefined;
    },
    cursor,
    marks(): ToolMark[] {
      const p = over?.at.pick?.point;
      if (!over || !p) return [];
      const { opening } = useLaying.getState();
      return [{ kind: 'label', at: p, text: over.use === opening ? `${opening}: click for a wall again` : `${over.use}: click for a ${opening}` }];
    },
  };
}
