import { dabRect, overDab, workTile, type StrokeBuffer } from '../earth/brush';
import type { Rect } from '../earth/compose';

export interface PaintBrush {
  /** id of the surface to paint; `undefined` erases back to the rule */
  surface?: string;
  /** metres */
  radius: number;
  /** share covered by one dab at its centre, 0 to 1 */
  strength: number;
  /** share of the radius with the full strength */
  hardness: number;
}

/**
 * One dab of paint. With share s of the dab at a sample, the painted surface goes from p to
 * p + s (1 - p) and every other from p to p (1 - s); erasing takes all of them to p (1 - s), so that
 * the rule shows again.
 *
 * @param surfaces ids of all surfaces of the level
 * @param top whether `top` (tops of blocks and pieces) is painted, not the terrain
 * @returns the touched samples
 */
export function paintDab(buffer: StrokeBuffer, tiles: ReadonlyMap<string, Int32Array>, surfaces: readonly string[], brush: PaintBrush, top: boolean, x: number, z: number): Rect | undefined {
  const rect = dabRect(buffer.grid, x, z, brush.radius);
  if (!rect) return undefined;
  const channel = top ? 'top' : 'paint';
  overDab(buffer.grid, rect, x, z, brush.radius, brush.hardness, (tx, tz, local, f) => {
    const share = Math.min(1, brush.strength * f);
    for (const id of surfaces) {
      const tile = workTile(buffer, tiles, channel, tx, tz, id);
      const p = tile[local];
      // Rounded away from where it stands, so that light dabs arrive.
      tile[local] = id === brush.surface ? Math.min(1024, p + Math.ceil((1024 - p) * share)) : Math.max(0, p - Math.ceil(p * share));
    }
  });
  return rect;
}
