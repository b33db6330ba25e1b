import { addPicked, seamUnder, type PickedSeam } from './seams';
import type { Tool, ToolContext, ToolEvent, ToolMark } from './tool';

/** Picks a seam: the foot of what is pointed at, or the shore of a water, is dressed with a click. */
export function roundTool({ session }: ToolContext): Tool {
  let over: { seam: PickedSeam; at: ToolEvent } | undefined;
  const cursor = (e: ToolEvent) => {
    const seam = e.pick && seamUnder(session, e.pick);
    over = seam && { seam, at: e };
  };
  return {
    begin(e) {
      cursor(e);
      if (!session.writable) session.say('this level is read only here: take over to edit it', true);
      else if (over) addPicked(session, over.seam);
      else if (e.pick) session.say('no seam here: point at a thing that stands, at a laid line, or at a shore', true);
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
      const { places, closed, name } = over.seam;
      return [
        { kind: 'ring', points: closed ? [...places, places[0]] : places, dashed: false },
        { kind: 'label', at: p, text: `seam: ${name}` },
      ];
    },
  };
}
