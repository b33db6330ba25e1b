import type { Water } from '../level/objects';
import type { Mesh } from '../num/mesh';
import type { Vec3 } from '../num/vec';
import type { Terrain } from './compose';
import { flood, spillOf } from './flood';
import type { Rect } from './rect';
import { heightAt } from './sample';

/**
 * A water as it lies on the ground now. `wet` holds one byte for each sample of `rect`, row by row; its
 * surface is level, `mesh` just what of it is over the ground, its rim the exact shore.
 */
export interface WaterBody {
  id: string;
  name: string;
  hidden: boolean;
  /** metres */
  height: number;
  /** wet samples */
  rect: Rect;
  wet: Uint8Array;
  /** distance between samples, metres */
  spacing: number;
  mesh: Mesh;
  /** the shore as stretches: x and z of either end, four numbers each, metres */
  shore: Float64Array;
  /** m2 of surface, m3 of water, metres at the deepest */
  area: number;
  volume: number;
  deepest: number;
  /** where it runs out of the level; a sea is meant to */
  leak?: Vec3;
  /** where its basin would run over */
  spill?: { at: Vec3; height: number };
  /** nobody may enter it, however shallow */
  closed: boolean;
  look: NonNullable<Water['look']>;
}

export const WATER_LOOK: NonNullable<Water['look']> = { colour: '#426668', clarity: 3.5, foam: 0.5, waves: 0.5 };

/** Rows of the surface lap over each other by this much, metres, so that no light falls between them where one ends. */
const LAP = 0.02;

/** Why a water lies nowhere, in words for the person. */
export interface DryWater {
  id: string;
  message: string;
}

/** The waters of a level on its ground, and those that lie nowhere with the reason. Those taken out are in neither. */
export function waterBodies(terrain: Terrain, waters: Iterable<Water>): { bodies: WaterBody[]; dry: DryWater[] } {
  const bodies: WaterBody[] = [];
  const dry: DryWater[] = [];
  for (const water of waters) {
    if (water.out) continue;
    const body = waterBody(terrain, water);
    if (typeof body === 'string') dry.push({ id: water.id, message: body });
    else bodies.push(body);
  }
  return { bodies, dry };
}

/** Whether two lists of waters wet the same samples to the same heights. */
export function sameShores(a: readonly WaterBody[], b: readonly WaterBody[]): boolean {
  return a.length === b.length && a.every((one, i) => {
    const two = b[i];
    return one.height === two.height && one.rect.x0 === two.rect.x0 && one.rect.z0 === two.rect.z0 && one.rect.x1 === two.rect.x1 && one.rect.z1 === two.rect.z1 && one.wet.every((v, k) => v === two.wet[k]);
  });
}

/** Sample nearest to a place. */
function sampleAt({ grid }: Pick<Terrain, 'grid'>, x: number, z: number): number {
  const at = (v: number, n: number) => Math.min(n - 1, Math.max(0, Math.round(v / grid.spacing)));
  return at(z, grid.nz) * grid.nx + at(x, grid.nx);
}

/** A water on the ground, or why there is none. */
export function waterBody(terrain: Terrain, water: Water): WaterBody | string {
  const { grid, heights } = terrain;
  const { height, form } = water;
  let seeds: number[] = [];
  if (form === 'pool') {
    const seed = sampleAt(terrain, water.seed![0], water.seed![1]);
    if (heights[seed] >= height) return `the ground at its seed is ${heights[seed].toFixed(2)} m high, its water ${height.toFixed(2)} m: raise the water, or put the seed in a lower place`;
    seeds = [seed];
  } else if (form === 'sea') {
    for (let x = 0; x < grid.nx; x++) seeds.push(x, (grid.nz - 1) * grid.nx + x);
    for (let z = 0; z < grid.nz; z++) seeds.push(z * grid.nx, z * grid.nx + grid.nx - 1);
  } else {
    const range = (a: number, b: number, n: number) => [Math.max(0, Math.ceil(a / grid.spacing)), Math.min(n - 1, Math.floor(b / grid.spacing))];
    const [x0, x1] = range(water.x0!, water.x1!, grid.nx);
    const [z0, z1] = range(water.z0!, water.z1!, grid.nz);
    for (let z = z0; z <= z1; z++) for (let x = x0; x <= x1; x++) seeds.push(z * grid.nx + x);
  }
  let found = flood(terrain, seeds, height);
  if (!found) return form === 'sea' ? `the edge of the level lies above the sea at ${height.toFixed(2)} m: raise the water, or lower the edge` : `the ground lies above its water at ${height.toFixed(2)} m everywhere: raise the water`;
  if (form === 'plane') found = inside(found, seeds, grid.nx);
  const surface = surfaceOf(terrain, found.rect, found.wet, height);
  return {
    id: water.id, name: water.name, hidden: water.hidden, height, rect: found.rect, wet: found.wet, spacing: grid.spacing, ...surface, closed: water.closed ?? false, look: water.look ?? WATER_LOOK,
    ...(form === 'pool' ? { ...(found.leak ? { leak: found.leak } : {}), spill: spillOf(terrain, seeds[0]) } : {}),
  };
}

/** A plane of water ends at its rectangle, whatever lies beyond. */
function inside(found: NonNullable<ReturnType<typeof flood>>, seeds: readonly number[], nx: number): NonNullable<ReturnType<typeof flood>> {
  const [first, last] = [seeds[0], seeds[seeds.length - 1]];
  const rect = { x0: Math.max(found.rect.x0, first % nx), x1: Math.min(found.rect.x1, last % nx), z0: Math.max(found.rect.z0, Math.floor(first / nx)), z1: Math.min(found.rect.z1, Math.floor(last / nx)) };
  const [w, old] = [rect.x1 - rect.x0 + 1, found.rect.x1 - found.rect.x0 + 1];
  const wet = new Uint8Array(w * (rect.z1 - rect.z0 + 1));
  for (let z = rect.z0; z <= rect.z1; z++) {
    const from = (z - found.rect.z0) * old + rect.x0 - found.rect.x0;
    wet.set(found.wet.subarray(from, from + w), (z - rect.z0) * w);
  }
  return { rect, wet, count: wet.reduce((n, v) => n + v, 0) };
}

/**
 * The surface over the ground: each triangle of the ground that has a wet corner, cut where it rises through
 * the water. Quads that are wet all over are joined along their row, so that a wide pool is few triangles.
 */
function surfaceOf({ grid, heights }: Terrain, rect: Rect, wet: Uint8Array, height: number): Pick<WaterBody, 'mesh' | 'shore' | 'area' | 'volume' | 'deepest'> {
  const { nx, nz, spacing: s } = grid;
  const w = rect.x1 - rect.x0 + 1;
  const isWet = (x: number, z: number): boolean => x >= rect.x0 && x <= rect.x1 && z >= rect.z0 && z <= rect.z1 && wet[(z - rect.z0) * w + x - rect.x0] === 1;
  const positions: number[] = [];
  const indices: number[] = [];
  const shore: number[] = [];
  let [area, volume, deepest] = [0, 0, 0];
  const polygon = (points: readonly number[]) => {
    const at = positions.length / 3;
    for (let i = 0; i < points.length; i += 3) positions.push(points[i], height, points[i + 2]);
    for (let i = 2; i * 3 < points.length; i++) {
      indices.push(at, at + i - 1, at + i);
      const [ax, ay, az] = [points[0], points[1], points[2]];
      const [bx, by, bz, cx, cy, cz] = points.slice((i - 1) * 3, (i + 1) * 3);
      const plan = Math.abs((bx - ax) * (cz - az) - (cx - ax) * (bz - az)) / 2;
      area += plan;
      volume += (plan * (3 * height - ay - by - cy)) / 3;
    }
  };
  /** Part of a ground triangle below the water: x, height of the ground, z of its corners. */
  const triangle = (corners: readonly (readonly [number, number])[]) => {
    if (!corners.some(([x, z]) => isWet(x, z))) return;
    const points: number[] = [];
    const cut: number[] = [];
    for (let i = 0; i < 3; i++) {
      const [ax, az] = corners[i];
      const [bx, bz] = corners[(i + 1) % 3];
      const [a, b] = [heights[az * nx + ax], heights[bz * nx + bx]];
      if (a < height) points.push(ax * s, a, az * s);
      if (a < height !== b < height) {
        const t = (height - a) / (b - a);
        const p = [(ax + (bx - ax) * t) * s, height, (az + (bz - az) * t) * s];
        points.push(...p);
        cut.push(p[0], p[2]);
      }
    }
    if (points.length >= 9) polygon(points);
    if (cut.length === 4) shore.push(...cut);
  };
  for (let z = Math.max(0, rect.z0 - 1); z <= Math.min(nz - 2, rect.z1); z++) {
    let run = -1;
    for (let x = Math.max(0, rect.x0 - 1); x <= Math.min(nx - 2, rect.x1) + 1; x++) {
      const full = x <= Math.min(nx - 2, rect.x1) && isWet(x, z) && isWet(x + 1, z) && isWet(x, z + 1) && isWet(x + 1, z + 1);
      if (full) {
        if (run < 0) run = x;
        // Measured by its own two triangles; drawn with the rest of its row.
        const i = z * nx + x;
        const depths = 3 * height * 2 - 2 * heights[i] - heights[i + 1] - heights[i + nx] - 2 * heights[i + nx + 1];
        area += s * s;
        volume += (s * s * depths) / 6;
        continue;
      }
      if (run >= 0) {
        const at = positions.length / 3;
        const [north, south] = [z * s - LAP, (z + 1) * s + LAP];
        positions.push(run * s, height, north, run * s, height, south, x * s, height, south, x * s, height, north);
        indices.push(at, at + 1, at + 2, at, at + 2, at + 3);
        run = -1;
      }
      if (x > Math.min(nx - 2, rect.x1)) break;
      triangle([[x, z], [x, z + 1], [x + 1, z + 1]]);
      triangle([[x, z], [x + 1, z + 1], [x + 1, z]]);
    }
  }
  for (let z = rect.z0; z <= rect.z1; z++) for (let x = rect.x0; x <= rect.x1; x++) if (isWet(x, z)) deepest = Math.max(deepest, height - heights[z * nx + x]);
  return { mesh: { positions: Float32Array.from(positions), indices: Uint32Array.from(indices) }, shore: Float64Array.from(shore), area, volume, deepest };
}

/** Whether a place in plan lies over a wet triangle of a water. */
function over(body: WaterBody, x: number, z: number): boolean {
  const { rect, wet, spacing } = body;
  const [u, v] = [x / spacing, z / spacing];
  const [ix, iz] = [Math.floor(u), Math.floor(v)];
  const w = rect.x1 - rect.x0 + 1;
  const at = (sx: number, sz: number) => sx >= rect.x0 && sx <= rect.x1 && sz >= rect.z0 && sz <= rect.z1 && wet[(sz - rect.z0) * w + sx - rect.x0] === 1;
  return at(ix, iz) || at(ix + 1, iz + 1) || (u - ix >= v - iz ? at(ix + 1, iz) : at(ix, iz + 1));
}

/** Stretches of a line over a water's triangles, as distances along it, to half a sample. */
export function waterAlong(body: WaterBody, line: { x0: number; z0: number; dx: number; dz: number }, from: number, to: number): { from: number; to: number }[] {
  const found: { from: number; to: number }[] = [];
  const step = body.spacing / 2;
  let open: number | undefined;
  for (let s = from; s <= to + step; s += step) {
    const wet = s <= to && over(body, line.x0 + line.dx * s, line.z0 + line.dz * s);
    if (wet) open ??= s;
    else if (open !== undefined) {
      found.push({ from: open, to: s });
      open = undefined;
    }
  }
  return found;
}

/** Whether a point lies under one of the waters. */
export const underWater = (bodies: readonly WaterBody[], x: number, y: number, z: number): boolean => bodies.some((b) => y < b.height && over(b, x, z));

/** Depth of the deepest water over a place on the terrain, metres; 0 where it is dry. */
export function depthAt(terrain: Terrain, bodies: readonly WaterBody[], x: number, z: number): number {
  let depth = 0;
  for (const b of bodies) if (over(b, x, z)) depth = Math.max(depth, b.height - heightAt(terrain, x, z));
  return depth;
}

/**
 * Terrain on which a body may not stand where water is deeper than it can wade, or where it may not enter.
 *
 * @param wade metres
 */
export function barred(terrain: Terrain, bodies: readonly WaterBody[], wade: number): Terrain {
  let bars: Uint8Array | undefined;
  const { nx } = terrain.grid;
  for (const b of bodies) {
    const most = b.closed ? 0 : wade;
    const w = b.rect.x1 - b.rect.x0 + 1;
    for (let i = 0; i < b.wet.length; i++) {
      const sample = (b.rect.z0 + Math.floor(i / w)) * nx + b.rect.x0 + (i % w);
      if (b.wet[i] === 0 || b.height - terrain.heights[sample] <= most) continue;
      bars ??= new Uint8Array(terrain.heights.length);
      bars[sample] = 1;
    }
  }
  return bars ? { ...terrain, barred: bars } : terrain;
}
