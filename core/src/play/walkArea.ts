import type { NavMesh, NavMeshQuery } from 'recast-navigation';
import type { BodyFigures } from '../body/bodies';
import type { PlacedMesh } from '../block/placedMesh';
import { blockBounds } from '../block/solid';
import { OPEN, type Terrain } from '../earth/compose';
import type { Block } from '../level/objects';
import { hashBytes } from '../num/hash';
import type { Vec3 } from '../num/vec';
import { blocksIn, meshesIn, navGeometry, type PlanRect } from './navGeometry';
import { withHandles, type Recast } from './recast';

/** Cell sizes of the bake, metres. Larger levels need larger cells; the tolerance is stated with them. */
export interface BakeScale {
  cell: number;
  cellHeight: number;
  /** cells a side of a nav tile */
  tileCells: number;
  /** an opening within this many metres of the body's width may be judged either way */
  tolerance: number;
}

/** 0.1 m cells up to 320 m a side, then 0.2 m up to 640 m, then 0.4 m. */
export function bakeScale(side: number): BakeScale {
  const cell = side <= 320 ? 0.1 : side <= 640 ? 0.2 : 0.4;
  return { cell, cellHeight: cell / 2, tileCells: 160, tolerance: 2 * cell };
}

/**
 * A walk area for one body, kept up to date tile by tile. Each nav tile remembers the hash of what
 * it was baked from; `update` bakes again only where that changed.
 */
export interface WalkArea {
  readonly body: BodyFigures;
  readonly scale: BakeScale;
  readonly navMesh: NavMesh;
  readonly query: NavMeshQuery;
  /**
   * @param meshes what else stops a body: pieces and trunks
   * @param onTile called before each tile that must be baked with the share done; false stops
   * @returns number of tiles baked, or `undefined` when stopped (what was baked stays)
   */
  update(terrain: Terrain, blocks: readonly Block[], onTile?: (done: number) => boolean, meshes?: readonly PlacedMesh[]): number | undefined;
  dispose(): void;
}

const LOW = -2000;
const HIGH = 3000;

export function makeWalkArea(recast: Recast, body: BodyFigures, width: number, depth: number): WalkArea {
  const scale = bakeScale(Math.max(width, depth));
  const { cell, cellHeight, tileCells } = scale;
  const config = {
    ...recast.recastConfigDefaults,
    cs: cell,
    ch: cellHeight,
    tileSize: tileCells,
    // Erosion rounds, so the radius is rounded down and half a degree is added: see numbers of conformance.
    walkableRadius: Math.floor(body.radius / cell + 1e-9),
    walkableSlopeAngle: Math.min(89, body.maxSlope + 0.5),
    walkableClimb: Math.floor(body.step / cellHeight + 1e-9),
    walkableHeight: Math.ceil(body.height / cellHeight - 1e-9),
    minRegionArea: 4,
    mergeRegionArea: 20,
  };
  const built = recast.buildTiledNavMeshRcConfig({ recastConfig: config, navMeshBounds: [[0, LOW, 0], [width, HIGH, depth]] });
  const navMesh = new recast.NavMesh();
  const tileSide = tileCells * cell;
  navMesh.initTiled(recast.NavMeshParams.create({
    orig: { x: 0, y: LOW, z: 0 }, tileWidth: tileSide, tileHeight: tileSide, maxTiles: built.maxTiles, maxPolys: built.maxPolysPerTile,
  }));
  const query = new recast.NavMeshQuery(navMesh, { maxNodes: 16384 });
  const hashes = new Map<string, string>();
  const border = (config.walkableRadius + 3) * cell;
  const across = built.tileWidth;
  const down = built.tileHeight;

  const rectOf = (x: number, y: number): PlanRect => ({ x0: x * tileSide - border, z0: y * tileSide - border, x1: (x + 1) * tileSide + border, z1: (y + 1) * tileSide + border });

  const bakeTile = (terrain: Terrain, blocks: readonly Block[], meshes: readonly PlacedMesh[], x: number, y: number) => withHandles((keep, release) => {
    const mesh = navGeometry(terrain, blocks, rectOf(x, y), meshes);
    const vertices = keep(new recast.VerticesArray());
    vertices.copy(mesh.positions);
    const triangles = keep(new recast.TrianglesArray());
    triangles.copy(new Int32Array(mesh.indices.buffer));
    const chunky = new recast.RecastChunkyTriMesh();
    release(() => recast.Raw.Module.destroy(chunky.raw));
    // A tile wants far fewer than the 512 chunks the generator can look at.
    chunky.init(vertices, triangles, mesh.indices.length / 3, 256);
    let low = Infinity;
    let high = -Infinity;
    for (let i = 1; i < mesh.positions.length; i += 3) {
      if (mesh.positions[i] < low) low = mesh.positions[i];
      if (mesh.positions[i] > high) high = mesh.positions[i];
    }
    // Heights are snapped to a whole metre, so that a tile's voxels do not shift with its lowest point.
    const tile = { x, y, bmin: [x * tileSide, Math.floor(low) - 1, y * tileSide] as Vec3, bmax: [(x + 1) * tileSide, Math.ceil(high) + body.height + 1, (y + 1) * tileSide] as Vec3 };
    const result = recast.generateTileNavMeshData(vertices, triangles, built.config, chunky, tile, {}, false);
    if (result.success) {
      const { polyMesh, polyMeshDetail } = result.intermediates;
      if (polyMesh) release(() => recast.freePolyMesh(polyMesh));
      if (polyMeshDetail) release(() => recast.freePolyMeshDetail(polyMeshDetail));
    }
    // An empty tile succeeds without data and must still replace the old one.
    const old = navMesh.getTileRefAt(x, y, 0);
    if (old) navMesh.removeTile(old);
    if (result.success && result.data) navMesh.addTile(result.data, recast.Detour.DT_TILE_FREE_DATA, 0);
  });

  /** What stands in each tile's rectangle, in the order given: looked for once an update, not once a tile. */
  const byTile = <T>(list: readonly T[], bounds: (item: T) => { min: readonly number[]; max: readonly number[] }): T[][] => {
    const out: T[][] = Array.from({ length: across * down }, () => []);
    for (const item of list) {
      const { min, max } = bounds(item);
      const [x0, x1] = [Math.max(0, Math.floor((min[0] - border) / tileSide)), Math.min(across - 1, Math.floor((max[0] + border) / tileSide))];
      const [z0, z1] = [Math.max(0, Math.floor((min[2] - border) / tileSide)), Math.min(down - 1, Math.floor((max[2] + border) / tileSide))];
      for (let z = z0; z <= z1; z++) for (let x = x0; x <= x1; x++) out[z * across + x].push(item);
    }
    return out;
  };
  /** hashes of meshes, each of which may stand in many tiles and many updates */
  const meshHashes = new WeakMap<Float32Array, string>();
  const meshHash = ({ positions }: PlacedMesh): string => {
    let hash = meshHashes.get(positions);
    if (hash === undefined) meshHashes.set(positions, hash = hashBytes(new Uint8Array(positions.buffer, positions.byteOffset, positions.byteLength)));
    return hash;
  };

  return {
    body, scale, navMesh, query,
    update(terrain, blocks, onTile, meshes = []) {
      const dirty: [number, number, string][] = [];
      const blocksOf = byTile(blocks, blockBounds);
      const meshesOf = byTile(meshes, (m) => m);
      for (let y = 0; y < down; y++) {
        for (let x = 0; x < across; x++) {
          const hash = tileInputHash(terrain, blocksOf[y * across + x], rectOf(x, y), meshesOf[y * across + x], meshHash);
          if (hashes.get(`${x},${y}`) !== hash) dirty.push([x, y, hash]);
        }
      }
      let done = 0;
      for (const [x, y, hash] of dirty) {
        if (onTile && !onTile(done / dirty.length)) return undefined;
        bakeTile(terrain, blocksOf[y * across + x], meshesOf[y * across + x], x, y);
        hashes.set(`${x},${y}`, hash);
        done++;
      }
      return done;
    },
    dispose() {
      query.destroy();
      navMesh.destroy();
    },
  };
}

/** Hash of everything a nav tile is baked from: heights in its rectangle, and the blocks, pieces and trunks that meet it. */
export function tileInputHash(terrain: Terrain, blocks: readonly Block[], rect: PlanRect, meshes: readonly PlacedMesh[] = [], meshHash = ({ positions: p }: PlacedMesh): string => hashBytes(new Uint8Array(p.buffer, p.byteOffset, p.byteLength))): string {
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
  const near = blocksIn(blocks, rect).map((b) => [b.shape, b.size, b.at, b.turn]);
  return hashBytes(new Uint8Array(heights.buffer)) + (bars?.some((v) => v !== OPEN) ? hashBytes(new Uint8Array(bars.buffer)) : '') + (near.length ? JSON.stringify(near) : '')
    + meshesIn(meshes, rect).map(meshHash).join('');
}
