import { dabRect, overDab, workTile, type StrokeBuffer } from '../earth/brush';
import type { Rect } from '../earth/compose';
import { clamp } from '../num/vec';
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
export const sowDab = (
  buffer: StrokeBuffer,
  tiles: ReadonlyMap<string, Int32Array>,
  species: readonly string[],
  brush: SowBrush,
  at: { x: number; z: number },
): Rect | undefined => towards(buffer, tiles, { channel: 'sown', owners: species, target: clamp(brush.target, -1, MOST_SOWN) }, brush, at);

/** One dab of a habitat: moves what is painted of it towards all of it (1), or what is taken away of what is drawn (-1). */
export const areaDab = (
  buffer: StrokeBuffer,
  tiles: ReadonlyMap<string, Int32Array>,
  habitat: string,
  brush: SowBrush,
  at: { x: number; z: number },
): Rect | undefined => towards(buffer, tiles, { channel: 'area', owners: [habitat], target: clamp(brush.target, -1, 1) }, brush, at);

function towards(
  buffer: StrokeBuffer,
  tiles: ReadonlyMap<string, Int32Array>,
  { channel, owners, target }: { channel: 'sown' | 'area'; owners: readonly string[]; target: number },
  brush: SowBrush,
  { x, z }: { x: number; z: number },
): Rect | undefined {
  const rect = dabRect(buffer.grid, x, z, brush.radius);
  if (!rect) return undefined;
  const goal = Math.round(target * 1024);
  overDab(buffer.grid, rect, { x, z, radius: brush.radius, hardness: brush.hardness }, (tx, tz, local, f) => {
    for (const id of owners) {
      const tile = workTile(buffer, tiles, channel, [tx, tz], id);
      const step = (goal - tile[local]) * Math.min(1, brush.strength * f);
      tile[local] += step > 0 ? Math.ceil(step) : Math.floor(step);
    }
  });
  return rect;
}
