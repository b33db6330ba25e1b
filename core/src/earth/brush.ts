import { clamp, smoothstep } from '../num/vec';
import { FIXED_ONE } from '../num/fixed';
import { ownedRange, ownerTile, TILE_QUADS, TILE_SAMPLES, TILE_SIDE, tileKey, type Channel, type Grid } from '../level/tiles';
import type { Rect, Terrain } from './compose';

export const BRUSHES = ['raise', 'lower', 'level', 'smooth'] as const;
export type BrushKind = (typeof BRUSHES)[number];

export interface BrushSettings {
  kind: BrushKind;
  /** metres */
  radius: number;
  /** metres a dab at the centre; for level and smooth the share of 0.15 m counts as a share of 1 */
  strength: number;
  /** share of the radius that gets the full strength, 0 to 0.95 */
  hardness: number;
  /** height that `level` goes to, metres */
  levelTo: number;
}

/** Sized from the body: numbers.md gives 0.15 m a dab at a radius of 6 m. */
export const BRUSH_DEFAULTS: Readonly<BrushSettings> = Object.freeze({ kind: 'raise', radius: 6, strength: 0.15, hardness: 0.3, levelTo: 0 });

/** Dabs are set every quarter of the radius. */
export const DAB_SPACING = 0.25;

/** Falloff over r/R: 1 up to the hardness, 0 at the rim, a smoothstep between. */
export function falloff(share: number, hardness: number): number {
  return 1 - smoothstep(Math.min(hardness, 0.95), 1, share);
}

/**
 * The samples of a hand lift (or of surfaces, or of a species) while a stroke is drawn: working copies of the tiles it touches, and
 * what they were before, so that the stroke ends as integer deltas.
 */
export interface StrokeBuffer {
  lift: string;
  grid: Grid;
  /** working tiles, as the level will have them if the stroke is kept */
  work: Map<string, Int32Array>;
  before: Map<string, Int32Array | undefined>;
}

export const beginStroke = (lift: string, grid: Grid): StrokeBuffer => ({ lift, grid, work: new Map(), before: new Map() });

/** The working copy of a tile of `owner` (the buffer's lift, unless another is named). */
export function workTile(buffer: StrokeBuffer, tiles: ReadonlyMap<string, Int32Array>, channel: Channel, tx: number, tz: number, owner = buffer.lift): Int32Array {
  const key = tileKey(owner, channel, tx, tz);
  let tile = buffer.work.get(key);
  if (!tile) {
    const old = tiles.get(key);
    buffer.before.set(key, old);
    tile = old ? old.slice() : new Int32Array(TILE_SAMPLES);
    buffer.work.set(key, tile);
  }
  return tile;
}

/** Calls `each` for every sample a dab reaches: its tile, its place in the tile, and the falloff there, 0 to 1. */
export function overDab(grid: Grid, rect: Rect, x: number, z: number, radius: number, hardness: number, each: (tx: number, tz: number, local: number, f: number, sample: number) => void): void {
  for (let sz = rect.z0; sz <= rect.z1; sz++) {
    const tz = ownerTile(sz);
    for (let sx = rect.x0; sx <= rect.x1; sx++) {
      const dx = sx * grid.spacing - x;
      const dz = sz * grid.spacing - z;
      const f = falloff(Math.sqrt(dx * dx + dz * dz) / radius, hardness);
      if (f <= 0) continue;
      const tx = ownerTile(sx);
      each(tx, tz, (sz - tz * TILE_QUADS) * TILE_SIDE + (sx - tx * TILE_QUADS), f, sz * grid.nx + sx);
    }
  }
}

/** Samples a dab can touch, or `undefined` when it lies outside the level. */
export function dabRect(grid: Grid, x: number, z: number, radius: number): Rect | undefined {
  const rect = {
    x0: Math.max(0, Math.ceil((x - radius) / grid.spacing)),
    z0: Math.max(0, Math.ceil((z - radius) / grid.spacing)),
    x1: Math.min(grid.nx - 1, Math.floor((x + radius) / grid.spacing)),
    z1: Math.min(grid.nz - 1, Math.floor((z + radius) / grid.spacing)),
  };
  return rect.x0 > rect.x1 || rect.z0 > rect.z1 ? undefined : rect;
}

/**
 * Sets one dab into the stroke buffer.
 *
 * Relative brushes (raise, lower, smooth) add d to `delta` and, where the ground is held, also to
 * `held`: since height = lerp(below + delta, held, w), the height changes by d whatever w is, and
 * raised ground stays raised by as much when anything below changes.
 * `level` holds: with share s, w' = w + (1 - w) s and held' = ((1 - s) w held + s target) / w', which
 * makes the new height lerp(old height, target, s) and keeps it when anything below changes.
 *
 * @param terrain composed heights as they are now, for `smooth`
 * @returns the touched rectangle, to be recomposed
 */
export function dab(buffer: StrokeBuffer, tiles: ReadonlyMap<string, Int32Array>, terrain: Terrain, brush: BrushSettings, x: number, z: number): Rect | undefined {
  const { grid } = buffer;
  const rect = dabRect(grid, x, z, brush.radius);
  if (!rect) return undefined;
  const blurred = brush.kind === 'smooth' ? blur(terrain, rect) : undefined;
  const share = clamp(brush.strength / 0.15, 0, 4) * 0.25;
  const target = Math.round(brush.levelTo * FIXED_ONE);
  for (let tz = ownerTile(rect.z0); tz <= ownerTile(rect.z1); tz++) {
    for (let tx = ownerTile(rect.x0); tx <= ownerTile(rect.x1); tx++) {
      const delta = workTile(buffer, tiles, 'delta', tx, tz);
      const held = workTile(buffer, tiles, 'held', tx, tz);
      const weight = workTile(buffer, tiles, 'weight', tx, tz);
      const cols = ownedRange(tx);
      const rows = ownedRange(tz);
      for (let sz = Math.max(rect.z0, rows.first); sz <= Math.min(rect.z1, rows.last); sz++) {
        for (let sx = Math.max(rect.x0, cols.first); sx <= Math.min(rect.x1, cols.last); sx++) {
          const dx = sx * grid.spacing - x;
          const dz = sz * grid.spacing - z;
          const f = falloff(Math.sqrt(dx * dx + dz * dz) / brush.radius, brush.hardness);
          if (f <= 0) continue;
          const i = (sz - tz * TILE_QUADS) * TILE_SIDE + (sx - tx * TILE_QUADS);
          if (brush.kind === 'level') {
            hold(held, weight, i, target, Math.min(1, share * f));
            continue;
          }
          const now = terrain.heights[sz * grid.nx + sx];
          const d = brush.kind === 'smooth'
            ? Math.round(Math.min(1, share * f) * (blurred![(sz - rect.z0) * (rect.x1 - rect.x0 + 1) + sx - rect.x0] - now) * FIXED_ONE)
            : Math.round((brush.kind === 'raise' ? 1 : -1) * brush.strength * f * FIXED_ONE);
          delta[i] += d;
          if (weight[i] > 0) held[i] += d;
        }
      }
    }
  }
  return rect;
}

function hold(held: Int32Array, weight: Int32Array, i: number, target: number, share: number): void {
  const w = weight[i] / FIXED_ONE;
  // Rounded up, so that repeated light dabs always arrive at full weight.
  const wNext = Math.min(FIXED_ONE, Math.ceil((w + (1 - w) * share) * FIXED_ONE));
  if (wNext === 0) return;
  const sum = (1 - share) * w * held[i] + share * target;
  const total = (1 - share) * w + share;
  held[i] = Math.round(sum / total);
  weight[i] = wNext;
}

/** Mean of the 5 x 5 samples around each sample of the rectangle, edges clamped. */
function blur(terrain: Terrain, rect: Rect): Float32Array {
  const { nx, nz } = terrain.grid;
  const w = rect.x1 - rect.x0 + 1;
  const out = new Float32Array(w * (rect.z1 - rect.z0 + 1));
  for (let z = rect.z0, o = 0; z <= rect.z1; z++) {
    for (let x = rect.x0; x <= rect.x1; x++, o++) {
      let sum = 0;
      for (let dz = -2; dz <= 2; dz++) {
        const row = clamp(z + dz, 0, nz - 1) * nx;
        for (let dx = -2; dx <= 2; dx++) sum += terrain.heights[row + clamp(x + dx, 0, nx - 1)];
      }
      out[o] = sum / 25;
    }
  }
  return out;
}

/** The tiles as the stroke has them now, over the level's own. For composing the preview. */
export function strokeTiles(buffer: StrokeBuffer, tiles: ReadonlyMap<string, Int32Array>): ReadonlyMap<string, Int32Array> {
  return { get: (key: string) => buffer.work.get(key) ?? tiles.get(key) } as ReadonlyMap<string, Int32Array>;
}

/** Ends a stroke: the integer delta of each tile that changed. */
export function endStroke(buffer: StrokeBuffer): { key: string; delta: Int32Array }[] {
  const out: { key: string; delta: Int32Array }[] = [];
  for (const [key, work] of buffer.work) {
    const before = buffer.before.get(key);
    const delta = new Int32Array(TILE_SAMPLES);
    let any = false;
    for (let i = 0; i < TILE_SAMPLES; i++) {
      delta[i] = work[i] - (before ? before[i] : 0);
      if (delta[i] !== 0) any = true;
    }
    if (any) out.push({ key, delta });
  }
  return out.sort((a, b) => (a.key < b.key ? -1 : 1));
}

/** Points of the dabs between two pointer positions, every quarter of the radius. */
export function dabsAlong(from: [number, number], to: [number, number], radius: number): [number, number][] {
  const dx = to[0] - from[0];
  const dz = to[1] - from[1];
  const step = radius * DAB_SPACING;
  const count = Math.floor(Math.sqrt(dx * dx + dz * dz) / step);
  const l = Math.sqrt(dx * dx + dz * dz) || 1;
  return Array.from({ length: count }, (_, i) => [from[0] + (dx / l) * step * (i + 1), from[1] + (dz / l) * step * (i + 1)] as [number, number]);
}
