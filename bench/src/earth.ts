import { beginStroke, BRUSH_DEFAULTS, strokeTiles } from '@rammer/core/earth/brush';
import { dab } from '@rammer/core/earth/dab';
import { composeRect, composeTerrain, wholeRect, type Rect, type Terrain } from '@rammer/core/earth/compose';
import { terrainPositions, terrainVertexCount, tileNormals } from '@rammer/core/earth/mesh';
import { liftStack, makeLevel, type Level } from '@rammer/core/level/level';
import { TILE_QUADS, TILE_SAMPLES, TILE_SIDE, tileKey } from '@rammer/core/level/tiles';
import { SHIPPED_BODIES } from '@rammer/core/body/bodies';
import { changedRect } from '@rammer/core/earth/changed';
import { parseObject, type Landform, type Lift } from '@rammer/core/level/objects';
import type { Pair } from './measure';

/** A level of `tiles` a side with hand work on every tile, and its noise cached, as after some hours of work. */
function worked(tiles: number): { level: Level; terrain: Terrain } {
  const level = makeLevel([
    { id: 'settings', version: 1, kind: 'settings', name: 'bench', tilesX: tiles, tilesZ: tiles, spacing: 0.5, player: 'adult', device: 'den-60', sun: { azimuth: 200, elevation: 40 } },
    { id: 'adult', version: 1, kind: 'body', name: 'adult', figures: SHIPPED_BODIES.adult },
    { id: 'noise', version: 1, kind: 'lift', lift: 'noise', name: 'noise', order: 0, visible: true, seed: 5, height: 3, scale: 60, octaves: 1 },
    { id: 'hand', version: 1, kind: 'lift', lift: 'hand', name: 'hand', order: 100, visible: true },
  ]);
  const tile = Int32Array.from({ length: TILE_SAMPLES }, (_, i) => (i * 31) % 900);
  const weight = Int32Array.from({ length: TILE_SAMPLES }, (_, i) => (i * 17) % 1024);
  for (let z = 0; z < tiles; z++) {
    for (let x = 0; x < tiles; x++) {
      level.tiles.set(tileKey('hand', 'delta', x, z), tile);
      level.tiles.set(tileKey('hand', 'held', x, z), tile);
      level.tiles.set(tileKey('hand', 'weight', x, z), weight);
    }
  }
  return { level, terrain: composeTerrain(level) };
}

const positions = new Float32Array(terrainVertexCount(0) * 3);
const normals = new Uint8Array(TILE_SIDE * TILE_SIDE * 4);

/** Composes a rectangle, then writes mesh and normals of the given tiles. */
function redo(level: Level, terrain: Terrain, tiles: ReadonlyMap<string, Int32Array>, rect: Rect, tx0: number, tz0: number, tx1: number, tz1: number): void {
  composeRect(terrain, liftStack(level), tiles, rect);
  for (let z = tz0; z <= tz1; z++) {
    for (let x = tx0; x <= tx1; x++) {
      terrainPositions(terrain, x, z, 0, 3, positions);
      tileNormals(terrain, x, z, normals, 4);
    }
  }
}

/** A dab on the corner where four tiles meet in the middle of the level. */
function dabOnCorner(level: Level, terrain: Terrain, tiles: number): void {
  const middle = Math.floor(tiles / 2);
  const at = middle * TILE_QUADS * terrain.grid.spacing;
  const buffer = beginStroke('hand', terrain.grid);
  const rect = dab(buffer, level.tiles, terrain, BRUSH_DEFAULTS, at, at)!;
  redo(level, terrain, strokeTiles(buffer, level.tiles), rect, middle - 1, middle - 1, middle, middle);
}

/** A 1025 level of ten lifts: noise, four landforms (one with a mask by slope), two routes, two pads, hand work. */
function tenLifts(): { level: Level; terrain: Terrain } {
  const { level } = worked(16);
  const lift = (given: Record<string, unknown>) => {
    const parsed = parseObject({ version: 1, kind: 'lift', name: String(given.id), ...given });
    if (!parsed.ok) throw new Error(parsed.message);
    level.objects.set(parsed.object.id, parsed.object);
  };
  for (let i = 0; i < 4; i++) lift({ id: `heap${i}`, lift: 'landform', order: 10 + i, line: [[60 + i * 110, 60], [110 + i * 110, 70], [100 + i * 110, 130]], height: 6, foot: 8, ragged: 2, ...(i === 3 ? { mask: { slope: { band: [0, 30], soft: 6 } } } : {}) });
  for (let i = 0; i < 2; i++) lift({ id: `way${i}`, lift: 'route', order: 200 + i, line: [[20, 0, 200 + i * 120], [200, 4, 240 + i * 120], [480, 2, 210 + i * 120]], width: 4 });
  for (let i = 0; i < 2; i++) lift({ id: `yard${i}`, lift: 'pad', order: 210 + i, outline: [[300 + i * 80, 420], [340 + i * 80, 420], [340 + i * 80, 450], [300 + i * 80, 450]], height: 3 });
  return { level, terrain: composeTerrain(level) };
}

export function earthPairs(): (() => Pair)[] {
  return [
    () => {
      const { level, terrain } = tenLifts();
      let height = 6;
      const change = (): Lift[] => {
        const before = liftStack(level);
        level.objects.set('heap0', { ...(level.object('heap0') as Landform), height: (height = height === 6 ? 7 : 6) });
        return before;
      };
      return {
        name: 'earth/lift', target: 10,
        note: 'the height of one of ten lifts of a 1025 level set: what it can change composed anew, against the whole',
        ours: () => {
          const before = change();
          composeRect(terrain, liftStack(level), level.tiles, changedRect(before, liftStack(level), terrain, level.tiles)!);
        },
        baseline: () => {
          change();
          composeRect(terrain, liftStack(level), level.tiles, wholeRect(terrain.grid));
        },
      };
    },
    () => {
      const tiles = 16;
      const { level, terrain } = worked(tiles);
      const middle = Math.floor(tiles / 2);
      const at = middle * TILE_QUADS * terrain.grid.spacing;
      return {
        name: 'earth/dab', target: 20,
        note: `compose, normals and mesh of the touched tiles, a dab of 6 m on a tile corner, against the same on all ${tiles * tiles} tiles of a 1025 level; noise cached`,
        ours: () => dabOnCorner(level, terrain, tiles),
        baseline: () => {
          const buffer = beginStroke('hand', terrain.grid);
          dab(buffer, level.tiles, terrain, BRUSH_DEFAULTS, at, at);
          redo(level, terrain, strokeTiles(buffer, level.tiles), wholeRect(terrain.grid), 0, 0, tiles - 1, tiles - 1);
        },
      };
    },
    () => {
      const small = worked(16);
      const large = worked(64);
      const many = (n: number, work: () => void) => { for (let i = 0; i < n; i++) work(); };
      return {
        name: 'earth/dab-scale', target: 0.77, pairs: 15,
        note: 'eight such dabs on a 4097 level, against the same on a 1025 level: the time ratio 1025 / 4097',
        ours: () => many(8, () => dabOnCorner(large.level, large.terrain, 64)),
        baseline: () => many(8, () => dabOnCorner(small.level, small.terrain, 16)),
      };
    },
  ];
}
