import type { AnyEditBody } from '../level/edits/index';
import { liftStack, type Level } from '../level/level';
import { insertInOrder, moveInOrder } from '../level/ordered';
import type { HandLift, Lift } from '../level/objects';
import { HAND_CHANNELS, parseTileKey, TILE_QUADS, TILE_SAMPLES, TILE_SIDE, tileKey } from '../level/tiles';
import { FIXED_ONE, packRaster, toBase64 } from '../num/fixed';
import { aroundLift } from './volume';
import type { Terrain } from './compose';
import { overTiles, wholeRect } from './rect';

/** Where each kind belongs from the bottom up: see numbers.md, default order of the stack. */
const RANK: Record<Lift['lift'], number> = { noise: 0, survey: 0, landform: 1, weather: 2, hand: 3, route: 4, pad: 5 };

/** Adds a lift over the last one of its own kind or of a lower one. */
export function insertLift(stack: readonly Lift[], lift: Lift): AnyEditBody {
  let at = 0;
  stack.forEach((l, i) => {
    if (RANK[l.lift] <= RANK[lift.lift]) at = i + 1;
  });
  return insertInOrder(stack, lift, at);
}

/** Moves a lift to a place in the stack, 0 the lowest; `undefined` where it is there already. */
export const moveLift = (stack: readonly Lift[], id: string, to: number): AnyEditBody | undefined => moveInOrder(stack, id, to);

/** Adds a copy of a lift, its rasters too, right over it. */
export function duplicateLift(level: Level, id: string, copy: { id: string; name: string }): AnyEditBody | undefined {
  const stack = liftStack(level);
  const at = stack.findIndex((l) => l.id === id);
  if (at < 0) return undefined;
  const { locked: _locked, ...rest } = stack[at];
  const inserted = insertInOrder(stack, { ...rest, ...copy, version: 1 } as Lift, at + 1);
  const tiles = [...level.tiles].flatMap(([key, tile]) => {
    const of = parseTileKey(key)!;
    return of.lift === id ? [{ key: tileKey(copy.id, of.channel, of.tx, of.tz), delta: toBase64(packRaster(tile)) }] : [];
  });
  const parts = inserted.kind === 'together' ? inserted.parts : [inserted];
  return { kind: 'together', parts: [...parts, ...(tiles.length > 0 ? [{ kind: 'stroke' as const, tiles }] : [])] };
}

const plainHand = (l: Lift): l is HandLift => l.lift === 'hand' && !l.mask && l.blend === undefined && (l.weight ?? 1) === 1;

/**
 * Makes one hand lift of a lift and the one below it.
 *
 * Two hand lifts stay what they were meant to be: lerp(lerp(b + d1, h1, w1) + d2, h2, w2) is a hand
 * lift again, d = d1 + d2, w = 1 - (1 - w1)(1 - w2), held = ((h1 + d2) w1 (1 - w2) + h2 w2) / w. Anything
 * else becomes relative: what both together change on what lies below them now, to 1/1024 m.
 *
 * @returns the edit, or why it cannot be
 */
export function mergeDown(
  level: Level,
  terrain: Terrain,
  id: string,
  merged: { id: string; name: string },
): { ok: true; edit: AnyEditBody } | { ok: false; message: string } {
  const stack = liftStack(level);
  const at = stack.findIndex((l) => l.id === id);
  if (at < 1) return { ok: false, message: 'there is no lift below it to merge with' };
  const [low, high] = [stack[at - 1], stack[at]];
  if (!low.visible || !high.visible) return { ok: false, message: `${low.visible ? high.name : low.name} is hidden: show it first` };
  const locked = [low, high].find((l) => l.locked);
  if (locked) return { ok: false, message: `${locked.name} is locked: unlock it first` };
  const tiles = plainHand(low) && plainHand(high) ? mergedHands(level, low, high, merged.id) : difference(level, terrain, low, high, merged.id);
  const lift: HandLift = { id: merged.id, version: 1, kind: 'lift', lift: 'hand', name: merged.name, order: low.order, visible: true };
  return {
    ok: true,
    edit: {
      kind: 'together',
      parts: [{ kind: 'remove', ids: [low.id, high.id] }, { kind: 'add', objects: [lift] }, ...(tiles.length > 0 ? [{ kind: 'stroke' as const, tiles }] : [])],
    },
  };
}

type StrokeTiles = Extract<AnyEditBody, { kind: 'stroke' }>['tiles'];
const packed = (key: string, tile: Int32Array): StrokeTiles => (tile.some((v) => v !== 0) ? [{ key, delta: toBase64(packRaster(tile)) }] : []);

function mergedHands(level: Level, low: HandLift, high: HandLift, id: string): StrokeTiles {
  const places = new Set(
    [...level.tiles.keys()].flatMap((key) => {
      const of = parseTileKey(key)!;
      return of.lift === low.id || of.lift === high.id ? [`${of.tx},${of.tz}`] : [];
    }),
  );
  return [...places].sort().flatMap((place) => {
    const [tx, tz] = place.split(',').map(Number);
    const [d1, h1, w1] = HAND_CHANNELS.map((c) => level.tiles.get(tileKey(low.id, c, tx, tz)));
    const [d2, h2, w2] = HAND_CHANNELS.map((c) => level.tiles.get(tileKey(high.id, c, tx, tz)));
    const [delta, held, weight] = [new Int32Array(TILE_SAMPLES), new Int32Array(TILE_SAMPLES), new Int32Array(TILE_SAMPLES)];
    for (let i = 0; i < TILE_SAMPLES; i++) {
      const [a, b] = [(w1?.[i] ?? 0) / FIXED_ONE, (w2?.[i] ?? 0) / FIXED_ONE];
      const w = 1 - (1 - a) * (1 - b);
      delta[i] = (d1?.[i] ?? 0) + (d2?.[i] ?? 0);
      weight[i] = Math.round(w * FIXED_ONE);
      if (weight[i] > 0) held[i] = Math.round((((h1?.[i] ?? 0) + (d2?.[i] ?? 0)) * a * (1 - b) + (h2?.[i] ?? 0) * b) / w);
    }
    return [...packed(tileKey(id, 'delta', tx, tz), delta), ...packed(tileKey(id, 'held', tx, tz), held), ...packed(tileKey(id, 'weight', tx, tz), weight)];
  });
}

function difference(level: Level, terrain: Terrain, low: Lift, high: Lift, id: string): StrokeTiles {
  const { grid } = terrain;
  const below = aroundLift(level, terrain, low.id)!.below.heights;
  const above = aroundLift(level, terrain, high.id)!.above.heights;
  const tiles: StrokeTiles = [];
  overTiles(wholeRect(grid), (tx, tz, own) => {
    const tile = new Int32Array(TILE_SAMPLES);
    for (let z = own.z0; z <= own.z1; z++) {
      for (let x = own.x0; x <= own.x1; x++) {
        const i = z * grid.nx + x;
        tile[(z - tz * TILE_QUADS) * TILE_SIDE + x - tx * TILE_QUADS] = Math.round((above[i] - below[i]) * FIXED_ONE);
      }
    }
    tiles.push(...packed(tileKey(id, 'delta', tx, tz), tile));
  });
  return tiles;
}
