import { crossing, type Point2 } from '@rammer/core/num/outline';
import { ofKind } from '@rammer/core/level/level';
import { useUi } from '../store/ui';
import { drawTool } from './drawTool';
import type { Tool, ToolContext } from './tool';

/** Draws the play bounds. A level has one outline of them. */
export const playBoundsTool = (context: ToolContext): Tool =>
  drawTool(context, {
    what: 'play bounds',
    closed: true,
    done(corners) {
      const { session } = context;
      const outline = corners.map(([x, , z]): Point2 => [x, z]);
      const found = crossing(outline);
      if (found) {
        session.say(
          `the play bounds cross themselves: the side from corner ${found[0] + 1} meets the side from corner ${found[1] + 1}; Backspace takes a corner back`,
          true,
        );
        return false;
      }
      const old = ofKind(session.level, 'playBounds')[0];
      const done = old
        ? session.commit({ kind: 'set', patches: [{ id: old.id, set: { outline } }] }, 'draw the play bounds anew')
        : session.commit(
            { kind: 'add', objects: [{ id: 'playBounds', version: 1, kind: 'playBounds', name: 'play bounds', outline }] },
            'draw the play bounds',
          );
      if (done) useUi.getState().setTool('select');
      return true;
    },
  });
