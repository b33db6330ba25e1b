import { SHIPPED_BODIES, type BodyFigures } from '../body/bodies';
import { ObjectMap } from './objectMap';
import { placedPad } from './padFoot';
import { presentOf } from './present';
import { needOf } from './references';
import type { Block, BodyObject, GroundRule, Habitat, Lift, LevelObject, Marker, ObjectKind, ObjectOf, Piece, PlantObject, Settings, Species } from './objects';

/** Version of the document's form; raised when an older reader could not read it. */
export const DOCUMENT_VERSION = 16;

/** What an edit may look at. The server implements it over the few rows an edit touches. */
export interface LevelReader {
  object(id: string): LevelObject | undefined;
  tile(key: string): Int32Array | undefined;
  /** objects that cannot be without the one of this id, see `needOf` */
  users(id: string): Iterable<LevelObject>;
}

/** A whole level in memory. `version` counts the edits applied since it was made. */
export interface Level extends LevelReader {
  version: number;
  objects: ObjectMap;
  tiles: Map<string, Int32Array>;
  /** GLB files of its assets by content hash */
  assets: Map<string, Uint8Array>;
}

/**
 * A level of objects, raster tiles by `tileKey`, and GLB files by content hash.
 *
 * @param version edits applied since it was made
 * @example
 * const level = makeLevel(objects, tiles);
 * const copy = makeLevel(level.objects.values(), level.tiles, level.version, level.assets);
 */
export function makeLevel(
  objects: Iterable<LevelObject> = [],
  tiles: Iterable<[string, Int32Array]> = [],
  version = 0,
  assets: Iterable<[string, Uint8Array]> = [],
): Level {
  const objectMap = new ObjectMap(objects);
  const tileMap = new Map(tiles);
  return {
    version,
    objects: objectMap,
    tiles: tileMap,
    assets: new Map(assets),
    object: (id) => objectMap.get(id),
    tile: (key) => tileMap.get(key),
    users: (id) => objectMap.users(id),
  };
}

/** Of some objects, those that cannot be without the one of an id. */
export function* usersOf(objects: Iterable<LevelObject>, id: string): Generator<LevelObject> {
  for (const o of objects) if (needOf(o)?.id === id) yield o;
}

/**
 * All objects of one kind, in the order they were added.
 *
 * @example
 * for (const { name } of ofKind(level, 'surface')) console.log(name);
 */
export const ofKind = <K extends ObjectKind>({ objects }: Pick<Level, 'objects'>, kind: K): ObjectOf<K>[] => objects.of(kind);

/**
 * The settings of a level.
 *
 * @throws Error when it has none; every reader at a door makes sure it has
 * @example
 * const { spacing } = settingsOf(level); // metres between two samples
 */
export function settingsOf(level: LevelReader): Settings {
  const s = level.object('settings');
  if (s?.kind !== 'settings') throw new Error('level has no settings');
  return s;
}

/**
 * The body the level is played with; the first there is where that one is gone.
 *
 * @throws Error when the level has no body; every reader at a door makes sure it has
 * @example
 * const { height, radius } = playerBody(level).figures; // metres
 */
export function playerBody(level: Level): BodyObject {
  const body = level.object(settingsOf(level).player);
  if (body?.kind === 'body') return body;
  const first = ofKind(level, 'body')[0];
  if (!first) throw new Error('level has no body');
  return first;
}

/**
 * Lifts, lowest first, pads where what they follow stands; equal orders by id, so that the stack never depends on insertion.
 *
 * @example
 * composeRect(terrain, liftStack(level), level.tiles, wholeRect(terrain.grid));
 */
export function liftStack(level: Level): Lift[] {
  return ofKind(level, 'lift')
    .map((l) => (l.lift === 'pad' ? placedPad(level, l) : l))
    .sort((a, b) => a.order - b.order || (a.id < b.id ? -1 : 1));
}

/** Blocks that are in the level (hidden ones too, and those of copies), sorted by id. */
export const presentBlocks = ({ objects }: Pick<Level, 'objects'>): readonly Block[] => presentOf(objects).of('block');

/** Pieces that are in the level (hidden ones too, and those of copies), sorted by id. */
export const presentPieces = ({ objects }: Pick<Level, 'objects'>): readonly Piece[] => presentOf(objects).of('piece');

/**
 * Plants set by hand (those that are gone too, and those of copies), sorted by id: what growing goes by. One that was moved
 * by hand and is taken out leaves its hole: the generated one does not come back.
 */
export function presentPlants({ objects }: Pick<Level, 'objects'>): readonly PlantObject[] {
  const present = presentOf(objects).of('plant');
  const out = objects.of('plant').filter((p) => p.out && (p.was !== undefined || p.from !== undefined));
  return out.length === 0 ? present : [...present, ...out.map((p) => ({ ...p, gone: true }))].sort((a, b) => (a.id < b.id ? -1 : 1));
}

/** Markers that are in the level, those of copies too, sorted by id. */
export const presentMarkers = ({ objects }: Pick<Level, 'objects'>): readonly Marker[] => presentOf(objects).of('marker');

/** Species that are in the level, earliest first; equal orders by id. */
export const speciesOf = (level: Level): Species[] =>
  ofKind(level, 'species')
    .filter((s) => !s.out)
    .sort((a, b) => a.order - b.order || (a.id < b.id ? -1 : 1));

/** Habitats that are on, earliest first; equal orders by id. */
export const habitatsOf = (level: Level): Habitat[] =>
  ofKind(level, 'habitat')
    .filter((h) => h.on)
    .sort((a, b) => a.order - b.order || (a.id < b.id ? -1 : 1));

/** Rules of the ground, lowest first; equal orders by id. */
export const groundRulesOf = (level: Level): GroundRule[] => ofKind(level, 'groundRule').sort((a, b) => a.order - b.order || (a.id < b.id ? -1 : 1));

/** The marker of a sort that is in the level, the own ones before those of copies; `undefined` where there is none. */
export const marker = (level: Level, which: Marker['marker']): Marker | undefined =>
  [...ofKind(level, 'marker').filter((m) => !m.out), ...presentMarkers(level)].find((m) => m.marker === which);

export interface NewLevel {
  name: string;
  tilesX: number;
  tilesZ: number;
  spacing: 0.25 | 0.5 | 1 | 2;
  body: { name: string; figures: BodyFigures };
  /** seed of the noise lift */
  seed: number;
}

/**
 * A new level: player and ram bodies, a gentle noise lift under an empty hand lift.
 *
 * @param more what it starts with besides: surfaces, lighting, see surface/surfaces and light/lighting
 */
export function newLevel(wanted: NewLevel, more: readonly LevelObject[] = []): Level {
  return makeLevel([
    {
      id: 'settings',
      version: 1,
      kind: 'settings',
      name: wanted.name,
      tilesX: wanted.tilesX,
      tilesZ: wanted.tilesZ,
      spacing: wanted.spacing,
      player: 'player',
      device: 'den-60',
      sun: { azimuth: 215, elevation: 38 },
    },
    { id: 'player', version: 1, kind: 'body', name: wanted.body.name, figures: wanted.body.figures },
    { id: 'ram', version: 1, kind: 'body', name: 'ram', figures: SHIPPED_BODIES.ram },
    {
      id: 'noise',
      version: 1,
      kind: 'lift',
      lift: 'noise',
      name: 'rough ground',
      order: 0,
      visible: true,
      seed: wanted.seed,
      height: 1.5,
      scale: 60,
      octaves: 4,
    },
    { id: 'hand', version: 1, kind: 'lift', lift: 'hand', name: 'hand work', order: 100, visible: true },
    ...more,
  ]);
}
