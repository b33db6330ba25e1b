import type { Route } from '../level/objects';
import type { Vec3 } from '../num/vec';

/** Distance between two stations of a route, metres, about: stations divide the whole evenly. */
export const STATION_M = 1;
/** Kinks of the long profile are rounded over this many stations either way. */
const ROUNDED = 4;
/** Points a metre at which the curve is walked to find the stations. */
const FINE_M = 0.25;

/**
 * A route's middle line, evenly divided. `x`, `y`, `z` of each station, metres; `along` the distance
 * from the first. `wanted` is the height the points ask for, `y` what the grade allows.
 */
export interface RouteLine {
  count: number;
  step: number;
  x: Float64Array;
  z: Float64Array;
  y: Float64Array;
  wanted: Float64Array;
}

/**
 * The curve through a route's points and its long profile.
 *
 * In plan a centripetal Catmull-Rom spline, which makes no loops (Yuksel, Schaefer, Keyser 2011). The
 * wanted height runs straight between points. Then, with g the grade, the mean of its envelopes
 * min over t of (y(t) + g |s - t|) and max over t of (y(t) - g |s - t|): both keep the grade, so
 * their mean does, and cut and fill about balance; where the wanted height keeps the grade nothing
 * changes. Kinks are rounded by a running mean, narrower towards the ends, which keeps it too.
 */
export function routeLine(route: Pick<Route, 'line' | 'grade'>): RouteLine {
  const fine = curve(route.line as Vec3[]);
  const lengths = new Float64Array(fine.length);
  for (let i = 1; i < fine.length; i++) lengths[i] = lengths[i - 1] + Math.sqrt((fine[i][0] - fine[i - 1][0]) ** 2 + (fine[i][2] - fine[i - 1][2]) ** 2);
  const long = lengths[fine.length - 1];
  const parts = Math.max(1, Math.ceil(long / STATION_M));
  const step = long / parts;
  const line: RouteLine = {
    count: parts + 1,
    step,
    x: new Float64Array(parts + 1),
    z: new Float64Array(parts + 1),
    y: new Float64Array(parts + 1),
    wanted: new Float64Array(parts + 1),
  };
  for (let i = 0, k = 1; i <= parts; i++) {
    const s = i === parts ? long : i * step;
    while (k < fine.length - 1 && lengths[k] < s) k++;
    const run = lengths[k] - lengths[k - 1];
    const t = run > 0 ? (s - lengths[k - 1]) / run : 0;
    line.x[i] = fine[k - 1][0] + (fine[k][0] - fine[k - 1][0]) * t;
    line.z[i] = fine[k - 1][2] + (fine[k][2] - fine[k - 1][2]) * t;
    line.wanted[i] = fine[k - 1][1] + (fine[k][1] - fine[k - 1][1]) * t;
  }
  line.y.set(rounded(graded(line.wanted, (route.grade / 100) * step)));
  return line;
}

/** Mean of the two envelopes. @param most rise between two stations, metres */
function graded(wanted: Float64Array, most: number): Float64Array {
  const upper = wanted.slice();
  const lower = wanted.slice();
  for (let i = 1; i < wanted.length; i++) {
    upper[i] = Math.min(upper[i], upper[i - 1] + most);
    lower[i] = Math.max(lower[i], lower[i - 1] - most);
  }
  for (let i = wanted.length - 2; i >= 0; i--) {
    upper[i] = Math.min(upper[i], upper[i + 1] + most);
    lower[i] = Math.max(lower[i], lower[i + 1] - most);
  }
  return upper.map((u, i) => (u + lower[i]) / 2);
}

function rounded(y: Float64Array): Float64Array {
  const n = y.length;
  return y.map((_, i) => {
    const half = Math.min(ROUNDED, i, n - 1 - i);
    let sum = 0;
    for (let k = i - half; k <= i + half; k++) sum += y[k];
    return sum / (2 * half + 1);
  });
}

/** The spline as points about FINE_M apart; heights run straight between the given points, by the way in plan. */
function curve(points: readonly Vec3[]): Vec3[] {
  const out: Vec3[] = [points[0]];
  for (let i = 0; i + 1 < points.length; i++) {
    const b = points[i];
    const c = points[i + 1];
    // Beyond either end the line goes on straight.
    const a = points[i - 1] ?? [2 * b[0] - c[0], b[1], 2 * b[2] - c[2]];
    const d = points[i + 2] ?? [2 * c[0] - b[0], c[1], 2 * c[2] - b[2]];
    const [t1, t2, t3] = [knot(a, b), knot(b, c), knot(c, d)];
    const count = Math.max(1, Math.ceil((t2 * t2) / FINE_M));
    for (let k = 1; k <= count; k++) {
      if (k === count) {
        out.push(c);
        break;
      }
      const t = t1 + (t2 * k) / count;
      const at = (axis: 0 | 2) => {
        const mix = (p: number, q: number, from: number, to: number) => (p * (to - t) + q * (t - from)) / (to - from);
        const [e1, e2, e3] = [mix(a[axis], b[axis], 0, t1), mix(b[axis], c[axis], t1, t1 + t2), mix(c[axis], d[axis], t1 + t2, t1 + t2 + t3)];
        return mix(mix(e1, e2, 0, t1 + t2), mix(e2, e3, t1, t1 + t2 + t3), t1, t1 + t2);
      };
      out.push([at(0), b[1] + (c[1] - b[1]) * (k / count), at(2)]);
    }
  }
  return out;
}

/** Square root of the distance in plan: the centripetal parametrisation. */
const knot = (p: Vec3, q: Vec3): number => Math.sqrt(Math.sqrt((q[0] - p[0]) ** 2 + (q[2] - p[2]) ** 2)) || 1e-6;
