import { FIXED_ONE } from '../num/fixed';
import { makeLevel, settingsOf, type Level } from './level';
import type { LevelObject, Lift, Settings } from './objects';
import { gridOf, ownedRange, ownerTile, parseTileKey, TILE_QUADS, TILE_SAMPLES, TILE_SIDE, tileKey, type Channel, type Grid } from './tiles';

/** Another size of a level. */
export interface Reshape {
  tilesX: number;
  tilesZ: number;
  spacing: Settings['spacing'];
  /** metres added on the west and on the north side, negative where some are taken away */
  west: number;
  north: number;
}

/**
 * A level at another size, with everything in it where it was on the ground: objects move by what is added
 * west and north, hand work, weathering, surveys, paint and what is sown are taken over sample by sample,
 * between samples where the spacing or the shift is not whole. Noise and plants count from where they did.
 *
 * What lies outside the new size stays in the document: it comes back when the level grows again. Rasters
 * are cut at its edge.
 *
 * @returns a new level; the given one is not touched
 */
export function reshape(level: Level, to: Reshape): Level {
  const old = settingsOf(level);
  const from = gridOf(old);
  const origin: [number, number] = [from.ox - to.west, from.oz - to.north];
  const settings: Settings = { ...old, version: old.version + 1, tilesX: to.tilesX, tilesZ: to.tilesZ, spacing: to.spacing, origin };
  const grid = gridOf(settings);
  const objects = [...level.objects.values()].map((o) => (o.kind === 'settings' ? settings : shifted(o, to.west, to.north)));
  const tiles = new Map<string, Int32Array>();
  const rasters = new Set([...level.tiles.keys()].map((key) => { const { lift, channel } = parseTileKey(key)!; return `${lift}/${channel}`; }));
  for (const raster of rasters) {
    const [owner, channel] = raster.split('/') as [string, Channel];
    const read = readerOf(level, owner, channel, from);
    const weight = channel === 'held' ? readerOf(level, owner, 'weight', from) : undefined;
    for (let tz = 0; tz < grid.tilesZ; tz++) {
      for (let tx = 0; tx < grid.tilesX; tx++) {
        const tile = tileAt(read, weight, from, grid, to, tx, tz);
        if (tile) tiles.set(tileKey(owner, channel, tx, tz), tile);
      }
    }
  }
  return makeLevel(objects, tiles, 0, level.assets);
}

/** How many things of a level lie outside it. */
export function outside(level: Level): number {
  const { width, depth } = gridOf(settingsOf(level));
  let n = 0;
  for (const o of level.objects.values()) if ((o.kind === 'block' || o.kind === 'piece' || o.kind === 'plant' || o.kind === 'marker') && (o.at[0] < 0 || o.at[2] < 0 || o.at[0] > width || o.at[2] > depth)) n++;
  return n;
}

/** One tile of a raster at the new size, or nothing where all of it is zero. */
function tileAt(read: Reader, weight: Reader | undefined, from: Grid, grid: Grid, to: Reshape, tx: number, tz: number): Int32Array | undefined {
  const out = new Int32Array(TILE_SAMPLES);
  let any = false;
  const [cols, rows] = [ownedRange(tx), ownedRange(tz)];
  for (let z = rows.first; z <= rows.last; z++) {
    const fz = (z * grid.spacing - to.north) / from.spacing;
    for (let x = cols.first; x <= cols.last; x++) {
      const v = between(read, weight, from, (x * grid.spacing - to.west) / from.spacing, fz);
      if (v === 0) continue;
      out[(z - tz * TILE_QUADS) * TILE_SIDE + x - tx * TILE_QUADS] = v;
      any = true;
    }
  }
  return any ? out : undefined;
}

/**
 * A raster at a place between its samples, bilinear; 0 outside. A held height counts by its weight: where
 * nothing is held its zero is no height.
 */
function between(read: Reader, weightOf: Reader | undefined, grid: Grid, fx: number, fz: number): number {
  if (fx < 0 || fz < 0 || fx > grid.nx - 1 || fz > grid.nz - 1) return 0;
  const [ix, iz] = [Math.min(grid.nx - 2, Math.floor(fx)), Math.min(grid.nz - 2, Math.floor(fz))];
  const [u, v] = [fx - ix, fz - iz];
  let sum = 0;
  let held = 0;
  for (const [dx, dz, k] of [[0, 0, (1 - u) * (1 - v)], [1, 0, u * (1 - v)], [0, 1, (1 - u) * v], [1, 1, u * v]] as const) {
    if (k === 0) continue;
    const value = read(ix + dx, iz + dz);
    const weight = weightOf ? (k * weightOf(ix + dx, iz + dz)) / FIXED_ONE : k;
    sum += value * weight;
    held += weight;
  }
  return Math.round(weightOf ? (held > 0 ? sum / held : 0) : sum);
}

type Reader = (x: number, z: number) => number;

/** Reads a raster by sample; its tiles are looked up once, not by a key a sample. */
function readerOf(level: Level, owner: string, channel: Channel, grid: Grid): Reader {
  const tiles = Array.from({ length: grid.tilesX * grid.tilesZ }, (_, i) => level.tiles.get(tileKey(owner, channel, i % grid.tilesX, Math.floor(i / grid.tilesX))));
  return (x, z) => {
    const [tx, tz] = [ownerTile(x), ownerTile(z)];
    return tiles[tz * grid.tilesX + tx]?.[(z - tz * TILE_QUADS) * TILE_SIDE + x - tx * TILE_QUADS] ?? 0;
  };
}

type V2 = [number, number];
type V3 = [number, number, number];

/** An object moved in plan. Every kind that stands somewhere has its line here. */
function shifted(o: LevelObject, dx: number, dz: number): LevelObject {
  const p3 = ([x, y, z]: V3): V3 => [x + dx, y, z + dz];
  const p2 = ([x, z]: V2): V2 => [x + dx, z + dz];
  switch (o.kind) {
    case 'plant': return { ...o, at: p3(o.at), ...(o.was ? { was: p2(o.was) } : {}) };
    case 'block': case 'marker': case 'piece': case 'note': case 'people': case 'copy': return { ...o, at: p3(o.at) };
    case 'assembly': return { ...o, pivot: p3(o.pivot) };
    case 'asset': return o.cast ? { ...o, cast: { ...o.cast, pivot: p3(o.cast.pivot) } } : o;
    case 'measure': return { ...o, from: p3(o.from), to: p3(o.to) };
    case 'section': return { ...o, from: p2(o.from), to: p2(o.to) };
    case 'playBounds': return { ...o, outline: o.outline.map(p2) };
    case 'viewpoint': return { ...o, pose: { ...o.pose, target: p3(o.pose.target) } };
    case 'water': return { ...o, ...(o.seed ? { seed: p2(o.seed) } : {}), ...(o.x0 === undefined ? {} : { x0: o.x0 + dx, x1: o.x1! + dx, z0: o.z0! + dz, z1: o.z1! + dz }) };
    case 'reference': return { ...o, ...(o.at ? { at: p3(o.at) } : {}), ...(o.fit?.known ? { fit: { ...o.fit, known: { ...o.fit.known, at: p3(o.fit.known.at) } } } : {}) };
    case 'lift': return shiftedLift(o, p2, p3);
    case 'settings': case 'body': case 'acceptance': case 'surface': case 'groundRule': case 'species': case 'lighting': case 'gap': return o;
  }
}

function shiftedLift(lift: Lift, p2: (p: V2) => V2, p3: (p: V3) => V3): Lift {
  const mask = lift.mask?.outline ? { mask: { ...lift.mask, outline: { ...lift.mask.outline, line: lift.mask.outline.line.map(p2) } } } : {};
  if (lift.lift === 'landform') return { ...lift, ...mask, line: lift.line.map(p2) };
  if (lift.lift === 'route') return { ...lift, ...mask, line: lift.line.map(p3) };
  if (lift.lift === 'pad') return { ...lift, ...mask, outline: lift.outline.map(p2) };
  return { ...lift, ...mask };
}
