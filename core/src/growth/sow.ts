import { dabRect, overDab, workTile, type StrokeBuffer } from '../earth/brush';
import type { Rect } from '../earth/compose';
import { MOST_SOWN } from './sown';

export interface SowBrush {
  /** metres */
  radius: number;
  hardness: number;
  /** density one dab moves towards, as a multiple of the species' own: 1 sows, 0 is back to the rule, -1 clears */
  target: number;
  /** share of the way one dab goes */
  strength: number;
}

/** One dab of sowing: moves what is sown of the species towards the brush's target. */
export function sowDab(
  buffer: StrokeBuffer,
  tiles: ReadonlyMap<string, Int32Array>,
  species: readonly string[],
  brush: SowBrush,
  { x, z }: { x: number; z: number },
): Rect | undefined {
  const rect = dabRect(buffer.grid, x, z, brush.radius);
  if (!rect) return undefined;
  const target = Math.round(Math.max(-1, Math.min(MOST_SOWN, brush.target)) * 1024);
  overDab(buffer.grid, rect, { x, z, radius: brush.radius, hardness: brush.hardness }, (tx, tz, local, f) => {
    for (const id of species) {
      const tile = workTile(buffer, tiles, 'sown', [tx, tz], id);
      const step = (target - tile[local]) * Math.min(1, brush.strength * f);
      tile[local] += step > 0 ? Math.ceil(step) : Math.floor(step);
    }
  });
  return rect;
}
