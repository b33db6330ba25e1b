import type { Lift, Route, Water } from '../level/objects';
import { clamp, type Vec3 } from '../num/vec';
import { OPEN, type Terrain } from './compose';
import { flood, spillsOf, type Spill } from './flood';
import { lookedAt, type Looked } from './looked';
import type { Rect } from './rect';
import { heightAt } from './sample';
import { streamCourse } from './stream';
import { surfaceOf, type WaterSurface } from './waterSurface';

/**
 * A water as it lies on the ground now. `wet` holds one byte for each sample of `rect`, row by row; its
 * surface is level but for a stream's.
 */
export interface WaterBody extends WaterSurface {
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
  /** where it runs out of the level, a stream over its banks; a sea is meant to */
  leak?: Vec3;
  /** of a pool: where its basin runs over as it rises, first into basins beside it, last out of the level */
  spills?: Spill[];
  /** nobody may enter it, however shallow */
  closed: boolean;
  look: NonNullable<Water['look']>;
}

export const WATER_LOOK: NonNullable<Water['look']> = { colour: '#426668', clarity: 3.5, foam: 0.5, waves: 0.5 };

/** Whether two lists of waters wet the same samples to the same heights. */
export function sameShores(a: readonly WaterBody[], b: readonly WaterBody[]): boolean {
  return (
    a.length === b.length &&
    a.every((one, i) => {
      const two = b[i];
      return (
        one.height === two.height &&
        !one.levels === !two.levels &&
        (!one.levels || one.levels.every((v, k) => Object.is(v, two.levels![k]))) &&
        one.rect.x0 === two.rect.x0 &&
        one.rect.z0 === two.rect.z0 &&
        one.rect.x1 === two.rect.x1 &&
        one.rect.z1 === two.rect.z1 &&
        one.wet.every((v, k) => v === two.wet[k])
      );
    })
  );
}

/** Sample nearest to a place. */
function sampleAt({ grid }: Pick<Terrain, 'grid'>, x: number, z: number): number {
  const at = (v: number, n: number) => Math.min(n - 1, Math.max(0, Math.round(v / grid.spacing)));
  return at(z, grid.nz) * grid.nx + at(x, grid.nx);
}

/**
 * A water on the ground, or why there is none.
 *
 * @param stack the lifts the ground is composed from: streams run along its routes
 * @param looked takes on where heights were looked at
 */
export function waterBody(terrain: Terrain, water: Water, stack: readonly Lift[] = [], looked?: Looked): WaterBody | string {
  const { grid, heights } = terrain;
  const { height, form } = water;
  const told = { id: water.id, name: water.name, hidden: water.hidden, spacing: grid.spacing, closed: water.closed ?? false, look: water.look ?? WATER_LOOK };
  if (form === 'stream') {
    const course = streamCourse(
      terrain,
      water,
      stack.find((l): l is Route => l.lift === 'route' && l.id === water.route),
      looked,
    );
    if (typeof course === 'string') return course;
    const source = course.levels.reduce((most, v, i) => (course.wet[i] && v > most ? v : most), -Infinity);
    return { ...told, ...course, height: source, ...surfaceOf(terrain, course.rect, course.wet, course.levels) };
  }
  let seeds: number[] = [];
  if (form === 'pool') {
    const seed = sampleAt(terrain, water.seed![0], water.seed![1]);
    if (looked) lookedAt(looked, { x0: seed % grid.nx, x1: seed % grid.nx, z0: Math.floor(seed / grid.nx), z1: Math.floor(seed / grid.nx) });
    if (heights[seed] >= height)
      return (
        `the ground at its seed is ${heights[seed].toFixed(2)} m high, its ` + `water ${height.toFixed(2)} m: raise the water, or put the seed in a lower place`
      );
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
  let found = flood(terrain, seeds, height, looked);
  if (!found)
    return form === 'sea'
      ? `the edge of the level lies above the sea at ${height.toFixed(2)} m: raise the water, or lower the edge`
      : `the ground lies above its water at ${height.toFixed(2)} m everywhere: raise the water`;
  if (form === 'plane') found = inside(found, seeds, grid.nx);
  const surface = surfaceOf(terrain, found.rect, found.wet, height);
  return {
    ...told,
    height,
    rect: found.rect,
    wet: found.wet,
    ...surface,
    ...(form === 'pool' ? { ...(found.leak ? { leak: found.leak } : {}), spills: spillsOf(terrain, seeds[0], looked) } : {}),
  };
}

/** A plane of water ends at its rectangle, whatever lies beyond. */
function inside(found: NonNullable<ReturnType<typeof flood>>, seeds: readonly number[], nx: number): NonNullable<ReturnType<typeof flood>> {
  const [first, last] = [seeds[0], seeds[seeds.length - 1]];
  const rect = {
    x0: Math.max(found.rect.x0, first % nx),
    x1: Math.min(found.rect.x1, last % nx),
    z0: Math.max(found.rect.z0, Math.floor(first / nx)),
    z1: Math.min(found.rect.z1, Math.floor(last / nx)),
  };
  const [w, old] = [rect.x1 - rect.x0 + 1, found.rect.x1 - found.rect.x0 + 1];
  const wet = new Uint8Array(w * (rect.z1 - rect.z0 + 1));
  for (let z = rect.z0; z <= rect.z1; z++) {
    const from = (z - found.rect.z0) * old + rect.x0 - found.rect.x0;
    wet.set(found.wet.subarray(from, from + w), (z - rect.z0) * w);
  }
  return { rect, wet, count: wet.reduce((n, v) => n + v, 0) };
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
export const underWater = (bodies: readonly WaterBody[], x: number, y: number, z: number): boolean =>
  bodies.some((b) => y < b.height && y < surfaceOver(b, x, z) && over(b, x, z));

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
export function barred(terrain: Terrain, bodies: readonly Pick<WaterBody, 'rect' | 'wet' | 'height' | 'levels' | 'closed'>[], wade: number): Terrain {
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
