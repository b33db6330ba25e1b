import type { Lift, Route, Water } from '../level/objects';
import type { Mesh } from '../num/mesh';
import { clamp, type Vec3 } from '../num/vec';
import { OPEN, type Terrain } from './compose';
import { flood, spillOf } from './flood';
import type { Rect } from './rect';
import { heightAt } from './sample';
import { streamCourse } from './stream';

/**
 * A water as it lies on the ground now. `wet` holds one byte for each sample of `rect`, row by row; its
 * surface is level but for a stream's, `mesh` just what of it is over the ground, its rim the exact shore.
 */
export interface WaterBody {
  id: string;
  name: string;
  hidden: boolean;
  /** metres; of a stream that at its source */
  height: number;
  /** of a stream: height of its surface at each sample of `rect`, see `surfaceOver` */
  levels?: Float32Array;
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
  /** where it runs out of the level, a stream over its banks; a sea is meant to */
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

/**
 * The waters of a level on its ground, and those that lie nowhere with the reason. Those taken out are in neither.
 *
 * @param stack the lifts the ground is composed from: streams run along its routes
 */
export function waterBodies(terrain: Terrain, waters: Iterable<Water>, stack: readonly Lift[] = []): { bodies: WaterBody[]; dry: DryWater[] } {
  const bodies: WaterBody[] = [];
  const dry: DryWater[] = [];
  for (const water of waters) {
    if (water.out) continue;
    const body = waterBody(terrain, water, stack);
    if (typeof body === 'string') dry.push({ id: water.id, message: body });
    else bodies.push(body);
  }
  return { bodies, dry };
}

/** Whether two lists of waters wet the same samples to the same heights. */
export function sameShores(a: readonly WaterBody[], b: readonly WaterBody[]): boolean {
  return a.length === b.length && a.every((one, i) => {
    const two = b[i];
    return one.height === two.height && !one.levels === !two.levels && (!one.levels || one.levels.every((v, k) => Object.is(v, two.levels![k]))) && one.rect.x0 === two.rect.x0 && one.rect.z0 === two.rect.z0 && one.rect.x1 === two.rect.x1 && one.rect.z1 === two.rect.z1 && one.wet.every((v, k) => v === two.wet[k]);
  });
}

/** Sample nearest to a place. */
function sampleAt({ grid }: Pick<Terrain, 'grid'>, x: number, z: number): number {
  const at = (v: number, n: number) => Math.min(n - 1, Math.max(0, Math.round(v / grid.spacing)));
  return at(z, grid.nz) * grid.nx + at(x, grid.nx);
}

/** A water on the ground, or why there is none. */
export function waterBody(terrain: Terrain, water: Water, stack: readonly Lift[] = []): WaterBody | string {
  const { grid, heights } = terrain;
  const { height, form } = water;
  const told = { id: water.id, name: water.name, hidden: water.hidden, spacing: grid.spacing, closed: water.closed ?? false, look: water.look ?? WATER_LOOK };
  if (form === 'stream') {
    const course = streamCourse(terrain, water, stack.find((l): l is Route => l.lift === 'route' && l.id === water.route));
    if (typeof course === 'string') return course;
    const source = course.levels.reduce((most, v, i) => (course.wet[i] && v > most ? v : most), -Infinity);
    return { ...told, ...course, height: source, ...surfaceOf(terrain, course.rect, course.wet, course.levels) };
  }
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
    ...told, height, rect: found.rect, wet: found.wet, ...surface,
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
 * the water. Quads of level water that are wet all over are joined along their row, so that a wide pool is few
 * triangles.
 *
 * @param level of the water, metres; of a stream one entry a sample of `rect`
 */
function surfaceOf({ grid, heights }: Terrain, rect: Rect, wet: Uint8Array, level: number | Float32Array): Pick<WaterBody, 'mesh' | 'shore' | 'area' | 'volume' | 'deepest'> {
  const { nx, nz, spacing: s } = grid;
  const w = rect.x1 - rect.x0 + 1;
  const inRect = (x: number, z: number) => x >= rect.x0 && x <= rect.x1 && z >= rect.z0 && z <= rect.z1;
  const isWet = (x: number, z: number): boolean => inRect(x, z) && wet[(z - rect.z0) * w + x - rect.x0] === 1;
  const levelAt = typeof level === 'number' ? () => level : (x: number, z: number) => (inRect(x, z) ? level[(z - rect.z0) * w + x - rect.x0] : NaN);
  const positions: number[] = [];
  const indices: number[] = [];
  const shore: number[] = [];
  let [area, volume, deepest] = [0, 0, 0];
  /** @param points x, height of the water, z and depth of each corner */
  const polygon = (points: readonly number[]) => {
    const at = positions.length / 3;
    for (let i = 0; i < points.length; i += 4) positions.push(points[i], points[i + 1], points[i + 2]);
    for (let i = 2; i * 4 < points.length; i++) {
      indices.push(at, at + i - 1, at + i);
      const [ax, , az, ad] = points;
      const [bx, , bz, bd, cx, , cz, cd] = points.slice((i - 1) * 4, (i + 1) * 4);
      const plan = Math.abs((bx - ax) * (cz - az) - (cx - ax) * (bz - az)) / 2;
      area += plan;
      volume += (plan * (ad + bd + cd)) / 3;
    }
  };
  /** Part of a ground triangle below the water. */
  const triangle = (corners: readonly (readonly [number, number])[]) => {
    const [one] = corners.filter(([x, z]) => isWet(x, z));
    if (!one) return;
    const points: number[] = [];
    const cut: number[] = [];
    for (let i = 0; i < 3; i++) {
      const [ax, az] = corners[i];
      const [bx, bz] = corners[(i + 1) % 3];
      // Beside a stream's course there is no level of its own: its neighbour's goes on.
      const [ha, hb] = [known(levelAt(ax, az), one), known(levelAt(bx, bz), one)];
      const [a, b] = [ha - heights[az * nx + ax], hb - heights[bz * nx + bx]];
      if (a > 0) points.push(ax * s, ha, az * s, a);
      if (a > 0 !== b > 0) {
        const t = a / (a - b);
        const [x, z] = [(ax + (bx - ax) * t) * s, (az + (bz - az) * t) * s];
        points.push(x, ha + (hb - ha) * t, z, 0);
        cut.push(x, z);
      }
    }
    if (points.length >= 12) polygon(points);
    if (cut.length === 4) shore.push(...cut);
  };
  const known = (v: number, [x, z]: readonly [number, number]) => (v === v ? v : levelAt(x, z));
  for (let z = Math.max(0, rect.z0 - 1); z <= Math.min(nz - 2, rect.z1); z++) {
    let run = -1;
    for (let x = Math.max(0, rect.x0 - 1); x <= Math.min(nx - 2, rect.x1) + 1; x++) {
      const full = typeof level === 'number' && x <= Math.min(nx - 2, rect.x1) && isWet(x, z) && isWet(x + 1, z) && isWet(x, z + 1) && isWet(x + 1, z + 1);
      if (full) {
        if (run < 0) run = x;
        // Measured by its own two triangles; drawn with the rest of its row.
        const i = z * nx + x;
        const depths = 3 * level * 2 - 2 * heights[i] - heights[i + 1] - heights[i + nx] - 2 * heights[i + nx + 1];
        area += s * s;
        volume += (s * s * depths) / 6;
        continue;
      }
      if (run >= 0) {
        const at = positions.length / 3;
        const [north, south] = [z * s - LAP, (z + 1) * s + LAP];
        const y = level as number;
        positions.push(run * s, y, north, run * s, y, south, x * s, y, south, x * s, y, north);
        indices.push(at, at + 1, at + 2, at, at + 2, at + 3);
        run = -1;
      }
      if (x > Math.min(nx - 2, rect.x1)) break;
      triangle([[x, z], [x, z + 1], [x + 1, z + 1]]);
      triangle([[x, z], [x + 1, z + 1], [x + 1, z]]);
    }
  }
  for (let z = rect.z0; z <= rect.z1; z++) for (let x = rect.x0; x <= rect.x1; x++) if (isWet(x, z)) deepest = Math.max(deepest, levelAt(x, z) - heights[z * nx + x]);
  return { mesh: { positions: Float32Array.from(positions), indices: Uint32Array.from(indices) }, shore: Float64Array.from(shore), area, volume, deepest };
}

/** Height of a water's surface over a place in plan, whether it is wet there or not: a stream's is that of the nearest sample of its course. */
export function surfaceOver(body: Pick<WaterBody, 'height' | 'levels' | 'rect' | 'spacing'>, x: number, z: number): number {
  const { levels, rect, spacing } = body;
  if (!levels) return body.height;
  const w = rect.x1 - rect.x0 + 1;
  const u = clamp(x / spacing - rect.x0, 0, w - 1);
  const v = clamp(z / spacing - rect.z0, 0, rect.z1 - rect.z0);
  const [ix, iz] = [Math.min(Math.floor(u), w - 2), Math.min(Math.floor(v), rect.z1 - rect.z0 - 1)];
  let [sum, share] = [0, 0];
  for (let k = 0; k < 4; k++) {
    const level = levels[(iz + (k >> 1)) * w + ix + (k & 1)];
    const by = (k & 1 ? u - ix : 1 - u + ix) * (k >> 1 ? v - iz : 1 - v + iz);
    if (level === level) {
      sum += level * by;
      share += by;
    }
  }
  return share > 0 ? sum / share : -Infinity;
}

/** Heights at the ends of what a surface spans. */
export function surfaceRange({ height, levels, wet }: Pick<WaterBody, 'height' | 'levels' | 'wet'>): { low: number; high: number } {
  if (!levels) return { low: height, high: height };
  let low = height;
  for (let i = 0; i < levels.length; i++) if (wet[i] && levels[i] < low) low = levels[i];
  return { low, high: height };
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

/** A stretch of a line over water, as distances along it, and the height of its surface, metres. */
export interface WaterStretch {
  from: number;
  to: number;
  height: number;
  /** of a stream: heights evenly spaced from one end to the other */
  heights?: number[];
}

/** Height of a stretch's surface at a distance along its line. */
export function stretchHeight({ from, to, height, heights }: WaterStretch, s: number): number {
  if (!heights || heights.length < 2) return height;
  const at = clamp((s - from) / (to - from), 0, 1) * (heights.length - 1);
  const i = Math.min(Math.floor(at), heights.length - 2);
  return heights[i] + (heights[i + 1] - heights[i]) * (at - i);
}

/** Stretches of a line over a water's triangles, to half a sample. */
export function waterAlong(body: WaterBody, line: { x0: number; z0: number; dx: number; dz: number }, from: number, to: number): WaterStretch[] {
  const found: WaterStretch[] = [];
  const step = body.spacing / 2;
  let open: WaterStretch | undefined;
  for (let s = from; s <= to + step; s += step) {
    const x = line.x0 + line.dx * s;
    const z = line.z0 + line.dz * s;
    const wet = s <= to && over(body, x, z);
    if (wet) open ??= { from: s, to: s, height: surfaceOver(body, x, z), ...(body.levels ? { heights: [] } : {}) };
    if (open?.heights) open.heights.push(surfaceOver(body, x, z));
    if (!wet && open) {
      found.push({ ...open, to: s });
      open = undefined;
    }
  }
  return found;
}

/** Whether a point lies under one of the waters. */
export const underWater = (bodies: readonly WaterBody[], x: number, y: number, z: number): boolean => bodies.some((b) => y < b.height && y < surfaceOver(b, x, z) && over(b, x, z));

/** Depth of the deepest water over a place on the terrain, metres; 0 where it is dry. */
export function depthAt(terrain: Terrain, bodies: readonly WaterBody[], x: number, z: number): number {
  let depth = 0;
  for (const b of bodies) if (over(b, x, z)) depth = Math.max(depth, surfaceOver(b, x, z) - heightAt(terrain, x, z));
  return depth;
}

/**
 * Terrain on which a body may not stand, nor on what stands there in the water, where water is deeper than
 * it can wade, or where it may not enter.
 *
 * @param wade metres
 */
export function barred(terrain: Terrain, bodies: readonly WaterBody[], wade: number): Terrain {
  let bars: Float32Array | undefined;
  const { nx } = terrain.grid;
  for (const b of bodies) {
    const most = b.closed ? 0 : wade;
    const w = b.rect.x1 - b.rect.x0 + 1;
    for (let i = 0; i < b.wet.length; i++) {
      const sample = (b.rect.z0 + Math.floor(i / w)) * nx + b.rect.x0 + (i % w);
      const surface = b.levels ? b.levels[i] : b.height;
      if (b.wet[i] === 0 || surface - terrain.heights[sample] <= most) continue;
      bars ??= new Float32Array(terrain.heights.length).fill(OPEN);
      bars[sample] = Math.max(bars[sample], surface - most);
    }
  }
  return bars ? { ...terrain, barred: bars } : terrain;
}
