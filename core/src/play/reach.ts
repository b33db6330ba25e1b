import type { BodyFigures } from '../body/bodies';
import { ledgeVerdict } from '../body/checks';
import { gapVerdict } from '../body/jump';
import { rayBlocks, blockGrid, type BlockGrid } from '../block/grid';
import { meshGrid, rayMeshes, type MeshGrid, type PlacedMesh } from '../block/placedMesh';
import type { Terrain } from '../earth/compose';
import { slopeAt } from '../earth/sample';
import type { Block } from '../level/objects';
import { distance, polylineLength, normalize, type Vec3 } from '../num/vec';
import { groundAt } from '../surface/groundAt';
import type { WalkArea } from './walkArea';

/** Why a way ends: in words, where, and the figures behind it. */
export interface Stop {
  code: 'no-entry' | 'no-objective' | 'entry-off' | 'objective-off' | 'slope' | 'ledge' | 'drop' | 'gap' | 'opening' | 'headroom' | 'cut-off';
  message: string;
  at?: Vec3;
  /** the object that stops the body, where it is one */
  object?: string;
}

export interface Reach {
  reached: boolean;
  /** from the entry to the objective, or as far as it goes */
  path: Vec3[];
  /** metres along the path */
  length: number;
  /** seconds at a walk and at a run */
  walkTime: number;
  runTime: number;
  stop?: Stop;
}

const NEAR = { x: 1, y: 2, z: 1 };
const nothing = (stop: Stop): Reach => ({ reached: false, path: [], length: 0, walkTime: 0, runTime: 0, stop });

/** Whether the objective can be walked to from the entry, and if not, what stops the body. */
export function findReach(area: WalkArea, terrain: Terrain, blocks: readonly Block[], entry: Vec3 | undefined, objective: Vec3 | undefined, meshes: readonly PlacedMesh[] = []): Reach {
  if (!entry) return nothing({ code: 'no-entry', message: 'there is no entry marker: set one where the player comes in' });
  if (!objective) return nothing({ code: 'no-objective', message: 'there is no objective marker: set one where the player must get to' });
  const { query, body } = area;
  const world: World = { terrain, grid: blockGrid(blocks), blocks, meshes, more: { meshes: meshGrid(meshes) } };
  const start = query.findNearestPoly(v(entry), { halfExtents: NEAR });
  const end = query.findNearestPoly(v(objective), { halfExtents: NEAR });
  if (!start.success || !start.nearestRef) return nothing({ code: 'entry-off', message: 'the entry does not stand on walkable ground', at: entry });
  if (!end.success || !end.nearestRef) return nothing({ code: 'objective-off', message: 'the objective does not stand on walkable ground', at: objective });
  const corridor = query.findPath(start.nearestRef, end.nearestRef, start.nearestPoint, end.nearestPoint, { maxPathPolys: 4096 });
  const polys = corridor.polys.size;
  const last = polys > 0 ? corridor.polys.get(polys - 1) : 0;
  const reached = last === end.nearestRef;
  // A partial corridor ends in the polygon nearest the objective: go to the closest point of it.
  const goal = reached || !last ? end.nearestPoint : query.closestPointOnPoly(last, end.nearestPoint).closestPoint;
  const straight = query.findStraightPath(start.nearestPoint, goal, corridor.polys, { maxStraightPathPoints: 2048 });
  const path: Vec3[] = [];
  for (let i = 0; i < straight.straightPathCount; i++) path.push([straight.straightPath.get(i * 3), straight.straightPath.get(i * 3 + 1), straight.straightPath.get(i * 3 + 2)]);
  corridor.polys.destroy();
  straight.straightPath.destroy();
  straight.straightPathFlags.destroy();
  straight.straightPathRefs.destroy();
  const onGround = path.map(([x, y, z]): Vec3 => [x, groundAt(terrain, world.grid, [x, y + 0.3, z], world.more).height, z]);
  const length = polylineLength(onGround);
  const result: Reach = { reached, path: onGround, length, walkTime: length / body.walk, runTime: length / body.run };
  if (!reached) result.stop = explainStop(body, terrain, blocks, onGround[onGround.length - 1] ?? entry, objective, meshes);
  return result;
}

/**
 * Looks from where a way ends towards the objective for the first thing the body cannot pass.
 *
 * Probes in 0.1 m steps to 6 m, fanning out to 60 degrees either side, and takes the nearest cause
 * on the straightest line.
 */
export function explainStop(body: BodyFigures, terrain: Terrain, blocks: readonly Block[], from: Vec3, towards: Vec3, meshes: readonly PlacedMesh[] = []): Stop {
  const world: World = { terrain, grid: blockGrid(blocks), blocks, meshes, more: { meshes: meshGrid(meshes) } };
  const flat = normalize([towards[0] - from[0], 0, towards[2] - from[2]]);
  for (const turn of [0, 0.5, -0.5, 1, -1]) {
    const d: Vec3 = normalize([flat[0] - flat[2] * turn, 0, flat[2] + flat[0] * turn]);
    const stop = probe(body, world, from, d);
    if (stop) return stop;
  }
  return { code: 'cut-off', message: `the way ends ${distance(from, towards).toFixed(1)} m short of the objective`, at: from };
}

/** What a probe looks at. */
interface World {
  terrain: Terrain;
  grid: BlockGrid;
  blocks: readonly Block[];
  meshes: readonly PlacedMesh[];
  more: { meshes: MeshGrid };
}

/** First block, piece or trunk a ray meets, with the name and the height of what it belongs to. */
function firstSolid({ blocks, meshes }: World, origin: Vec3, direction: Vec3, far: number): { id: string; name: string; top: number; distance: number; normal: Vec3 } | undefined {
  const block = rayBlocks(blocks, origin, direction, far);
  const mesh = rayMeshes(meshes, origin, direction, block?.distance ?? far);
  if (mesh) return { id: mesh.mesh.id, name: mesh.mesh.name, top: mesh.mesh.max[1], distance: mesh.distance, normal: mesh.normal };
  return block && { id: block.block.id, name: block.block.name, top: block.block.at[1] + block.block.size[1], distance: block.distance, normal: block.normal };
}

function probe(body: BodyFigures, world: World, from: Vec3, d: Vec3): Stop | undefined {
  const { terrain, grid, more } = world;
  let before = from;
  for (let s = 0.1; s <= 6; s += 0.1) {
    const x = from[0] + d[0] * s;
    const z = from[2] + d[2] * s;
    if (x < 0 || z < 0 || x > terrain.grid.width || z > terrain.grid.depth) return { code: 'cut-off', message: 'the way ends at the rim of the level', at: before };
    const at: Vec3 = [x, before[1], z];
    const opening = narrowOpening(body, world, at, d);
    if (opening) return opening;
    const wall = firstSolid(world, [before[0], before[1] + body.step + 0.05, before[2]], d, 0.12 + body.radius);
    if (wall && Math.abs(wall.normal[1]) < 0.5) {
      const rise = wall.top - before[1];
      return { code: 'ledge', message: `${wall.name}: a ${rise.toFixed(2)} m ${ledgeVerdict(body, rise)} (step ${body.step.toFixed(2)} m)`, at: before, object: wall.id };
    }
    const ground = groundAt(terrain, grid, [x, before[1] + body.height, z], more);
    const over = firstSolid(world, [x, ground.height + 0.05, z], [0, 1, 0], body.height);
    if (over) return { code: 'headroom', message: `${over.name}: ${(over.distance + 0.05).toFixed(2)} m of headroom, ${body.height.toFixed(2)} m needed`, at: [x, ground.height, z], object: over.id };
    if (ground.host.kind === 'terrain') {
      const slope = slopeAt(terrain, x, z);
      if (slope > body.maxSlope) return { code: 'slope', message: `ground too steep: ${slope.toFixed(0)} degrees (limit ${body.maxSlope})`, at: [x, ground.height, z] };
    }
    const rise = ground.height - before[1];
    if (rise > body.step) {
      const what = ground.host.kind === 'terrain' ? 'the ground' : ground.host.name;
      return { code: 'ledge', message: `${what}: a ${rise.toFixed(2)} m ${ledgeVerdict(body, rise)} (step ${body.step.toFixed(2)} m)`, at: before, object: ground.host.kind === 'terrain' ? undefined : ground.host.id };
    }
    if (rise < -body.step) return dropOrGap(body, world, before, d, -rise);
    before = [x, ground.height, z];
  }
  return undefined;
}

/** A drop; where ground as high follows within a jump's length, a gap with its verdict. */
function dropOrGap(body: BodyFigures, { terrain, grid, more }: World, edge: Vec3, d: Vec3, drop: number): Stop {
  for (let w = 0.3; w <= 12; w += 0.1) {
    const x = edge[0] + d[0] * w;
    const z = edge[2] + d[2] * w;
    const landing = groundAt(terrain, grid, [x, edge[1] + body.jumpApex, z], more).height - edge[1];
    if (landing > -body.step) return { code: 'gap', message: `a gap ${w.toFixed(1)} m wide (${gapVerdict(body, w, landing)} to jump, landing ${landing.toFixed(1)} m up)`, at: edge };
  }
  return { code: 'drop', message: `a drop of ${drop.toFixed(1)} m (step ${body.step.toFixed(2)} m)`, at: edge };
}

/** An opening between two blocks or pieces, across the way at `at`, narrower than the body needs. */
function narrowOpening(body: BodyFigures, world: World, at: Vec3, d: Vec3): Stop | undefined {
  const chest: Vec3 = [at[0], at[1] + body.height * 0.6, at[2]];
  const need = 2 * body.radius + 0.1;
  const left = firstSolid(world, chest, [d[2], 0, -d[0]], need);
  const right = firstSolid(world, chest, [-d[2], 0, d[0]], need);
  if (!left || !right || left.distance + right.distance >= need) return undefined;
  const width = left.distance + right.distance;
  const names = left.id === right.id ? left.name : `${left.name} and ${right.name}`;
  return { code: 'opening', message: `${names}: an opening ${width.toFixed(2)} m wide, ${need.toFixed(2)} m needed`, at, object: left.id };
}

const v = (p: Vec3) => ({ x: p[0], y: p[1], z: p[2] });
