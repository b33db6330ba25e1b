import { snapPoint, type Snapped } from '@rammer/core/block/snapPoint';
import type { Vec3 } from '@rammer/core/num/vec';
import { snapTo, useUi } from '../store/ui';
import { rayPlane } from '../view/project';
import type { ToolContext, ToolEvent } from './tool';

/** How near a corner or an edge the pointer has to be to take it, pixels. */
export const SNAP_PX = 12;

/** A place for a corner: where, and what it was taken from. */
export interface Place {
  at: Vec3;
  /** what it snapped to; `undefined` is the grid, or nothing */
  on?: Snapped['on'];
}

/**
 * Where the pointer places something: the work plane where one is set, a corner or edge of a block near it, else the grid on what
 * is under it. Shift takes the place itself.
 */
export function placeAt({ session, view }: ToolContext, e: ToolEvent): Place | undefined {
  const { snap, workPlane } = useUi.getState();
  if (workPlane !== undefined) {
    const p = rayPlane(view.ray(e.x, e.y), [0, workPlane, 0], [0, 1, 0]);
    return p && { at: [e.shift ? p[0] : snapTo(p[0], snap), workPlane, e.shift ? p[2] : snapTo(p[2], snap)] };
  }
  if (!e.pick) return undefined;
  const { point } = e.pick;
  if (e.shift) return { at: point };
  const near = nearCorner({ session, view }, point);
  if (near) return near;
  return { at: [snapTo(point[0], snap), point[1], snapTo(point[2], snap)] };
}

/** A corner or edge of a solid near a point, as near as the pointer tells. */
export function nearCorner({ session, view }: ToolContext, point: Vec3): Place | undefined {
  const found = snapPoint(
    point,
    session.scene.solids.all.filter((b) => b.op !== 'void' && !b.hidden),
    session.scene.solids.built,
    SNAP_PX / view.pixelsPerMetre(point),
  );
  return found && { at: found.at, on: found.on };
}
