import type { Rect, Terrain } from '../earth/compose';
import { TERRAIN_LOD_STRIDES, terrainTriangles, terrainVertexCount } from '../earth/mesh';
import { wholeRect } from '../earth/rect';
import type { Lighting, Surface } from '../level/objects';
import { TILE_QUADS, TILE_SIDE, type Grid } from '../level/tiles';
import { clamp } from '../num/vec';
import type { GroundRaster } from '../surface/ground';
import { SURFACE_PIXELS } from '../surface/surfaces';
import { merged, type Drawable, type Shared } from './drawable';
import { SHADE, surfacesMixed } from './sheet';

/** Bytes of the surfaces' textures as the game has them, with their mip levels. @param surfaces those of the level */
export const surfaceTextureBytes = (surfaces: readonly Pick<Surface, 'pixels'>[]): number =>
  Math.round(surfaces.reduce((sum, s) => sum + (s.pixels ?? SURFACE_PIXELS) ** 2, 0) * 4 * (4 / 3));

const TERRAIN_VERTEX_BYTES = 12;

/** Terrain tiles of a level, each one drawable. @param ground what they mix; without one each sample is one surface */
export function terrainDrawables(terrain: Terrain, surfaces: readonly Pick<Surface, 'pixels'>[], ground?: GroundRaster): Drawable[] {
  const { grid } = terrain;
  const out: Drawable[] = [];
  const lods = TERRAIN_LOD_STRIDES.map((_, lod) => lod);
  const shared = sharedTextures(surfaces);
  // Two textures a tile: normals and light, and the shares of the surfaces.
  const bytes = TILE_SIDE * TILE_SIDE * 8 + lods.reduce((sum, lod) => sum + terrainVertexCount(lod) * TERRAIN_VERTEX_BYTES, 0);
  for (let tz = 0; tz < grid.tilesZ; tz++) {
    for (let tx = 0; tx < grid.tilesX; tx++) {
      const [low, high] = tileRange(terrain, tx, tz);
      const side = TILE_QUADS * grid.spacing;
      out.push(
        merged({
          key: `terrain/${tx},${tz}`,
          course: 'terrain',
          casts: false,
          shared,
          min: [tx * side, low, tz * side],
          max: [(tx + 1) * side, high, (tz + 1) * side],
          triangles: lods.map(terrainTriangles),
          vertices: lods.map(terrainVertexCount),
          bytes,
          sheet: { y: (low + high) / 2, shade: ground ? mixedShade(ground, tx, tz) : 0 },
        }),
      );
    }
  }
  return out;
}

const mixedShade = (ground: GroundRaster, tx: number, tz: number): number => SHADE.surface * (surfacesMixed(ground, tx, tz) - 1);

/** Brings the textures that all tiles share, and what the touched tiles mix, up to date after the ground changed. */
export function updateTerrainGround(drawables: Drawable[], ground: GroundRaster, rect: Rect = wholeRect(ground.grid)): void {
  const shared = sharedTextures(ground.surfaces);
  for (const d of drawables) d.shared = shared;
  overTouched(ground.grid, rect, (tx, tz, at) => {
    drawables[at].sheet!.shade = mixedShade(ground, tx, tz);
  });
}

/** Does something with each tile a rectangle of samples touches, and its place among all. */
function overTouched({ tilesX, tilesZ }: Grid, rect: Rect, each: (tx: number, tz: number, at: number) => void): void {
  const tile = (sample: number, tiles: number) => clamp(Math.floor(sample / TILE_QUADS), 0, tiles - 1);
  for (let tz = tile(rect.z0 - 1, tilesZ); tz <= tile(rect.z1, tilesZ); tz++) {
    for (let tx = tile(rect.x0 - 1, tilesX); tx <= tile(rect.x1, tilesX); tx++) each(tx, tz, tz * tilesX + tx);
  }
}

const sharedTextures = (surfaces: readonly Pick<Surface, 'pixels'>[]): Shared[] => [{ key: 'surfaces', bytes: surfaceTextureBytes(surfaces) }];

/** Brings the heights of the touched tiles up to date after a local change, so that a dab costs what it touches. */
export function updateTerrainDrawables(drawables: Drawable[], terrain: Terrain, rect: Rect): void {
  overTouched(terrain.grid, rect, (tx, tz, at) => {
    const d = drawables[at];
    [d.min[1], d.max[1]] = tileRange(terrain, tx, tz);
    d.sheet!.y = (d.min[1] + d.max[1]) / 2;
  });
}

/** Lowest and highest height of a tile, edges included. */
export function tileRange(terrain: Terrain, tx: number, tz: number): [low: number, high: number] {
  const { nx } = terrain.grid;
  let low = Infinity;
  let high = -Infinity;
  for (let z = tz * TILE_QUADS; z <= (tz + 1) * TILE_QUADS; z++) {
    for (let i = z * nx + tx * TILE_QUADS, end = i + TILE_QUADS; i <= end; i++) {
      const h = terrain.heights[i];
      if (h < low) low = h;
      if (h > high) high = h;
    }
  }
  return [low, high];
}

/** Haze over the whole screen, where a lighting has any. */
export const hazeDrawables = ({ haze }: Pick<Lighting, 'haze'>): Drawable[] =>
  haze > 0
    ? [
        merged({
          key: 'haze',
          course: 'haze',
          min: [-Infinity, -Infinity, -Infinity],
          max: [Infinity, Infinity, Infinity],
          triangles: [0],
          vertices: [0],
          draws: [0],
          bytes: 0,
          casts: false,
          sheet: { shade: SHADE.haze },
        }),
      ]
    : [];
