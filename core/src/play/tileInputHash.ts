import { OPEN, type Terrain } from '../earth/compose';
import type { PlacedMesh } from '../block/placedMesh';
import type { Block } from '../level/objects';
import { hashBytes } from '../num/hash';
import type { PlanRect } from './solidsNear';

/** hashes of meshes, each of which may stand in many tiles and many updates */
const meshHashes = new WeakMap<PlacedMesh['positions'], string>();
const bytesOf = (a: ArrayBufferView): Uint8Array => new Uint8Array(a.buffer, a.byteOffset, a.byteLength);

/** Corners and triangles: the same corners joined otherwise are another solid. */
function meshHash({ positions, indices }: PlacedMesh): string {
  let hash = meshHashes.get(positions);
  if (hash === undefined) meshHashes.set(positions, (hash = hashBytes(bytesOf(positions)) + hashBytes(bytesOf(indices))));
  return hash;
}

/** Hash of everything a nav tile is baked from: heights in its rectangle, and the blocks, pieces and trunks that meet it. */
export function tileInputHash(terrain: Terrain, blocks: readonly Block[], rect: PlanRect, meshes: readonly PlacedMesh[]): string {
  const { nx, nz, spacing } = terrain.grid;
  const x0 = Math.max(0, Math.floor(rect.x0 / spacing));
  const x1 = Math.min(nx - 1, Math.ceil(rect.x1 / spacing));
  const z0 = Math.max(0, Math.floor(rect.z0 / spacing));
  const z1 = Math.min(nz - 1, Math.ceil(rect.z1 / spacing));
  const w = x1 - x0 + 1;
  const heights = new Float32Array(Math.max(0, w * (z1 - z0 + 1)));
  for (let z = z0; z <= z1; z++) heights.set(terrain.heights.subarray(z * nx + x0, z * nx + x1 + 1), (z - z0) * w);
  const bars = terrain.barred && new Float32Array(heights.length);
  if (bars) for (let z = z0; z <= z1; z++) bars.set(terrain.barred!.subarray(z * nx + x0, z * nx + x1 + 1), (z - z0) * w);
  const near = blocks.map((b) => [b.shape, b.size, b.at, b.turn, b.tilt]);
  return (
    hashBytes(new Uint8Array(heights.buffer)) +
    (bars?.some((v) => v !== OPEN) ? hashBytes(new Uint8Array(bars.buffer)) : '') +
    (near.length ? JSON.stringify(near) : '') +
    meshes.map(meshHash).join('')
  );
}
