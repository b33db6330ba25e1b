import { nearestPoint, spanText } from '@rammer/core/block/spanFigures';
import { blockSolid } from '@rammer/core/block/solid';
import type { Vec3 } from '@rammer/core/num/vec';
import { newId, nextName } from './names';
import { mm } from './things';
import type { Tool, ToolContext, ToolEvent, ToolMark } from './tool';

/** How near a corner the pointer has to be to take it, pixels. */
const SNAP_PX = 14;

/** A measured line between two points: a click at either end. Corners of blocks are taken where the pointer is near one; Shift takes the place itself. */
export function spanTool({ session, view }: ToolContext): Tool {
  let from: Vec3 | undefined;
  let to: Vec3 | undefined;

  const place = (e: ToolEvent): Vec3 | undefined => {
    if (!e.pick) return undefined;
    const { host, point } = e.pick;
    const corner = e.shift || host.kind !== 'block' ? undefined : nearestPoint(corners(host.id, host.cut), point, SNAP_PX / view.pixelsPerMetre(point));
    return (corner ?? point).map(mm) as Vec3;
  };
  const corners = (id: string, cut?: string): Vec3[] => {
    const mesh = session.made.built.get(id);
    const found: Vec3[] = [id, cut ?? ''].flatMap((i) => { const b = session.level.object(i); return b?.kind === 'block' ? blockSolid(b).corners : []; });
    if (mesh) for (let i = 0; i < mesh.positions.length; i += 3) found.push([mesh.positions[i], mesh.positions[i + 1], mesh.positions[i + 2]]);
    return found;
  };
  const reset = () => { from = to = undefined; };

  return {
    begin(e) {
      const at = place(e);
      if (!at) return false;
      if (!from) {
        from = at;
        return true;
      }
      if (at.every((v, k) => v === from![k])) return true;
      session.commit({ kind: 'add', objects: [{ id: newId('span'), version: 1, kind: 'span', name: nextName(session.level, 'span'), from, to: at }] }, `span ${spanText(from, at)}`);
      reset();
      return true;
    },
    move() {},
    end() {},
    cancel: reset,
    cursor(e) { to = place(e); },
    marks(): ToolMark[] {
      if (!to) return [];
      if (!from) return [{ kind: 'label', at: to, text: 'span from here' }];
      return [{ kind: 'ring', points: [from, to], dashed: false }, { kind: 'label', at: to, text: spanText(from, to) }];
    },
  };
}
