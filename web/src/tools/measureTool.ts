import { measureText } from '@rammer/core/block/measureFigures';
import type { Vec3 } from '@rammer/core/num/vec';
import { newId, nextName } from '../store/names';
import { nearCorner } from './placing';
import { mm } from './things';
import type { Tool, ToolContext, ToolEvent, ToolMark } from './tool';

/** A measured line between two points: a click at either end. Corners and edges of blocks are taken where the pointer is near; Shift takes the place itself. */
export function measureTool({ session, view }: ToolContext): Tool {
  let from: Vec3 | undefined;
  let to: Vec3 | undefined;

  const place = (e: ToolEvent): Vec3 | undefined =>
    (e.shift ? e.pick?.point : ((e.pick && nearCorner({ session, view }, e.pick.point)?.at) ?? e.pick?.point))?.map(mm) as Vec3 | undefined;
  const reset = () => {
    from = to = undefined;
  };

  return {
    begin(e) {
      const at = place(e);
      if (!at) return false;
      if (!from) {
        from = at;
        return true;
      }
      if (at.every((v, k) => v === from![k])) return true;
      session.commit(
        { kind: 'add', objects: [{ id: newId('measure'), version: 1, kind: 'measure', name: nextName(session.level, 'measure'), from, to: at }] },
        `measure ${measureText(from, at)}`,
      );
      reset();
      return true;
    },
    move() {},
    end() {},
    cancel: reset,
    cursor(e) {
      to = place(e);
    },
    marks(): ToolMark[] {
      if (!to) return [];
      if (!from) return [{ kind: 'label', at: to, text: 'measure from here' }];
      return [
        { kind: 'ring', points: [from, to], dashed: false },
        { kind: 'label', at: to, text: measureText(from, to) },
      ];
    },
  };
}
