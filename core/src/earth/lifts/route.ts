import type { Route } from '../../level/objects';
import type { Point2 } from '../../num/outline';
import { tanDeg } from '../../num/trig';
import { clamp, smoothstep } from '../../num/vec';
import type { Grid } from '../../level/tiles';
import { rectAround, type Rect } from '../rect';
import { routeLine, type RouteLine } from '../routeLine';
import { nearestStretch, noNear, stretchesOf } from '../stretches';
import { BATTER_REACH, battered } from './batter';
import type { PassMaker } from './pass';

/** Shoulders fall outwards by this much, metres a metre. */
export const SHOULDER_FALL = 0.04;

/** Over so much beside the way its ground runs out where it has no shoulders, metres. */
const FRAYED = 0.6;

/** Where a route carries its ground: shares of samples, 1 on the way, running out over its shoulders. */
export interface RouteCover {
  ground: string;
  rect: Rect;
  /** @param x, z a place, metres */
  share(x: number, z: number): number;
}

const covers = new WeakMap<Route, RouteCover>();

/** The ground a route carries in a level; `undefined` where it carries none, is hidden, or lies outside. */
export function routeCover(lift: Route, grid: Grid): RouteCover | undefined {
  if (!lift.ground || !lift.visible) return undefined;
  const known = covers.get(lift);
  if (known) return known;
  const plan = routePlan(lift);
  const half = lift.width / 2;
  const edge = half + Math.max(lift.shoulder, FRAYED);
  const rect = rectAround(plan, edge, grid);
  if (!rect) return undefined;
  const stretches = stretchesOf(plan, false, edge);
  const near = noNear();
  const cover: RouteCover = {
    ground: lift.ground,
    rect,
    share(x, z) {
      const { id, distance } = nearestStretch(stretches, x, z, near);
      return id < 0 ? 0 : 1 - smoothstep(half, edge, distance);
    },
  };
  covers.set(lift, cover);
  return cover;
}

/** The middle line of a route in plan. */
export const routePlan = (lift: Route): Point2[] => planOf(routeLine(lift));

const planOf = (line: RouteLine): Point2[] => Array.from({ length: line.count }, (_, i): Point2 => [line.x[i], line.z[i]]);

/** A way along a curve: level across but for its crossfall, shoulders, and earth cut or heaped at the batter beyond. */
export const routePass: PassMaker<Route> = (lift, { grid }) => {
  const line = routeLine(lift);
  const plan = planOf(line);
  const half = lift.width / 2;
  const edge = half + lift.shoulder;
  const rect = rectAround(plan, edge + BATTER_REACH, grid);
  if (!rect) return undefined;
  const stretches = stretchesOf(plan, false, edge + BATTER_REACH);
  const rise = tanDeg(lift.batter);
  const fall = lift.crossfall / 100;
  const { sunk = 0 } = lift;
  const near = noNear();
  return {
    blend: 'replace',
    rect,
    write(window, part, out) {
      for (let z = part.z0; z <= part.z1; z++) {
        let i = (z - window.z0) * window.w + part.x0 - window.x0;
        for (let x = part.x0; x <= part.x1; x++, i++) {
          const { id, t, distance, side } = nearestStretch(stretches, x * grid.spacing, z * grid.spacing, near);
          if (id < 0) {
            out[i] = NaN;
            continue;
          }
          const middle = line.y[id] + (line.y[id + 1] - line.y[id]) * t - sunk;
          const way = middle - fall * side * Math.min(distance, half) - SHOULDER_FALL * clamp(distance - half, 0, lift.shoulder);
          out[i] = distance <= edge ? way : battered(window.heights[i], way, distance - edge, rise);
        }
      }
    },
  };
};
