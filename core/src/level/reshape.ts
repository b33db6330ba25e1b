import { FIXED_ONE } from '../num/fixed';
import { makeLevel, settingsOf, type Level } from './level';
import { kindOf, shifted } from './kinds/index';
import { shiftBy } from './kinds/kind';
import type { Settings } from './objects';
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
  const by = shiftBy(to.west, to.north);
  const objects = [...level.objects.values()].map((o) => (o.kind === 'settings' ? settings : shifted(o, by)));
  const tiles = new Map<string, Int32Array>();
  const rasters = new Set(
    [...level.tiles.keys()].map((key) => {
      const { lift, channel } = parseTileKey(key)!;
      return `${lift}/${channel}`;
    }),
  );
  for (const raster of rasters) {
    const [owner, channel] = raster.split('/') as [string, Channel];
    const read = readerOf(level, owner, channel, from);
    const weight = channel === 'held' ? readerOf(level, owner, 'weight', from) : undefined;
    const source = { read, weight, from, grid };
    for (let tz = 0; tz < grid.tilesZ; tz++) {
      for (let tx = 0; tx < grid.tilesX; tx++) {
        const tile = tileAt(source, to, tx, tz);
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
  for (const o of level.objects.values()) {
    const at = kindOf(o.kind)?.place?.(o);
    if (at && (at[0] < 0 || at[2] < 0 || at[0] > width || at[2] > depth)) n++;
  }
  return n;
}

/** A raster as it is, with the grids of the level before and after. */
interface Source {
  read: Reader;
  /** of a held height */
  weight?: Reader;
  from: Grid;
  grid: Grid;
}

/** One tile of a raster at the new size, or nothing where all of it is zero. */
function tileAt({ read, weight, from, grid }: Source, to: Reshape, tx: number, tz: number): Int32Array | undefined {
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
  for (const [dx, dz, k] of [
    [0, 0, (1 - u) * (1 - v)],
    [1, 0, u * (1 - v)],
    [0, 1, (1 - u) * v],
    [1, 1, u * v],
  ] as const) {
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
  const tiles = Array.from({ length: grid.tilesX * grid.tilesZ }, (_, i) =>
    level.tiles.get(tileKey(owner, channel, i % grid.tilesX, Math.floor(i / grid.tilesX))),
  );
  return (x, z) => {
    const [tx, tz] = [ownerTile(x), ownerTile(z)];
    return tiles[tz * grid.tilesX + tx]?.[(z - tz * TILE_QUADS) * TILE_SIDE + x - tx * TILE_QUADS] ?? 0;
  };
}
