import { smoothstep } from '../num/vec';
import { ownerTile, TILE_QUADS, TILE_SAMPLES, TILE_SIDE, tileKey, type Channel, type Grid } from '../level/tiles';
import type { BrushKind } from './brushes/index';
import type { Rect } from './compose';

export type { BrushKind } from './brushes/index';

export interface BrushSettings {
  kind: BrushKind;
  /** metres */
  radius: number;
  /** metres a dab at the centre; for brushes that go some way, not some metres, 0.15 m counts as a quarter of the way */
  strength: number;
  /** share of the radius that gets the full strength, 0 to 0.95 */
  hardness: number;
  /** height that `level` goes to, metres */
  levelTo: number;
  /** distance between dabs as a share of the radius, 0.05 to 1 */
  spacing: number;
  /** height of a step of `terrace`, metres */
  rise: number;
  /** size of the forms of `noise`, metres */
  grain: number;
  /** steepest that ground lies after `weather`, degrees */
  talus: number;
  /** of `print`: metres from nothing to its full height, and how far it is turned, degrees */
  tall: number;
  turn: number;
  /** each dab is set a second time, mirrored at the level's middle line that runs north-south or east-west */
  mirror: 'none' | 'east-west' | 'north-south';
}

/** Sized from the body: numbers.md gives 0.15 m a dab at a radius of 6 m, dabs every quarter of it. */
export const BRUSH_DEFAULTS: Readonly<BrushSettings> = Object.freeze({
  kind: 'raise',
  radius: 6,
  strength: 0.15,
  hardness: 0.3,
  levelTo: 0,
  spacing: 0.25,
  rise: 2,
  grain: 5,
  talus: 34,
  tall: 2,
  turn: 0,
  mirror: 'none',
});

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

/** A stroke on a lift that has not touched anything yet. */
export const beginStroke = (lift: string, grid: Grid): StrokeBuffer => ({ lift, grid, work: new Map(), before: new Map() });

/** The working copy of a tile of `owner` (the buffer's lift, unless another is named). */
export function workTile(
  buffer: StrokeBuffer,
  tiles: ReadonlyMap<string, Int32Array>,
  channel: Channel,
  [tx, tz]: readonly [number, number],
  owner = buffer.lift,
): Int32Array {
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
export function overDab(
  grid: Grid,
  rect: Rect,
  { x, z, radius, hardness }: { x: number; z: number; radius: number; hardness: number },
  each: (tx: number, tz: number, local: number, f: number, sample: number) => void,
): void {
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

/**
 * Points of the dabs between two pointer positions.
 *
 * @param spacing as a share of the radius
 */
export function dabsAlong(from: [number, number], to: [number, number], radius: number, spacing = BRUSH_DEFAULTS.spacing): [number, number][] {
  const dx = to[0] - from[0];
  const dz = to[1] - from[1];
  const step = radius * spacing;
  const count = Math.floor(Math.sqrt(dx * dx + dz * dz) / step);
  const l = Math.sqrt(dx * dx + dz * dz) || 1;
  return Array.from({ length: count }, (_, i) => [from[0] + (dx / l) * step * (i + 1), from[1] + (dz / l) * step * (i + 1)] as [number, number]);
}

/** A point and, where the brush mirrors, its image. */
export function mirrored([x, z]: [number, number], mirror: BrushSettings['mirror'], grid: Grid): [number, number][] {
  if (mirror === 'none') return [[x, z]];
  return [[x, z], mirror === 'east-west' ? [grid.width - x, z] : [x, grid.depth - z]];
}
