import type { Terrain } from '../earth/compose';
import { heightAt, normalAt, rayTerrain, slopeAt } from '../earth/sample';
import { blocksNear, CELL, rayBlockGrid, rayBlocks, type BlockGrid, type BlockHit } from '../block/grid';
import { meshTopAt, rayMeshes, rayMeshGrid, type MeshGrid, type MeshHit, type PlacedMesh } from '../block/placedMesh';
import { namedNormal, solidSpanAt } from '../block/solid';
import type { Block } from '../level/objects';
import { slopeDeg } from '../num/trig';
import type { Vec3 } from '../num/vec';
import { groundNameAt, type GroundRaster } from './ground';
import { SLATE_FROM } from './surfaces';

export type Host = { kind: 'terrain' } | { kind: 'block' | 'piece'; id: string; name: string; face: string; /** the void that cut this face */ cut?: string };

/** What a level has beside terrain and blocks: pieces to stand on, and what the ground is made of. */
export interface More {
  meshes?: MeshGrid;
  ground?: GroundRaster;
}

/** What a point stands on. */
export interface Ground {
  host: Host;
  height: number;
  normal: Vec3;
  /** degrees */
  slope: number;
  /** name of the ground after rule and paint; `blockout` on bare blocks and pieces */
  ground: string;
}

/** How far below the asked height a host may start and still count as under the point, metres. */
const TOUCH = 0.02;

/**
 * What is under a point: the highest top of terrain, a block or a piece that is not above it.
 *
 * @param point metres; a host up to 2 cm above it still counts
 */
export function groundAt(terrain: Terrain, blocks: BlockGrid, point: Vec3, more: More = {}): Ground {
  const [x, y, z] = point;
  const h = heightAt(terrain, x, z);
  let top = h;
  let host: { block: Block; face: string } | undefined;
  for (const block of blocksNear(blocks, x, z)) {
    const span = solidSpanAt(block, x, z);
    if (span && span.top <= y + TOUCH && (span.top > top || h > y + TOUCH)) {
      top = span.top;
      host = { block, face: span.face };
    }
  }
  let piece: { mesh: PlacedMesh; normal: Vec3 } | undefined;
  for (const mesh of more.meshes?.get(`${Math.floor(x / CELL)},${Math.floor(z / CELL)}`) ?? []) {
    const hit = meshTopAt(mesh, x, z, y + TOUCH);
    if (hit && (hit.height > top || (!host && !piece && h > y + TOUCH))) {
      top = hit.height;
      piece = { mesh, normal: hit.normal };
    }
  }
  if (piece)
    return {
      host: { kind: piece.mesh.of ?? 'piece', id: piece.mesh.id, name: piece.mesh.name, face: 'top' },
      height: top,
      normal: piece.normal,
      slope: slopeOf(piece.normal),
      ground: topName(more, x, z),
    };
  if (!host) {
    const slope = slopeAt(terrain, x, z);
    return { host: { kind: 'terrain' }, height: h, normal: normalAt(terrain, x, z), slope, ground: groundName(more, x, z, slope) };
  }
  const { block, face } = host;
  const normal = namedNormal(block, face);
  return { host: { kind: 'block', id: block.id, name: block.name, face }, height: top, normal, slope: slopeOf(normal), ground: topName(more, x, z) };
}

/** How far a ray looks unless it is told, metres. */
const FAR = 20_000;

/** Where a ray looks from and to: metres, and a direction of length 1. */
export interface Ray {
  origin: Vec3;
  direction: Vec3;
  /** metres; 20 km */
  far?: number;
}

/** First ground a ray meets: what the pointer is over. */
export function groundAlong(
  terrain: Terrain,
  blocks: Iterable<Block>,
  { origin, direction, far = FAR }: Ray,
  more: More & { pieces?: Iterable<PlacedMesh> } = {},
): PointedAt | undefined {
  const t = rayTerrain(terrain, origin, direction, far);
  const hit = rayBlocks(blocks, origin, direction, t ?? far);
  const piece = more.pieces ? rayMeshes(more.pieces, origin, direction, hit?.distance ?? t ?? far) : undefined;
  return met(terrain, more, origin, direction, { t, hit, piece });
}

/** What can be met by a ray, by cells. `skip` tells the ids it goes through. */
export interface Pickable {
  blocks: BlockGrid;
  meshes: MeshGrid;
  skip?(id: string): boolean;
}

/** The same over grids: what stands beside the ray's way is not looked at. */
export function groundAlongGrid(
  terrain: Terrain,
  { blocks, meshes, skip }: Pickable,
  { origin, direction, far = FAR }: Ray,
  more: More = {},
): PointedAt | undefined {
  const t = rayTerrain(terrain, origin, direction, far);
  const hit = rayBlockGrid(blocks, origin, direction, t ?? far, skip && ((b) => skip(b.id)));
  const piece = rayMeshGrid(meshes, origin, direction, hit?.distance ?? t ?? far, skip && ((m) => skip(m.id)));
  return met(terrain, more, origin, direction, { t, hit, piece });
}

/** A place of a ray and what is there. */
export type PointedAt = Ground & { point: Vec3; distance: number };

function met(
  terrain: Terrain,
  more: More,
  origin: Vec3,
  direction: Vec3,
  { t, hit, piece }: { t?: number; hit?: BlockHit; piece?: MeshHit },
): PointedAt | undefined {
  const distance = piece?.distance ?? hit?.distance ?? t;
  if (distance === undefined) return undefined;
  const point: Vec3 = [origin[0] + direction[0] * distance, origin[1] + direction[1] * distance, origin[2] + direction[2] * distance];
  const solid = piece ?? hit;
  if (solid) {
    const host: Host = piece
      ? {
          kind: piece.mesh.of ?? 'piece',
          id: piece.mesh.id,
          name: piece.mesh.name,
          face: solid.normal[1] > 0.5 ? 'top' : 'side',
          cut: piece.mesh.cutBy?.[piece.triangle] ? piece.mesh.voids![piece.mesh.cutBy[piece.triangle] - 1] : undefined,
        }
      : { kind: 'block', id: hit!.block.id, name: hit!.block.name, face: hit!.face };
    return {
      host,
      height: point[1],
      normal: solid.normal,
      slope: slopeOf(solid.normal),
      ground: solid.normal[1] > 0.5 ? topName(more, point[0], point[2]) : 'blockout',
      point,
      distance,
    };
  }
  // The march ends within a millimetre; the point is put on the ground itself.
  point[1] = heightAt(terrain, point[0], point[2]);
  const slope = slopeAt(terrain, point[0], point[2]);
  return {
    host: { kind: 'terrain' },
    height: point[1],
    normal: normalAt(terrain, point[0], point[2]),
    slope,
    ground: groundName(more, point[0], point[2], slope),
    point,
    distance,
  };
}

const slopeOf = (n: Vec3): number => (Math.abs(n[1]) < 1e-9 ? 90 : slopeDeg(Math.sqrt(n[0] * n[0] + n[2] * n[2]) / Math.abs(n[1])));

/** Without a ground raster the default rule answers. */
const groundName = (more: More, x: number, z: number, slope: number): string =>
  more.ground ? groundNameAt(more.ground, x, z, false) : slope >= SLATE_FROM ? 'slate' : 'turf';
const topName = (more: More, x: number, z: number): string => (more.ground ? groundNameAt(more.ground, x, z, true) : 'blockout');
