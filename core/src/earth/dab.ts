import type { Tiles } from '../level/tiles';
import { FIXED_ONE } from '../num/fixed';
import { smoothstep } from '../num/vec';
import { dabRect, overDab, workTile, type BrushSettings, type StrokeBuffer } from './brush';
import { hold, type Look, type Spot } from './brushes/brushKind';
import { brushOf } from './brushes/index';
import type { Rect, Terrain } from './compose';
import type { HeightPicture } from './survey';

/**
 * Sets one dab of a brush into the stroke buffer of a hand lift.
 *
 * @param terrain composed heights as they are now
 * @param print what `print` lays down
 * @returns the touched rectangle, to be recomposed; `undefined` outside the level
 */
export function dab(
  buffer: StrokeBuffer,
  tiles: Tiles,
  terrain: Terrain,
  brush: BrushSettings,
  { x, z, print }: { x: number; z: number; print?: HeightPicture },
): Rect | undefined {
  const { grid } = buffer;
  const rect = dabRect(grid, x, z, brush.radius);
  if (!rect) return undefined;
  const { change, ready: makeReady } = brushOf(brush.kind);
  const ready = makeReady?.(terrain, rect, brush, [x, z], print);
  const w = rect.x1 - rect.x0 + 1;
  // One tile serves many samples in a row: it is looked up only where it changes.
  let [lastX, lastZ] = [-1, -1];
  const spot = { at: 0 } as Spot;
  const look: Look = { now: 0, ready: 0, x: 0, z: 0 };
  overDab(grid, rect, { x, z, radius: brush.radius, hardness: brush.hardness }, (tx, tz, local, f, sample) => {
    if (tx !== lastX || tz !== lastZ) {
      [lastX, lastZ] = [tx, tz];
      spot.delta = workTile(buffer, tiles, 'delta', [tx, tz]);
      spot.held = workTile(buffer, tiles, 'held', [tx, tz]);
      spot.weight = workTile(buffer, tiles, 'weight', [tx, tz]);
    }
    spot.at = local;
    const sx = sample % grid.nx;
    const sz = (sample - sx) / grid.nx;
    look.now = terrain.heights[sample];
    look.ready = ready ? ready[(sz - rect.z0) * w + sx - rect.x0] : 0;
    look.x = sx * grid.spacing;
    look.z = sz * grid.spacing;
    change(spot, look, f, brush);
  });
  return rect;
}

/**
 * Holds a ramp between two points: straight from height to height along the line between them, full
 * over the brush's hard middle, fading to its rim.
 *
 * @param from, to metres; beyond the ends nothing is held
 * @returns the touched rectangle, or `undefined`
 */
export function rampStroke(
  buffer: StrokeBuffer,
  tiles: Tiles,
  from: readonly [number, number, number],
  to: readonly [number, number, number],
  brush: Pick<BrushSettings, 'radius' | 'hardness'>,
): Rect | undefined {
  const { grid } = buffer;
  const [dx, dz] = [to[0] - from[0], to[2] - from[2]];
  const long = Math.sqrt(dx * dx + dz * dz);
  if (long < grid.spacing) return undefined;
  const reach = long / 2 + brush.radius;
  const rect = dabRect(grid, (from[0] + to[0]) / 2, (from[2] + to[2]) / 2, reach);
  if (!rect) return undefined;
  let touched: Rect | undefined;
  overDab(grid, rect, { x: (from[0] + to[0]) / 2, z: (from[2] + to[2]) / 2, radius: reach, hardness: 0.95 }, (tx, tz, local, _f, sample) => {
    const sx = sample % grid.nx;
    const sz = (sample - sx) / grid.nx;
    const [px, pz] = [sx * grid.spacing - from[0], sz * grid.spacing - from[2]];
    const t = (px * dx + pz * dz) / (long * long);
    if (t < 0 || t > 1) return;
    const beside = Math.abs(px * dz - pz * dx) / long;
    const share = 1 - smoothstep(Math.min(brush.hardness, 0.95), 1, beside / brush.radius);
    if (share <= 0) return;
    const spot: Spot = {
      delta: workTile(buffer, tiles, 'delta', [tx, tz]),
      held: workTile(buffer, tiles, 'held', [tx, tz]),
      weight: workTile(buffer, tiles, 'weight', [tx, tz]),
      at: local,
    };
    hold(spot, Math.round((from[1] + (to[1] - from[1]) * t) * FIXED_ONE), share);
    touched = touched
      ? { x0: Math.min(touched.x0, sx), z0: Math.min(touched.z0, sz), x1: Math.max(touched.x1, sx), z1: Math.max(touched.z1, sz) }
      : { x0: sx, z0: sz, x1: sx, z1: sz };
  });
  return touched;
}
