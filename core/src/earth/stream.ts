import type { Route, Water } from '../level/objects';
import { tanDeg } from '../num/trig';
import type { Vec3 } from '../num/vec';
import type { Terrain } from './compose';
import { EDGES } from './flood';
import { routePlan } from './lifts/route';
import { lookedAt, type Looked } from './looked';
import { grownRect, rectAround, type Rect } from './rect';
import { routeLine, type RouteLine } from './routeLine';
import { nearestStretch, noNear, stretchesOf } from './stretches';

/** Where a stream runs: wet samples of a rectangle, and the height of its water at each, metres. */
export interface Course {
  rect: Rect;
  wet: Uint8Array;
  levels: Float32Array;
  /** of the first wet sample over which it leaves its banks */
  leak?: Vec3;
}

/** Bits of ground lower than the water: that it is so, at the end of what it may reach, beside the bed and lower than it. */
const LOW = 1;
const FAR = 2;
const OFF = 4;
/** Beside its bed the ground may lie lower than it by so much, metres, and still be filled. */
const EVEN = 0.1;

/**
 * Heights of a stream's water along its bed: `depth` over the bed, and never higher than upstream. It runs
 * from the higher end to the lower one.
 *
 * @returns one entry a station of the line
 */
export function streamLevels(line: RouteLine, sunk: number, depth: number): Float64Array {
  const { count, y } = line;
  const levels = Float64Array.from(y, (v) => v - sunk + depth);
  const down = y[0] >= y[count - 1];
  for (let k = 1; k < count; k++) {
    const i = down ? k : count - 1 - k;
    levels[i] = Math.min(levels[i], levels[down ? i - 1 : i + 1]);
  }
  return levels;
}

/**
 * The course of a stream along a route: level across its way, as wide as its banks let it be. Where it has
 * no bank, or one that lies lower than the water, it ends beside its bed, which is told as a leak.
 *
 * @param looked takes on where heights are looked at, by this and by who cuts its shore
 * @returns why there is none, where nothing is wet
 */
export function streamCourse({ grid, heights }: Terrain, water: Water, route: Route | undefined, looked?: Looked): Course | string {
  if (!route) return 'its route is not there any more: choose another one';
  if (!route.visible || route.weight === 0) return `its route ${route.name} is hidden: show it, or choose another one`;
  const line = routeLine(route);
  const along = streamLevels(line, route.sunk ?? 0, water.height);
  const reach = route.width / 2 + route.shoulder + water.height / Math.max(tanDeg(route.batter), 0.05) + 2 * grid.spacing;
  const plan = routePlan(route);
  const rect = rectAround(plan, reach, grid);
  if (!rect) return `its route ${route.name} lies outside the level`;
  if (looked) lookedAt(looked, grownRect(rect, 1, grid));
  // One sample more than can be wet: a shore is cut with its neighbour's level.
  const stretches = stretchesOf(plan, false, reach + 3 * grid.spacing);
  const w = rect.x1 - rect.x0 + 1;
  const low = new Uint8Array(w * (rect.z1 - rect.z0 + 1));
  const levels = new Float32Array(low.length).fill(NaN);
  const near = noNear();
  const bed: number[] = [];
  for (let z = rect.z0, i = 0; z <= rect.z1; z++) {
    for (let x = rect.x0; x <= rect.x1; x++, i++) {
      const { id, t, distance } = nearestStretch(stretches, x * grid.spacing, z * grid.spacing, near);
      if (id < 0) continue;
      levels[i] = along[id] + (along[id + 1] - along[id]) * t;
      if (distance > reach || heights[z * grid.nx + x] >= levels[i]) continue;
      const within = route.width / 2 + route.shoulder;
      low[i] = LOW | (distance > reach - grid.spacing ? FAR : 0) | (distance > within && heights[z * grid.nx + x] < levels[i] - water.height - EVEN ? OFF : 0);
      if (distance <= Math.max(route.width / 2, grid.spacing)) bed.push(i);
    }
  }
  // Held all around it fills what is low beside its bed as well; else it ends there.
  let ran = runFrom(bed, low, w, true);
  if (ran.far >= 0) ran = runFrom(bed, low, w, false);
  const { wet, far } = ran;
  const leak: Vec3 | undefined = far < 0 ? undefined : [(rect.x0 + (far % w)) * grid.spacing, levels[far], (rect.z0 + Math.floor(far / w)) * grid.spacing];
  if (bed.length === 0) return `its bed along ${route.name} lies above its water: sink the route, or make the stream deeper`;
  return { rect, wet, levels, ...(leak ? { leak } : {}) };
}

/**
 * What hangs together with the bed: low ground behind a bank stays dry.
 *
 * @param low bits LOW, FAR and OFF
 * @param fills whether what is OFF is filled
 * @returns 1 where it is wet, and the first sample at which it leaves its banks, -1 where it does not
 */
function runFrom(bed: readonly number[], low: Uint8Array, w: number, fills: boolean): { wet: Uint8Array; far: number } {
  const wet = new Uint8Array(low.length);
  const queue: number[] = [];
  let far = -1;
  const take = (i: number): void => {
    const off = (low[i] & OFF) !== 0 && !fills;
    if ((off || (low[i] & FAR) !== 0) && (far < 0 || i < far)) far = i;
    if (off) return;
    wet[i] = 1;
    queue.push(i);
  };
  for (const i of bed) if (wet[i] === 0) take(i);
  while (queue.length > 0) {
    const i = queue.pop()!;
    const x = i % w;
    for (const [dx, dz] of EDGES) {
      const at = i + dz * w + dx;
      if (x + dx < 0 || x + dx >= w || at < 0 || at >= wet.length || low[at] === 0 || wet[at] === 1) continue;
      take(at);
    }
  }
  return { wet, far };
}
