import { strToU8 } from 'fflate';
import { z } from 'zod';
import { sha256 } from '../num/sha256';
import { SHIPPED_LIGHTING } from '../level/lighting';
import { upgradeObject } from '../level/upgrade';
import { groundDefaults } from '../surface/surfaces';
import { ownerOf } from '../level/instance';
import { DOCUMENT_VERSION, makeLevel, presentPieces, presentPlants, settingsOf, type Level } from '../level/level';
import { missingNeed } from '../level/references';
import { parseObject, type LevelObject } from '../level/objects';
import { assetHashes } from '../level/kinds/asset';
import { channelsOf } from '../level/kinds/index';
import { CHANNELS, channelRange, gridOf, ownedRange, TILE_QUADS, TILE_SAMPLES, TILE_SIDE, tileKey, type Grid } from '../level/tiles';
import { fault, type Outcome } from './fault';
import { parseJson } from './json';
import { placementsCsv } from './placementsCsv';
import { PACKAGE_LIMITS, readZip, writeZip, type ZipLimits } from './zip';
import { pngToRaster, rasterToPng } from './rasterPng';

/**
 * The level package, `*.rammer.zip`: `level.json` and the rasters as PNG. Described for other
 * programs in docs/format.md; docs/level.schema.json is its JSON Schema.
 */
export const packageSchema = z.object({
  format: z.literal('rammer-level'),
  /** version of the document; a reader refuses later ones */
  version: z.number().int().min(1),
  objects: z
    .array(z.looseObject({ id: z.string(), kind: z.string() }))
    .min(1)
    .max(100_000),
  rasters: z
    .array(
      z.object({
        /** id of the hand lift, surface or species it belongs to */
        lift: z.string(),
        channel: z.enum(CHANNELS),
        /** value = offset + low + 65536 * high, in 1/1024 */
        offset: z.number().int().min(-2_147_483_648).max(2_147_483_647),
        low: z.string(),
        high: z.string().optional(),
      }),
    )
    .max(300),
});

export type PackageDocument = z.infer<typeof packageSchema>;

const LEVEL_FILE = 'level.json';
/** What the tiles of a package may take in memory: seven whole rasters of the widest level. */
const MOST_RASTER_BYTES = 512 << 20;
const assetPath = (hash: string): string => `assets/${hash}.glb`;

/** A level as a package, the same bytes for the same level; see docs/format.md. */
export function writePackage(level: Level): Uint8Array {
  const grid = gridOf(settingsOf(level));
  const files: [string, Uint8Array][] = [];
  const rasters: PackageDocument['rasters'] = [];
  const objects = whole(level).sort((a, b) => (a.id < b.id ? -1 : 1));
  for (const lift of objects) {
    for (const channel of channelsOf(lift)) {
      const whole = tilesToRaster(level, lift.id, channel, grid);
      if (!whole) continue;
      const png = rasterToPng(whole, grid.nx, grid.nz);
      const path = `rasters/${lift.id}-${channel}`;
      rasters.push({ lift: lift.id, channel, offset: png.offset, low: `${path}.png`, ...(png.high ? { high: `${path}-high.png` } : {}) });
      files.push([`${path}.png`, png.low]);
      if (png.high) files.push([`${path}-high.png`, png.high]);
    }
  }
  const meshes = new Set(objects.flatMap((o) => (o.kind === 'asset' ? assetHashes(o) : [])));
  for (const hash of meshes) {
    const bytes = level.assets.get(hash);
    if (bytes) files.push([assetPath(hash), bytes]);
  }
  const kept = new Set(objects.map((o) => o.id));
  const placements = placementsCsv(
    level,
    [...presentPieces(level), ...presentPlants(level)].filter((o) => kept.has(ownerOf(o.id))),
  );
  if (placements) files.push(['placements.csv', strToU8(placements)]);
  const document: PackageDocument = { format: 'rammer-level', version: DOCUMENT_VERSION, objects: objects as PackageDocument['objects'], rasters };
  return writeZip([[LEVEL_FILE, strToU8(`${JSON.stringify(document, null, 1)}\n`)], ...files]);
}

/** The objects of a level without those that miss what they need: older Rammers could leave some behind, and no package with them opens. */
function whole(level: Level): LevelObject[] {
  const kept = new Map(level.objects);
  for (let before = -1; before !== kept.size;) {
    before = kept.size;
    for (const [id, o] of kept)
      if (missingNeed(o, (other) => kept.get(other)) || (o.kind === 'asset' && level.assets.size > 0 && !level.assets.has(o.hash))) kept.delete(id);
  }
  return [...kept.values()];
}

/** Opens a package: everything is checked before a level is made, and a fault names what is wrong. */
export function readPackage(bytes: Uint8Array, limits: ZipLimits = PACKAGE_LIMITS): Outcome<Level> {
  const zip = readZip(bytes, limits);
  if (!zip.ok) return zip;
  const text = zip.value.get(LEVEL_FILE);
  if (!text) return fault('package-no-level', `the zip file holds no ${LEVEL_FILE}: it is not a level package`);
  const read = parseJson(LEVEL_FILE, text);
  if (!read.ok) return read.code === 'json-invalid' ? fault('package-json', read.message) : read;
  const json = read.value;
  const version = (json as { version?: unknown } | null)?.version;
  if (typeof version === 'number' && version > DOCUMENT_VERSION)
    return fault('package-future', `the package has version ${version}; this Rammer opens up to ${DOCUMENT_VERSION}. Update Rammer.`);
  const parsed = packageSchema.safeParse(json);
  if (!parsed.success) {
    const issue = parsed.error.issues[0];
    return fault('package-invalid', `${LEVEL_FILE}: ${issue.path.join('.') || 'document'}: ${issue.message}`);
  }
  return assemble(parsed.data, zip.value);
}

function assemble(document: PackageDocument, files: Map<string, Uint8Array>): Outcome<Level> {
  const objects = new Map<string, LevelObject>();
  for (const given of document.version < 7 ? document.objects.flatMap(upgradeObject) : document.objects) {
    const o = parseObject(given);
    if (!o.ok) return fault('package-invalid', `${LEVEL_FILE}: ${o.message}`);
    if (objects.has(o.object.id)) return fault('package-invalid', `${LEVEL_FILE}: two objects have the id ${o.object.id}`);
    objects.set(o.object.id, o.object);
  }
  const settings = objects.get('settings');
  if (settings?.kind !== 'settings') return fault('package-invalid', `${LEVEL_FILE}: there are no settings`);
  if (objects.get(settings.player)?.kind !== 'body') return fault('package-invalid', `${LEVEL_FILE}: the player's body ${settings.player} is missing`);
  const grid = gridOf(settings);
  const tiles = new Map<string, Int32Array>();
  // Rasters that share their picture share its tiles too: what is read once is kept once.
  const known = new Map<string, { tiles: [number, number, Int32Array][]; least: number; most: number }>();
  let kept = 0;
  for (const raster of document.rasters) {
    const lift = objects.get(raster.lift);
    if (!channelsOf(lift).includes(raster.channel))
      return fault(
        'package-invalid',
        `${LEVEL_FILE}: raster ${raster.channel} of ${raster.lift}, which is not a hand, weather or survey lift, surface, species or habitat that has one`,
      );
    const low = files.get(raster.low);
    const high = raster.high ? files.get(raster.high) : undefined;
    if (!low || (raster.high && !high)) return fault('package-raster', `${raster.low} is missing from the package`);
    const key = `${raster.low}\n${raster.high ?? ''}\n${raster.offset}`;
    let made = known.get(key);
    if (!made) {
      const values = pngToRaster(raster.low, { low, high, offset: raster.offset }, { width: grid.nx, height: grid.nz });
      if (!values.ok) return values;
      made = { tiles: [...rasterTiles(values.value, grid)], ...extremes(values.value) };
      kept += made.tiles.length * TILE_SAMPLES * 4;
      if (kept > MOST_RASTER_BYTES)
        return fault(
          'package-rasters',
          `the rasters of the package hold more than ${MOST_RASTER_BYTES >> 20} MB that are not zero, the most that are read: make the level smaller`,
        );
      known.set(key, made);
    }
    const [least, most] = channelRange(raster.channel);
    if (made.least < least || made.most > most)
      return fault('package-raster', `${raster.low}: values of ${raster.channel} must lie between ${least} and ${most}`);
    for (const [tx, tz, tile] of made.tiles) tiles.set(tileKey(raster.lift, raster.channel, tx, tz), tile);
  }
  const assets = new Map<string, Uint8Array>();
  for (const o of objects.values()) {
    if (o.kind !== 'asset' || assets.has(o.hash)) continue;
    const bytes = files.get(assetPath(o.hash));
    if (!bytes) return fault('package-asset', `${assetPath(o.hash)}, the mesh of ${o.name}, is missing from the package`);
    if (sha256(bytes) !== o.hash) return fault('package-asset', `${assetPath(o.hash)}, the mesh of ${o.name}, is not the file its name says`);
    assets.set(o.hash, bytes);
  }
  for (const o of objects.values()) {
    if (o.kind !== 'asset' || !o.source) continue;
    const bytes = files.get(assetPath(o.source.hash));
    // What it came from may be left out: it is then mended no further than it is.
    if (bytes && sha256(bytes) === o.source.hash) assets.set(o.source.hash, bytes);
    else if (!assets.has(o.source.hash)) objects.set(o.id, { ...o, source: undefined });
  }
  for (const o of objects.values()) {
    const missing = missingNeed(o, (id) => objects.get(id));
    if (missing) return fault('package-invalid', `${LEVEL_FILE}: ${missing}`);
  }
  if (document.version < 2)
    for (const o of [...groundDefaults(), ...SHIPPED_LIGHTING.map((m) => ({ ...m, sun: m.id === SHIPPED_LIGHTING[0].id ? settings.sun : m.sun }))])
      if (!objects.has(o.id)) objects.set(o.id, o);
  return { ok: true, value: makeLevel(objects.values(), tiles, 0, assets) };
}

/** One channel of an object as a whole-level raster, or `undefined` when it has no tiles. */
export function tilesToRaster(level: Level, lift: string, channel: (typeof CHANNELS)[number], grid: Grid): Int32Array | undefined {
  let out: Int32Array | undefined;
  for (let tz = 0; tz < grid.tilesZ; tz++) {
    for (let tx = 0; tx < grid.tilesX; tx++) {
      const tile = level.tiles.get(tileKey(lift, channel, tx, tz));
      if (!tile) continue;
      out ??= new Int32Array(grid.nx * grid.nz);
      const cols = ownedRange(tx);
      const rows = ownedRange(tz);
      for (let z = rows.first; z <= rows.last; z++) {
        for (let x = cols.first; x <= cols.last; x++) out[z * grid.nx + x] = tile[(z - tz * TILE_QUADS) * TILE_SIDE + x - tx * TILE_QUADS];
      }
    }
  }
  return out;
}

/** The tiles of a whole-level raster by their keys; tiles that are all zero are left out. */
export function* rasterToTiles(values: Int32Array, lift: string, channel: (typeof CHANNELS)[number], grid: Grid): Generator<[string, Int32Array]> {
  for (const [tx, tz, tile] of rasterTiles(values, grid)) yield [tileKey(lift, channel, tx, tz), tile];
}

/** Splits a whole-level raster into its tiles, each with its place; tiles that are all zero are left out. */
function* rasterTiles(values: Int32Array, grid: Grid): Generator<[number, number, Int32Array]> {
  for (let tz = 0; tz < grid.tilesZ; tz++) {
    for (let tx = 0; tx < grid.tilesX; tx++) {
      const tile = new Int32Array(TILE_SAMPLES);
      const cols = ownedRange(tx);
      const rows = ownedRange(tz);
      let any = false;
      for (let z = rows.first; z <= rows.last; z++) {
        for (let x = cols.first; x <= cols.last; x++) {
          const v = values[z * grid.nx + x];
          if (v !== 0) any = true;
          tile[(z - tz * TILE_QUADS) * TILE_SIDE + x - tx * TILE_QUADS] = v;
        }
      }
      if (any) yield [tx, tz, tile];
    }
  }
}

function extremes(values: Int32Array): { least: number; most: number } {
  let least = Infinity;
  let most = -Infinity;
  for (const v of values) {
    if (v < least) least = v;
    if (v > most) most = v;
  }
  return { least, most };
}
