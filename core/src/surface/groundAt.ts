import type { Terrain } from '../earth/compose';
import { heightAt, normalAt, rayTerrain, slopeAt } from '../earth/sample';
import { blocksNear, rayBlocks, type BlockGrid } from '../block/grid';
import { blockSolid, faceNormal, solidSpanAt } from '../block/solid';
import type { Block } from '../level/objects';
import { slopeDeg } from '../num/trig';
import type { Vec3 } from '../num/vec';

export type Host = { kind: 'terrain' } | { kind: 'block'; id: string; name: string; face: string };

/** What a point stands on. */
export interface Ground {
  host: Host;
  height: number;
  normal: Vec3;
  /** degrees */
  slope: number;
  /** name of the ground; the slope rule until surfaces can be painted */
  ground: string;
}

/** How far below the asked height a host may start and still count as under the point, metres. */
const TOUCH = 0.02;

/**
 * What is under a point: the highest top of terrain or a block that is not above it.
 *
 * @param point metres; a host up to 2 cm above it still counts
 */
export function groundAt(terrain: Terrain, blocks: BlockGrid, point: Vec3): Ground {
  const [x, y, z] = point;
  const h = heightAt(terrain, x, z);
  let top = h;
  let host: Block | undefined;
  for (const block of blocksNear(blocks, x, z)) {
    const span = solidSpanAt(block, x, z);
    if (span && span.top <= y + TOUCH && (span.top > top || h > y + TOUCH)) {
      top = span.top;
      host = block;
    }
  }
  if (!host) {
    const slope = slopeAt(terrain, x, z);
    return { host: { kind: 'terrain' }, height: h, normal: normalAt(terrain, x, z), slope, ground: groundName(slope) };
  }
  const solid = blockSolid(host);
  const normal = faceNormal(solid, solid.faces.find((f) => f.name === 'top')!);
  return { host: { kind: 'block', id: host.id, name: host.name, face: 'top' }, height: top, normal, slope: slopeOf(normal), ground: 'blockout' };
}

/** First ground a ray meets: what the pointer is over. */
export function groundAlong(terrain: Terrain, blocks: Iterable<Block>, origin: Vec3, direction: Vec3, far = 20_000): (Ground & { point: Vec3; distance: number }) | undefined {
  const t = rayTerrain(terrain, origin, direction, far);
  const hit = rayBlocks(blocks, origin, direction, t ?? far);
  const distance = hit ? hit.distance : t;
  if (distance === undefined) return undefined;
  const point: Vec3 = [origin[0] + direction[0] * distance, origin[1] + direction[1] * distance, origin[2] + direction[2] * distance];
  if (hit) {
    return { host: { kind: 'block', id: hit.block.id, name: hit.block.name, face: hit.face }, height: point[1], normal: hit.normal, slope: slopeOf(hit.normal), ground: 'blockout', point, distance };
  }
  // The march ends within a millimetre; the point is put on the ground itself.
  point[1] = heightAt(terrain, point[0], point[2]);
  const slope = slopeAt(terrain, point[0], point[2]);
  return { host: { kind: 'terrain' }, height: point[1], normal: normalAt(terrain, point[0], point[2]), slope, ground: groundName(slope), point, distance };
}

const slopeOf = (n: Vec3): number => (Math.abs(n[1]) < 1e-9 ? 90 : slopeDeg(Math.sqrt(n[0] * n[0] + n[2] * n[2]) / Math.abs(n[1])));

/** Steepness at which turf gives way to slate, degrees; the drawn ground uses the same. */
export const SLATE_FROM = 32;
const groundName = (slope: number): string => (slope >= SLATE_FROM ? 'slate' : 'turf');
