import type { Vec3 } from '@rammer/core/num/vec';
import { useUi } from '../store/ui';
import { newId, nextName } from '../store/names';
import { placeAt } from './placing';
import { mm } from './things';
import type { Tool, ToolContext, ToolMark } from './tool';

/** Draws a line to cut the level along: a click at either end. It is kept, and the section runs along it. */
export function sectionTool(context: ToolContext): Tool {
  const { session } = context;
  let from: Vec3 | undefined;
  let to: Vec3 | undefined;
  return {
    begin(e) {
      const at = placeAt(context, e)?.at;
      if (!at) return false;
      if (!from) {
        from = at;
        return true;
      }
      if (Math.hypot(at[0] - from[0], at[2] - from[2]) < 1) {
        session.say('a section line is at least 1 m long: click farther away', true);
        return true;
      }
      const id = newId('section');
      const ends = { from: [mm(from[0]), mm(from[2])] as [number, number], to: [mm(at[0]), mm(at[2])] as [number, number] };
      if (
        session.commit(
          { kind: 'add', objects: [{ id, version: 1, kind: 'section', name: nextName(session.level, 'section'), ...ends }] },
          'draw a section line',
        )
      ) {
        useUi.setState({ sectionLine: id });
        useUi.getState().setTool('select');
      }
      from = undefined;
      return true;
    },
    move() {},
    end() {},
    cancel() {
      from = to = undefined;
    },
    cursor(e) {
      to = placeAt(context, e)?.at;
    },
    marks(): ToolMark[] {
      if (!to) return [];
      if (!from) return [{ kind: 'label', at: to, text: 'section from here' }];
      return [
        { kind: 'ring', points: [from, to], dashed: true },
        { kind: 'label', at: to, text: `${Math.hypot(to[0] - from[0], to[2] - from[2]).toFixed(2)} m` },
      ];
    },
  };
}
