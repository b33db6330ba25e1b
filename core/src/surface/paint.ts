import { dabRect, overDab, workTile, type StrokeBuffer } from '../earth/brush';
import { overTiles, type Rect } from '../earth/rect';
import type { Tiles } from '../level/tiles';
import { TILE_QUADS, TILE_SIDE } from '../level/tiles';
import { groundWeightsAt, SLOTS, type GroundRaster } from './ground';

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

/** Where a dab falls, metres. */
export interface DabPlace {
  x: number;
  z: number;
  /** the tops of blocks and pieces are painted, not the terrain */
  top: boolean;
}

/**
 * One dab of paint. With share s of the dab at a sample, the painted surface goes from p to
 * p + s (1 - p) and every other from p to p (1 - s); erasing takes all of them to p (1 - s), so that
 * the rule shows again.
 *
 * @param surfaces ids of all surfaces of the level
 * @returns the touched samples
 */
export function paintDab(
  buffer: StrokeBuffer,
  tiles: ReadonlyMap<string, Int32Array>,
  surfaces: readonly string[],
  brush: PaintBrush,
  { x, z, top }: DabPlace,
): Rect | undefined {
  const rect = dabRect(buffer.grid, x, z, brush.radius);
  if (!rect) return undefined;
  const channel = top ? 'top' : 'paint';
  overDab(buffer.grid, rect, { x, z, radius: brush.radius, hardness: brush.hardness }, (tx, tz, local, f) => {
    const share = Math.min(1, brush.strength * f);
    for (const id of surfaces) {
      const tile = workTile(buffer, tiles, channel, [tx, tz], id);
      const p = tile[local];
      // Rounded away from where it stands, so that light dabs arrive.
      tile[local] = id === brush.surface ? Math.min(1024, p + Math.ceil((1024 - p) * share)) : Math.max(0, p - Math.ceil(p * share));
    }
  });
  return rect;
}

/**
 * One dab that drags ground along: the paint goes by the dab's share towards what the brush carries, and
 * the brush takes up some of what lies under its middle.
 *
 * @param ground as it is with the stroke so far
 * @param brush `load`: shares of the surfaces it carries, `MOST_SURFACES` long; all 0 at first
 */
export function smudgeDab(
  buffer: StrokeBuffer,
  tiles: Tiles,
  ground: GroundRaster,
  { load, ...brush }: Omit<PaintBrush, 'surface'> & { load: Float64Array },
  { x, z, top }: DabPlace,
): Rect | undefined {
  const rect = dabRect(buffer.grid, x, z, brush.radius);
  if (!rect) return undefined;
  const here = groundWeightsAt(ground, x, z, top, new Float64Array(load.length));
  const empty = load.every((v) => v === 0);
  if (!empty) {
    overDab(buffer.grid, rect, { x, z, radius: brush.radius, hardness: brush.hardness }, (tx, tz, local, f) => {
      const share = Math.min(1, brush.strength * f);
      ground.surfaces.forEach(({ id }, i) => {
        const tile = workTile(buffer, tiles, top ? 'top' : 'paint', [tx, tz], id);
        tile[local] = Math.round(tile[local] + (load[i] * 1024 - tile[local]) * share);
      });
    });
  }
  for (let i = 0; i < load.length; i++) load[i] = empty ? here[i] : load[i] + (here[i] - load[i]) * TAKEN_UP;
  return rect;
}

/** Share of what lies under its middle that a smudging brush takes up at each dab. */
const TAKEN_UP = 0.35;

/**
 * One dab that makes one surface another, and leaves the rest: by the dab's share and by how much of it
 * there is, wherever it came from.
 *
 * @param ground as it is with the stroke so far
 */
export function replaceDab(
  buffer: StrokeBuffer,
  tiles: Tiles,
  ground: GroundRaster,
  brush: PaintBrush & { surface: string; from: string },
  { x, z, top }: DabPlace,
): Rect | undefined {
  const rect = dabRect(buffer.grid, x, z, brush.radius);
  const from = ground.surfaces.findIndex((s) => s.id === brush.from);
  if (!rect || from < 0 || brush.from === brush.surface) return undefined;
  const data = top ? ground.tops : ground.weights;
  const of = top ? ground.topOf : ground.of;
  overDab(buffer.grid, rect, { x, z, radius: brush.radius, hardness: brush.hardness }, (tx, tz, local, f, sample) => {
    let there = 0;
    for (let k = sample * SLOTS; k < (sample + 1) * SLOTS; k++) if (of[k] === from) there += data[k] / 255;
    const share = Math.min(1, brush.strength * f) * there;
    if (share === 0) return;
    for (const { id } of ground.surfaces) {
      const tile = workTile(buffer, tiles, top ? 'top' : 'paint', [tx, tz], id);
      const p = tile[local];
      tile[local] =
        id === brush.surface
          ? Math.min(1024, p + Math.ceil((1024 - p) * share))
          : Math.max(0, p - Math.ceil(p * (id === brush.from ? Math.min(1, brush.strength * f) : share)));
    }
  });
  return rect;
}

/**
 * Fills a rectangle of the terrain with a surface, or back to the rules, as far as `share` says.
 *
 * @param share of each sample, 0 to 1
 */
export function fillPaint(
  buffer: StrokeBuffer,
  tiles: Tiles,
  surfaces: readonly string[],
  rect: Rect,
  { surface, share }: { surface: string | undefined; share: (x: number, z: number) => number },
): void {
  overTiles(rect, (tx, tz, own) => {
    for (let z = own.z0; z <= own.z1; z++) {
      for (let x = own.x0; x <= own.x1; x++) {
        const k = share(x, z);
        if (k <= 0) continue;
        const local = (z - tz * TILE_QUADS) * TILE_SIDE + x - tx * TILE_QUADS;
        for (const id of surfaces) {
          const tile = workTile(buffer, tiles, 'paint', [tx, tz], id);
          tile[local] = Math.round(tile[local] + ((id === surface ? 1024 : 0) - tile[local]) * k);
        }
      }
    }
  });
}
