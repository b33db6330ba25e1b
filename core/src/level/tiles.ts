import type { Settings } from './objects';

/**
 * Raster tiles of a hand, weather or survey lift, a surface, a species or a habitat.
 *
 * A tile spans 64 x 64 quads and is stored as 65 x 65 Int32 samples, row by row (z outer, x inner).
 * Tile (tx, tz) stores sample column tx * 64 + i at index i. Edges are shared: the sample between
 * two tiles belongs to the lower one, so index 0 is used only where tx (or tz) is 0 and stays 0 in
 * every other tile.
 *
 * Key: `<id of its lift, surface, species or habitat>/<channel>/<tx>,<tz>`.
 */
const TILE_SHIFT = 6;
export const TILE_QUADS = 1 << TILE_SHIFT;
export const TILE_SIDE = TILE_QUADS + 1;
export const TILE_SAMPLES = TILE_SIDE * TILE_SIDE;

/** `delta` and `held` in 1/1024 m, `weight` in 1/1024 of one. */
export const HAND_CHANNELS = ['delta', 'held', 'weight'] as const;
/** Of a survey: heights, 1/1024 m, and where there are any, 1024. */
export const SURVEY_CHANNELS = ['held', 'weight'] as const;
/** Of a weather lift: what it moves, in 1/1024 m; what was scoured away and what settled, the same; where water ran, 0 to 1024. */
export const WEATHER_CHANNELS = ['delta', 'scour', 'settle', 'runoff'] as const;
/** Of a surface: how far it is painted, 0 to 1024, on the terrain and on the tops of what stands on it. */
export const SURFACE_CHANNELS = ['paint', 'top'] as const;
/** Of a species: what is sown or erased by hand, in 1/1024 of its density, -1024 to 4096. */
export const SPECIES_CHANNELS = ['sown'] as const;
/** Of a habitat: what is painted of it or taken away from what is drawn, -1024 to 1024. */
export const HABITAT_CHANNELS = ['area'] as const;
export const CHANNELS = [...HAND_CHANNELS, 'scour', 'settle', 'runoff', ...SURFACE_CHANNELS, ...SPECIES_CHANNELS, ...HABITAT_CHANNELS] as const;
export type Channel = (typeof CHANNELS)[number];

/** Range of a channel's values. Heights stay within about 100 km of zero, far from integer overflow. */
export function channelRange(channel: Channel): [low: number, high: number] {
  if (channel === 'delta' || channel === 'held') return [-100_000 * 1024, 100_000 * 1024];
  if (channel === 'scour' || channel === 'settle') return [0, 100_000 * 1024];
  if (channel === 'area') return [-1024, 1024];
  return channel === 'sown' ? [-1024, 4096] : [0, 1024];
}

export type Tiles = ReadonlyMap<string, Int32Array>;

/**
 * The key of a raster tile.
 *
 * @param lift id of the lift, surface, species or habitat it belongs to
 * @example
 * tileKey('hand', 'delta', 2, 0); // 'hand/delta/2,0'
 */
export const tileKey = (lift: string, channel: Channel, tx: number, tz: number): string => `${lift}/${channel}/${tx},${tz}`;

/** The parts of a tile key; `undefined` where it is none. */
export function parseTileKey(key: string): { lift: string; channel: Channel; tx: number; tz: number } | undefined {
  const m = /^([A-Za-z0-9_-]{1,64})\/(delta|held|weight|scour|settle|runoff|paint|top|sown|area)\/(\d{1,2}),(\d{1,2})$/.exec(key);
  if (!m) return undefined;
  return { lift: m[1], channel: m[2] as Channel, tx: Number(m[3]), tz: Number(m[4]) };
}

/** Which tile owns a sample column or row. */
export const ownerTile = (sample: number): number => (sample === 0 ? 0 : (sample - 1) >> TILE_SHIFT);

/** The level's sample grid. `nx` x `nz` samples, `spacing` metres apart. */
export interface Grid {
  tilesX: number;
  tilesZ: number;
  spacing: number;
  nx: number;
  nz: number;
  /** metres */
  width: number;
  depth: number;
  /** metres from where noise and patterns count to the north-west corner, see settings.origin */
  ox: number;
  oz: number;
}

/**
 * Samples of a level: how many, how far apart (metres), how wide and deep (metres).
 *
 * @example
 * const { nx, nz } = gridOf(settingsOf(level));
 * const heights = new Float32Array(nx * nz); // row by row, z outer
 */
export function gridOf(settings: Pick<Settings, 'tilesX' | 'tilesZ' | 'spacing' | 'origin'>): Grid {
  const { tilesX, tilesZ, spacing, origin = [0, 0] } = settings;
  return {
    tilesX,
    tilesZ,
    spacing,
    nx: tilesX * TILE_QUADS + 1,
    nz: tilesZ * TILE_QUADS + 1,
    width: tilesX * TILE_QUADS * spacing,
    depth: tilesZ * TILE_QUADS * spacing,
    ox: origin[0],
    oz: origin[1],
  };
}

/** Sample range a tile owns, inclusive. */
export function ownedRange(t: number): { first: number; last: number } {
  return { first: t === 0 ? 0 : t * TILE_QUADS + 1, last: (t + 1) * TILE_QUADS };
}
