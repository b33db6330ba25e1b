import { crossing, type Point2 } from '@rammer/core/num/outline';
import { ofKind } from '@rammer/core/level/level';
import type { Vec3 } from '@rammer/core/num/vec';
import { useUi } from '../store/ui';
import { placeAt } from './placing';
import { mm } from './things';
import type { Tool, ToolContext, ToolMark } from './tool';

const CLOSE_PX = 12;

/** Draws the rim of play: a click sets each corner; the first corner again, or Enter, closes it. A level has one. */
export function rimTool(context: ToolContext): Tool {
  const { session, view } = context;
  let line: Vec3[] = [];
  let to: Vec3 | undefined;
  const reset = () => { line = []; to = undefined; };
  const plan = (): Point2[] => line.map(([x, , z]): Point2 => [mm(x), mm(z)]);
  const close = () => {
    const outline = plan();
    const found = crossing(outline);
    if (outline.length < 3) session.say('a rim has at least three corners', true);
    else if (found) session.say(`the rim crosses itself: the side from corner ${found[0] + 1} meets the side from corner ${found[1] + 1}; Backspace takes a corner back`, true);
    else {
      const old = ofKind(session.level, 'rim')[0];
      const done = old ? session.commit({ kind: 'set', patches: [{ id: old.id, set: { outline } }] }, 'draw the rim anew') : session.commit({ kind: 'add', objects: [{ id: 'rim', version: 1, kind: 'rim', name: 'rim', outline }] }, 'draw the rim');
      reset();
      if (done) useUi.getState().setTool('select');
    }
  };
  return {
    begin(e) {
      const first = line.length > 2 ? view.project(line[0]) : undefined;
      if (first && Math.hypot(first.x - e.x, first.y - e.y) < CLOSE_PX) { close(); return true; }
      const at = placeAt(context, e)?.at;
      if (!at) return false;
      line.push(at);
      return true;
    },
    move() {},
    end() {},
    cancel: reset,
    cursor(e) { to = placeAt(context, e)?.at; },
    key(key) {
      if (line.length === 0) return false;
      if (key === 'Enter') close();
      else if (key === 'Backspace') line.pop();
      else return false;
      return true;
    },
    marks(): ToolMark[] {
      if (!to) return [];
      if (line.length === 0) return [{ kind: 'label', at: to, text: 'rim from here' }];
      return [{ kind: 'ring', points: [...line, to, line[0]], dashed: true }, { kind: 'label', at: to, text: `corner ${line.length + 1}` }];
    },
  };
}
