import { CELL } from '../block/grid';
import type { PlacedMesh } from '../block/placedMesh';
import { blockBounds, blockTriangles } from '../block/solid';
import type { Rect, Terrain } from '../earth/compose';
import { alphaScreens } from './alphaScreens';
import { TERRAIN_LOD_STRIDES, terrainTriangles, terrainVertexCount } from '../earth/mesh';
import { wholeRect } from '../earth/rect';
import type { Block, Lighting, Surface } from '../level/objects';
import { TILE_QUADS, TILE_SIDE, type Grid } from '../level/tiles';
import { tanDeg } from '../num/trig';
import { clamp, type Vec3 } from '../num/vec';
import type { GroundRaster } from '../surface/ground';
import { SURFACE_PIXELS } from '../surface/surfaces';
import { boxInFrustum, frustumPlanes, type Camera } from './camera';
import { screenShare, SHADE, surfacesMixed } from './sheet';

/** Courses of the wall, bottom first. */
export const COURSES = ['base', 'terrain', 'blocks', 'kit', 'plants', 'water', 'haze', 'shadows'] as const;
export type Course = (typeof COURSES)[number];

/** Something that is drawn at once: a terrain tile, the blocks of a cell, the pieces or plants of one kind in a cell, a water plane. */
export interface Drawable {
  key: string;
  course: Exclude<Course, 'base' | 'shadows'>;
  /** who spends it, within the course: a species, a kind of piece; else the course itself */
  of: string;
  min: Vec3;
  max: Vec3;
  /** triangles and vertices at each LOD */
  triangles: number[];
  vertices: number[];
  /** draw calls at each LOD: one a material */
  draws: number[];
  /** bytes on the GPU of its own, whatever LOD is drawn */
  bytes: number;
  /** what it shares with others: an asset's meshes, textures */
  shared?: readonly Shared[];
  /** instances; 0 where it is one merged mesh */
  instances: number;
  /** of the largest instance, metres: what the LOD is chosen by */
  radius: number;
  /** not drawn beyond this distance, metres; 0 always */
  cutoff: number;
  casts: boolean;
  /** and that only as near to the eye as this, metres; as far as shadows go where absent */
  castsTo?: number;
  /** alpha-tested area of one instance at each LOD, m2 */
  alphaArea: number[];
  /** coats over it: the area of one instance at each LOD as the eye sees it, times the coats that lie on it, m2; and how many coats there are */
  coated?: { area: number[]; coats: number };
  /** where each instance stands, as its matrices say: near by it is overdrawn by how far it is, not by how far its cell is */
  places?: Float32Array;
  /** keys of those it holds: it is drawn in their place where all of them are at their coarsest LOD, and else not at all */
  holds?: readonly string[];
  /** of such a one: mean square of its instances' height against their asset's */
  size?: number;
  /** where its pixels are shaded over again: a level sheet over its bounds in plan, and how often. No height: the whole screen */
  sheet?: { y?: number; shade: number };
}

/** Bytes that all with this key share. */
export interface Shared {
  key: string;
  bytes: number;
}

/** What is drawn of one drawable in a view. */
export interface Batch {
  key: string;
  course: Course;
  of: string;
  lod: number;
  draws: number;
  triangles: number;
  vertices: number;
  instances: number;
  /** what is shaded over again, in screens: alpha-tested area, surfaces mixed, water, haze */
  overdraw: number;
  /** how much of that is coats */
  coats?: number;
  bytes: number;
  shared?: readonly Shared[];
}

/** Bytes of one instance: a matrix of 12 numbers and a tint. */
export const INSTANCE_BYTES = 64;
/** Bytes of the surfaces' textures as the game has them, with their mip levels. @param surfaces those of the level */
export const surfaceTextureBytes = (surfaces: readonly Pick<Surface, 'pixels'>[]): number =>
  Math.round(surfaces.reduce((sum, s) => sum + (s.pixels ?? SURFACE_PIXELS) ** 2, 0) * 4 * (4 / 3));

/** A merged mesh of one draw: terrain, blocks, water. */
const merged = (d: Pick<Drawable, 'key' | 'course' | 'min' | 'max' | 'triangles' | 'vertices' | 'bytes'> & Partial<Drawable>): Drawable => ({
  of: d.course,
  draws: d.triangles.map(() => 1),
  instances: 0,
  radius: 0,
  cutoff: 0,
  casts: true,
  alphaArea: d.triangles.map(() => 0),
  ...d,
});

/** Bytes a block vertex takes: position 3, normal 3, place on its face 4, height over the base 1, float32 each. */
export const BLOCK_VERTEX_BYTES = 44;
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

/** The cell a block is drawn in: that of its centre. */
export const drawCell = (block: Block): string => `${Math.floor(block.at[0] / CELL)},${Math.floor(block.at[2] / CELL)}`;

/**
 * What of a level is listed: all that the game draws, which what is only hidden from view is part of; or what is
 * seen here.
 */
export type Listed = 'all' | 'seen';

/** Blocks that are drawn, by cell: one mesh and one draw a cell. Voids and taken-out ones are not. */
export function blocksByCell(blocks: Iterable<Block>, listed: Listed = 'all'): Map<string, Block[]> {
  const cells = new Map<string, Block[]>();
  for (const block of blocks) {
    if ((listed === 'seen' && block.hidden) || block.out || block.op === 'void') continue;
    const key = drawCell(block);
    const list = cells.get(key);
    if (list) list.push(block);
    else cells.set(key, [block]);
  }
  return cells;
}

/** @param built blocks that are meshes, by id, see block/build */
export const blockDrawables = (cells: ReadonlyMap<string, readonly Block[]>, built: ReadonlyMap<string, PlacedMesh> = new Map()): Drawable[] =>
  [...cells].map(([cell, blocks]) => blockDrawable(cell, blocks, built));

/** The blocks of a cell as the batch list sees them. @param built see `blockDrawables` */
export function blockDrawable(cell: string, blocks: readonly Block[], built: Pick<ReadonlyMap<string, PlacedMesh>, 'get'>): Drawable {
  const min: Vec3 = [Infinity, Infinity, Infinity];
  const max: Vec3 = [-Infinity, -Infinity, -Infinity];
  let triangles = 0;
  for (const block of blocks) {
    const mesh = built.get(block.id);
    const b = mesh ?? blockBounds(block);
    for (let k = 0; k < 3; k++) {
      min[k] = Math.min(min[k], b.min[k]);
      max[k] = Math.max(max[k], b.max[k]);
    }
    triangles += mesh ? mesh.indices.length / 3 : blockTriangles(block);
  }
  // Flat shaded: each triangle has its own three vertices.
  const bytes = triangles * 3 * BLOCK_VERTEX_BYTES;
  return merged({ key: `blocks/${cell}`, course: 'blocks', min, max, triangles: [triangles], vertices: [triangles * 3], bytes });
}

/** Projected side of a terrain quad, as a share of half the screen height, that a LOD may reach. */
export const QUAD_ON_SCREEN = 0.08;

/**
 * The batch list of a view: what is drawn, at which LOD. The view draws exactly this list and the
 * wall counts it. A batch is (mesh LOD, material, cell), drawn instanced; it counts if its bounds meet
 * the frustum and its distance is within the cut-off.
 *
 * A drawable that holds others is drawn in their place where all of them are at their coarsest LOD and within their cut-off: what
 * one sees is the same, in fewer draws.
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
  let coats = 0;
  const together = cull ? drawnTogether(drawables, camera, spacing, coarseness) : NOTHING_TOGETHER;
  for (const d of drawables) {
    if (d.holds ? !together.wide.has(d.key) : together.held.has(d.key)) continue;
    if (cull && !boxInFrustum(planes, d.min, d.max)) continue;
    const distance = camera.fov === 0 ? 0 : nearest(camera.eye, d.min, d.max);
    if (cull && d.cutoff > 0 && distance > d.cutoff) continue;
    const batch = batchOf(d, lodOf(d, camera, distance, spacing, coarseness), camera, distance);
    if (d.sheet && d.sheet.shade > 0) batch.overdraw += d.sheet.shade * (d.sheet.y === undefined ? 1 : screenShare(camera, d.min, d.max, d.sheet.y, planes));
    if (d.coated) coats = Math.max(coats, d.coated.coats);
    out.push(batch);
  }
  underScreen(out, SHADE.coat * coats);
  return out;
}

interface Together {
  /** keys of those that hold others and are drawn */
  wide: ReadonlySet<string>;
  /** keys of those that are not, for that */
  held: ReadonlySet<string>;
}

const NOTHING_TOGETHER: Together = { wide: new Set(), held: new Set() };

/** Which wide cells are drawn in the place of what they hold; the widest come first in a list. */
function drawnTogether(drawables: Iterable<Drawable>, camera: Camera, spacing: number, coarseness: number): Together {
  const wide = new Set<string>();
  const held = new Set<string>();
  for (const d of drawables) {
    if (!d.holds || held.has(d.holds[0])) continue;
    const distance = camera.fov === 0 ? 0 : nearest(camera.eye, d.min, d.max);
    if (lodOf(d, camera, distance, spacing, coarseness) < d.triangles.length - 1) continue;
    if (d.cutoff > 0 && camera.fov > 0 && distance <= d.cutoff && farthest(camera.eye, d.min, d.max) > d.cutoff) continue;
    wide.add(d.key);
    for (const key of d.holds) held.add(key);
  }
  return { wide, held };
}

/** What is solid is shaded about once a pixel, whatever stands behind it: all coats together cover the screen at most once each. */
function underScreen(batches: Batch[], most: number): void {
  const sum = batches.reduce((s, b) => s + (b.coats ?? 0), 0);
  if (sum <= most) return;
  for (const b of batches) {
    if (!b.coats) continue;
    b.overdraw -= b.coats;
    b.coats *= most / sum;
    b.overdraw += b.coats;
  }
}

function batchOf(d: Drawable, lod: number, camera: Camera, distance: number): Batch {
  const n = Math.max(1, d.instances);
  const coats = d.coated ? SHADE.coat * alphaScreens(d, d.coated.area[lod], camera, distance) : 0;
  return {
    key: d.key,
    course: d.course,
    of: d.of,
    lod,
    draws: d.draws[lod],
    triangles: d.triangles[lod] * n,
    vertices: d.vertices[lod] * n,
    instances: d.instances,
    overdraw: coats + (d.alphaArea[lod] > 0 ? alphaScreens(d, d.alphaArea[lod], camera, distance) : 0),
    ...(d.coated ? { coats } : {}),
    bytes: d.bytes,
    ...(d.shared ? { shared: d.shared } : {}),
  };
}

/**
 * Height on the screen, as a share of half of it, down to which each LOD but the last is drawn. An
 * asset with fewer LODs uses the last of these, one with more `lodOnScreen`.
 */
export const LOD_ON_SCREEN = [0.3, 0.13, 0.045] as const;

/** Height on the screen down to which LOD `lod` of `lods` is drawn; of more than four each further one to half of it. */
export function lodOnScreen(lods: number, lod: number): number {
  const last = LOD_ON_SCREEN.length - 1;
  const at = Math.max(0, last + 1 - (lods - 1)) + lod;
  return at <= last ? LOD_ON_SCREEN[at] : LOD_ON_SCREEN[last] / 2 ** (at - last);
}

/** LOD of an instanced thing by its height on the screen: s = radius / (distance tan(fov / 2)). */
export function instanceLod(
  lods: number,
  radius: number,
  distance: number,
  { fov, halfHeight }: Pick<Camera, 'fov' | 'halfHeight'>,
  coarseness: number,
): number {
  const s = fov === 0 ? radius / halfHeight : radius / (Math.max(distance, 0.5) * tanDeg(fov / 2));
  let lod = 0;
  while (lod < lods - 1 && s < lodOnScreen(lods, lod) * coarseness) lod++;
  return lod;
}

function lodOf(d: Drawable, camera: Camera, distance: number, spacing: number, coarseness: number): number {
  if (d.course === 'terrain') return terrainLod(camera, distance, spacing, coarseness);
  if (d.instances === 0) return 0;
  return instanceLod(d.triangles.length, d.radius, distance, camera, coarseness);
}

function terrainLod(camera: Camera, distance: number, spacing: number, coarseness: number): number {
  const scale = camera.fov === 0 ? 1 / camera.halfHeight : 1 / (Math.max(distance, 1) * tanDeg(camera.fov / 2));
  let lod = 0;
  while (lod + 1 < TERRAIN_LOD_STRIDES.length && spacing * TERRAIN_LOD_STRIDES[lod + 1] * scale <= QUAD_ON_SCREEN * coarseness) lod++;
  return lod;
}

/** Far ends of the shadow cascades, metres; nothing beyond the last throws a shadow on the target device. */
export const CASCADES = [12, 35, 80] as const;

/**
 * The shadow pass of the target device: everything that casts within the shadow distance, seen or
 * not, drawn again in each cascade it touches at the LOD it is seen at. Rammer's own view bakes its
 * shadows and draws none of this. An orthographic view has no shadow pass.
 */
export function shadowBatches(drawables: Iterable<Drawable>, camera: Camera, spacing: number): Batch[] {
  if (camera.fov === 0) return [];
  const out: Batch[] = [];
  for (const d of drawables) {
    if (!d.casts || d.holds) continue;
    const near = nearest(camera.eye, d.min, d.max);
    if (near > Math.min(CASCADES[CASCADES.length - 1], d.castsTo ?? Infinity) || (d.cutoff > 0 && near > d.cutoff)) continue;
    const far = farthest(camera.eye, d.min, d.max);
    const batch = batchOf(d, lodOf(d, camera, near, spacing, 1), camera, near);
    CASCADES.forEach((end, i) => {
      const start = i === 0 ? 0 : CASCADES[i - 1];
      // Meshes are on the GPU once already; a depth pass shades no pixels worth counting.
      if (near <= end && far >= start) out.push({ ...batch, key: `${d.key}#${i}`, course: 'shadows', overdraw: 0, bytes: 0, shared: undefined });
    });
  }
  return out;
}

/**
 * What throws shadows in Rammer's own picture: all that casts on the target device, and the terrain, seen or not, at the LOD it is seen at.
 */
export function castersOf(drawables: Iterable<Drawable>, camera: Camera, spacing: number, coarseness: number): { drawable: Drawable; lod: number }[] {
  const out: { drawable: Drawable; lod: number }[] = [];
  for (const d of drawables) {
    if ((!d.casts && d.course !== 'terrain') || d.holds) continue;
    const distance = camera.fov === 0 ? 0 : nearest(camera.eye, d.min, d.max);
    if ((d.cutoff > 0 && distance > d.cutoff) || distance > (d.castsTo ?? Infinity)) continue;
    out.push({ drawable: d, lod: lodOf(d, camera, distance, spacing, coarseness) });
  }
  return out;
}

function farthest(p: Vec3, min: Vec3, max: Vec3): number {
  let sum = 0;
  for (let k = 0; k < 3; k++) {
    const d = Math.max(Math.abs(p[k] - min[k]), Math.abs(p[k] - max[k]));
    sum += d * d;
  }
  return Math.sqrt(sum);
}

/** What covers the ground round eyes: there is no whole of it. */
export const isCover = ({ key }: Pick<Drawable, 'key'>): boolean => key.startsWith('cover/');

/** Everything at its finest, as if it were all seen at once: the scope "whole level". What covers the ground round eyes is left out. */
export function wholeLevel(drawables: Iterable<Drawable>): Batch[] {
  return [...drawables]
    .filter((d) => !isCover(d) && !d.holds)
    .map((d): Batch => {
      const n = Math.max(1, d.instances);
      return {
        key: d.key,
        course: d.course,
        of: d.of,
        lod: 0,
        draws: d.draws[0],
        triangles: d.triangles[0] * n,
        vertices: d.vertices[0] * n,
        instances: d.instances,
        overdraw: 0,
        bytes: d.bytes,
        ...(d.shared ? { shared: d.shared } : {}),
      };
    });
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
  instances: number;
  /** screens of alpha-tested area */
  overdraw: number;
  bytes: number;
}

/** Sums of nothing. */
export const emptyTally = (): Tally => ({ draws: 0, triangles: 0, vertices: 0, instances: 0, overdraw: 0, bytes: 0 });

function addTo(t: Tally, b: Omit<Batch, 'bytes'>, bytes: number): void {
  t.draws += b.draws;
  t.triangles += b.triangles;
  t.vertices += b.vertices;
  t.instances += b.instances;
  t.overdraw += b.overdraw;
  t.bytes += bytes;
}

/** Sums of a batch list by course, by spender within each course, and of all. Shared bytes count once. */
export function tally(batches: Iterable<Batch>): {
  all: Tally;
  byCourse: Partial<Record<Course, Tally>>;
  bySpender: Map<string, { course: Course; of: string; sum: Tally }>;
} {
  const all = emptyTally();
  const byCourse: Partial<Record<Course, Tally>> = {};
  const bySpender = new Map<string, { course: Course; of: string; sum: Tally }>();
  const counted = new Set<string>();
  for (const b of batches) {
    let once = 0;
    for (const { key, bytes } of b.shared ?? []) {
      if (!counted.has(key)) once += bytes;
      counted.add(key);
    }
    const key = `${b.course}/${b.of}`;
    let mine = bySpender.get(key);
    if (!mine) bySpender.set(key, (mine = { course: b.course, of: b.of, sum: emptyTally() }));
    for (const t of [all, (byCourse[b.course] ??= emptyTally()), mine.sum]) addTo(t, b, b.bytes + once);
  }
  return { all, byCourse, bySpender };
}

/** Sums of what the target device draws of a view: the batch list and the shadow pass. */
export const viewTally = (drawables: readonly Drawable[], camera: Camera, spacing: number): ReturnType<typeof tally> =>
  tally([...batchList(drawables, camera, spacing, 1), ...shadowBatches(drawables, camera, spacing)]);
