import { crossing, type Point2 } from '@rammer/core/num/outline';
import { ofKind } from '@rammer/core/level/level';
import { useUi } from '../store/ui';
import { drawTool } from './drawTool';
import type { Tool, ToolContext } from './tool';

/** Draws the rim of play. A level has one. */
export const rimTool = (context: ToolContext): Tool => drawTool(context, {
  what: 'rim', closed: true,
  done(corners) {
    const { session } = context;
    const outline = corners.map(([x, , z]): Point2 => [x, z]);
    const found = crossing(outline);
    if (found) {
      session.say(`the rim crosses itself: the side from corner ${found[0] + 1} meets the side from corner ${found[1] + 1}; Backspace takes a corner back`, true);
      return false;
    }
    const old = ofKind(session.level, 'rim')[0];
    const done = old ? session.commit({ kind: 'set', patches: [{ id: old.id, set: { outline } }] }, 'draw the rim anew') : session.commit({ kind: 'add', objects: [{ id: 'rim', version: 1, kind: 'rim', name: 'rim', outline }] }, 'draw the rim');
    if (done) useUi.getState().setTool('select');
    return true;
  },
});
