import { CELL } from '../block/grid';
import { blockBounds, blockTriangles } from '../block/solid';
import type { Rect, Terrain } from '../earth/compose';
import { TERRAIN_LOD_STRIDES, terrainTriangles, terrainVertexCount } from '../earth/mesh';
import type { Block } from '../level/objects';
import { TILE_QUADS, TILE_SIDE } from '../level/tiles';
import { tanDeg } from '../num/trig';
import { clamp, type Vec3 } from '../num/vec';
import { boxInFrustum, frustumPlanes, type Camera } from './camera';

/** Courses of the wall, bottom first. */
export const COURSES = ['base', 'terrain', 'blocks', 'kit', 'plants', 'water', 'shadows'] as const;
export type Course = (typeof COURSES)[number];

/** Something that can be drawn in one call: a terrain tile or the blocks of a cell. */
export interface Drawable {
  key: string;
  course: 'terrain' | 'blocks';
  min: Vec3;
  max: Vec3;
  /** triangles and vertices at each LOD */
  triangles: number[];
  vertices: number[];
  /** bytes on the GPU whatever LOD is drawn: meshes and textures */
  bytes: number;
}

/** One draw of a view. */
export interface Batch {
  key: string;
  course: 'terrain' | 'blocks';
  lod: number;
  draws: 1;
  triangles: number;
  vertices: number;
  bytes: number;
}

/** Bytes a block vertex takes: position 3, normal 3, place on its face 4, height over the base 1, float32 each. */
export const BLOCK_VERTEX_BYTES = 44;
const TERRAIN_VERTEX_BYTES = 12;

/** Terrain tiles of a level, each one drawable. */
export function terrainDrawables(terrain: Terrain): Drawable[] {
  const { grid } = terrain;
  const out: Drawable[] = [];
  const lods = TERRAIN_LOD_STRIDES.map((_, lod) => lod);
  const bytes = TILE_SIDE * TILE_SIDE * 4 + lods.reduce((sum, lod) => sum + terrainVertexCount(lod) * TERRAIN_VERTEX_BYTES, 0);
  for (let tz = 0; tz < grid.tilesZ; tz++) {
    for (let tx = 0; tx < grid.tilesX; tx++) {
      const [low, high] = tileRange(terrain, tx, tz);
      const side = TILE_QUADS * grid.spacing;
      out.push({
        key: `terrain/${tx},${tz}`, course: 'terrain',
        min: [tx * side, low, tz * side], max: [(tx + 1) * side, high, (tz + 1) * side],
        triangles: lods.map(terrainTriangles), vertices: lods.map(terrainVertexCount), bytes,
      });
    }
  }
  return out;
}

/** Brings the heights of the touched tiles up to date after a local change, so that a dab costs what it touches. */
export function updateTerrainDrawables(drawables: Drawable[], terrain: Terrain, rect: Rect): void {
  const { tilesX, tilesZ } = terrain.grid;
  const tile = (sample: number, tiles: number) => clamp(Math.floor(sample / TILE_QUADS), 0, tiles - 1);
  for (let tz = tile(rect.z0 - 1, tilesZ); tz <= tile(rect.z1, tilesZ); tz++) {
    for (let tx = tile(rect.x0 - 1, tilesX); tx <= tile(rect.x1, tilesX); tx++) {
      const d = drawables[tz * tilesX + tx];
      [d.min[1], d.max[1]] = tileRange(terrain, tx, tz);
    }
  }
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

/** The cell a block is drawn in: that of its centre. */
export const drawCell = (block: Block): string => `${Math.floor(block.at[0] / CELL)},${Math.floor(block.at[2] / CELL)}`;

/** Blocks that are drawn, by cell: one mesh and one draw a cell. Hidden and taken-out ones are not. */
export function blocksByCell(blocks: Iterable<Block>): Map<string, Block[]> {
  const cells = new Map<string, Block[]>();
  for (const block of blocks) {
    if (block.hidden || block.out) continue;
    const key = drawCell(block);
    const list = cells.get(key);
    if (list) list.push(block);
    else cells.set(key, [block]);
  }
  return cells;
}

export function blockDrawables(cells: ReadonlyMap<string, readonly Block[]>): Drawable[] {
  const out: Drawable[] = [];
  for (const [cell, blocks] of cells) {
    const min: Vec3 = [Infinity, Infinity, Infinity];
    const max: Vec3 = [-Infinity, -Infinity, -Infinity];
    let triangles = 0;
    for (const block of blocks) {
      const b = blockBounds(block);
      for (let k = 0; k < 3; k++) {
        min[k] = Math.min(min[k], b.min[k]);
        max[k] = Math.max(max[k], b.max[k]);
      }
      triangles += blockTriangles(block);
    }
    // Flat shaded: each triangle has its own three vertices.
    out.push({ key: `blocks/${cell}`, course: 'blocks', min, max, triangles: [triangles], vertices: [triangles * 3], bytes: triangles * 3 * BLOCK_VERTEX_BYTES });
  }
  return out;
}

/** Projected side of a terrain quad, as a share of half the screen height, that a LOD may reach. */
export const QUAD_ON_SCREEN = 0.08;

/**
 * The batch list of a view: what is drawn, at which LOD. The view draws exactly this list and the
 * wall counts it.
 *
 * A terrain tile takes the coarsest LOD whose quads stay under `QUAD_ON_SCREEN * coarseness` on the
 * screen at the tile's nearest point.
 *
 * @param coarseness 1 for the full picture; larger lets LODs change nearer (the governor's lever); 0 keeps the finest
 * @param cull false draws what is out of view too: a baseline to measure against
 */
export function batchList(drawables: Iterable<Drawable>, camera: Camera, spacing: number, coarseness: number, cull = true): Batch[] {
  const planes = frustumPlanes(camera);
  const out: Batch[] = [];
  for (const d of drawables) {
    if (cull && !boxInFrustum(planes, d.min, d.max)) continue;
    const lod = d.course === 'terrain' ? terrainLod(d, camera, spacing, coarseness) : 0;
    out.push({ key: d.key, course: d.course, lod, draws: 1, triangles: d.triangles[lod], vertices: d.vertices[lod], bytes: d.bytes });
  }
  return out;
}

function terrainLod(d: Drawable, camera: Camera, spacing: number, coarseness: number): number {
  const distance = camera.fov === 0 ? 1 : Math.max(nearest(camera.eye, d.min, d.max), 1);
  const scale = camera.fov === 0 ? 1 / camera.halfHeight : 1 / (distance * tanDeg(camera.fov / 2));
  let lod = 0;
  while (lod + 1 < TERRAIN_LOD_STRIDES.length && spacing * TERRAIN_LOD_STRIDES[lod + 1] * scale <= QUAD_ON_SCREEN * coarseness) lod++;
  return lod;
}

function nearest(p: Vec3, min: Vec3, max: Vec3): number {
  let sum = 0;
  for (let k = 0; k < 3; k++) {
    const d = p[k] - clamp(p[k], min[k], max[k]);
    sum += d * d;
  }
  return Math.sqrt(sum);
}

export interface Tally {
  draws: number;
  triangles: number;
  vertices: number;
  bytes: number;
}

const emptyTally = (): Tally => ({ draws: 0, triangles: 0, vertices: 0, bytes: 0 });

/** Sums of a batch list by course, and of all. */
export function tally(batches: Iterable<Batch>): { all: Tally; byCourse: Partial<Record<Course, Tally>> } {
  const all = emptyTally();
  const byCourse: Partial<Record<Course, Tally>> = {};
  for (const b of batches) {
    const mine = (byCourse[b.course] ??= emptyTally());
    for (const t of [all, mine]) {
      t.draws += b.draws;
      t.triangles += b.triangles;
      t.vertices += b.vertices;
      t.bytes += b.bytes;
    }
  }
  return { all, byCourse };
}
