import type { Grid } from '../../level/tiles';
import { hashUnit } from '../../num/hash';

export interface HydraulicSettings {
  droplets: number;
  seed: number;
  /** how straight a drop runs on, 0 to 1 */
  inertia: number;
  /** earth a drop can carry, times its speed, water and fall */
  capacity: number;
  /** share of what it still could carry that it takes in a step */
  scour: number;
  /** share of what it carries too much that it drops in a step */
  settle: number;
  /** share of its water that is gone after a step */
  dries: number;
  /** metres around it that a drop scours */
  radius: number;
}

export const HYDRAULIC_DEFAULTS: Readonly<HydraulicSettings> = Object.freeze({
  droplets: 60_000,
  seed: 1,
  inertia: 0.06,
  capacity: 4,
  scour: 0.3,
  settle: 0.3,
  dries: 0.02,
  radius: 1.5,
});

/** Steps after which a drop is lost whatever it carries; what it carries stays where it is. */
const LIFETIME = 80;
const GRAVITY = 4;
const LEAST_CAPACITY = 0.01;

/** What weathering leaves beside the heights, per sample: metres scoured away, metres settled, water that passed. */
export interface WeatherMarks {
  scour: Float32Array;
  settle: Float32Array;
  runoff: Float32Array;
}

/** What the drops run on. */
interface Weathered {
  heights: Float64Array;
  share: Float32Array;
  marks: WeatherMarks;
  nx: number;
  nz: number;
}

/**
 * Hydraulic weathering in place by droplets: each runs downhill from a seeded place, takes earth where it could
 * carry more and drops it where it carries too much (after Hans Theobald Beyer 2015). Every grain taken is
 * dropped again inside the area: what a drop still carries at its end stays there, so that the mass is kept.
 *
 * One drop after the other, by its number: the same seed gives the same ground everywhere.
 *
 * @param heights metres, row by row; changed
 * @param area `share`, 0 to 1 a sample: how far it is scoured; a drop ends where it is 0. `marks`: what was done where
 * @param onDrops called every thousand drops with the share done; false stops
 * @returns whether it went to the end
 */
export function hydraulic(
  heights: Float64Array,
  { nx, nz, spacing }: Pick<Grid, 'nx' | 'nz' | 'spacing'>,
  settings: HydraulicSettings,
  { share, marks }: { share: Float32Array; marks: WeatherMarks },
  onDrops?: (done: number) => boolean,
): boolean {
  const starts: number[] = [];
  for (let z = 1; z < nz - 1; z++) for (let x = 1; x < nx - 1; x++) if (share[z * nx + x] > 0) starts.push(z * nx + x);
  if (starts.length === 0) return true;
  const brush = brushOf(Math.max(1, settings.radius / spacing));
  const on: Weathered = { heights, share, marks, nx, nz };
  for (let drop = 0; drop < settings.droplets; drop++) {
    if (drop % 1000 === 999 && onDrops && !onDrops((drop + 1) / settings.droplets)) return false;
    const start = starts[Math.floor(hashUnit(settings.seed, drop, 0) * starts.length)];
    let x = (start % nx) + hashUnit(settings.seed, drop, 1) - 0.5;
    let z = Math.floor(start / nx) + hashUnit(settings.seed, drop, 2) - 0.5;
    x = Math.min(nx - 2.001, Math.max(0, x));
    z = Math.min(nz - 2.001, Math.max(0, z));
    let dx = 0;
    let dz = 0;
    let speed = 1;
    let water = 1;
    let carried = 0;
    for (let life = 0; life < LIFETIME; life++) {
      const ix = Math.floor(x);
      const iz = Math.floor(z);
      const u = x - ix;
      const v = z - iz;
      const at = iz * nx + ix;
      const a = heights[at];
      const b = heights[at + 1];
      const c = heights[at + nx];
      const d = heights[at + nx + 1];
      const gx = (b - a) * (1 - v) + (d - c) * v;
      const gz = (c - a) * (1 - u) + (d - b) * u;
      const h = a * (1 - u) * (1 - v) + b * u * (1 - v) + c * (1 - u) * v + d * u * v;
      marks.runoff[at] += water;
      dx = dx * settings.inertia - gx * (1 - settings.inertia);
      dz = dz * settings.inertia - gz * (1 - settings.inertia);
      const l = Math.sqrt(dx * dx + dz * dz);
      if (l < 1e-9) break;
      dx /= l;
      dz /= l;
      const px = x + dx;
      const pz = z + dz;
      // At the rim of the level or of the area the drop ends.
      if (px < 1 || pz < 1 || px > nx - 2.001 || pz > nz - 2.001 || share[Math.floor(pz) * nx + Math.floor(px)] === 0) break;
      const jx = Math.floor(px);
      const jz = Math.floor(pz);
      const s = px - jx;
      const t = pz - jz;
      const to = jz * nx + jx;
      const next = heights[to] * (1 - s) * (1 - t) + heights[to + 1] * s * (1 - t) + heights[to + nx] * (1 - s) * t + heights[to + nx + 1] * s * t;
      const fall = h - next;
      const room = Math.max((fall / spacing) * speed * water * settings.capacity, LEAST_CAPACITY) * spacing * 0.25;
      if (carried > room || fall < 0) {
        // Uphill it fills the hollow behind it, no higher than where it goes.
        const drops = fall < 0 ? Math.min(carried, -fall) : (carried - room) * settings.settle;
        carried -= drops;
        lay(on, at, u, v, drops);
      } else {
        const takes = Math.min((room - carried) * settings.scour, fall);
        carried += scour(on, ix, iz, brush, takes);
      }
      const faster = speed * speed + (fall / spacing) * GRAVITY;
      speed = faster > 0 ? Math.sqrt(faster) : 0;
      water *= 1 - settings.dries;
      x = px;
      z = pz;
    }
    if (carried > 0) {
      const [ix, iz] = [Math.min(nx - 2, Math.floor(x)), Math.min(nz - 2, Math.floor(z))];
      lay(on, iz * nx + ix, x - ix, z - iz, carried);
    }
  }
  return true;
}

function lay({ heights, marks: { settle }, nx }: Weathered, at: number, u: number, v: number, metres: number): void {
  const a = metres * (1 - u) * (1 - v);
  const b = metres * u * (1 - v);
  const c = metres * (1 - u) * v;
  const d = metres * u * v;
  heights[at] += a;
  heights[at + 1] += b;
  heights[at + nx] += c;
  heights[at + nx + 1] += d;
  settle[at] += a;
  settle[at + 1] += b;
  settle[at + nx] += c;
  settle[at + nx + 1] += d;
}

/** Offsets and shares of the samples a drop scours, which sum to one. */
function brushOf(radius: number): { dx: Int32Array; dz: Int32Array; k: Float64Array } {
  const dx: number[] = [];
  const dz: number[] = [];
  const k: number[] = [];
  const r = Math.ceil(radius);
  for (let z = -r; z <= r; z++) {
    for (let x = -r; x <= r; x++) {
      const w = radius - Math.sqrt(x * x + z * z);
      if (w <= 0) continue;
      dx.push(x);
      dz.push(z);
      k.push(w);
    }
  }
  const sum = k.reduce((a, b) => a + b, 0);
  return { dx: Int32Array.from(dx), dz: Int32Array.from(dz), k: Float64Array.from(k, (w) => w / sum) };
}

/** @returns what was taken, metres over one sample; less than asked at the rim and where the area fades */
function scour(
  { heights, marks: { scour: marks }, share, nx, nz }: Weathered,
  ix: number,
  iz: number,
  brush: ReturnType<typeof brushOf>,
  metres: number,
): number {
  let taken = 0;
  for (let n = 0; n < brush.k.length; n++) {
    const x = ix + brush.dx[n];
    const z = iz + brush.dz[n];
    if (x < 0 || z < 0 || x >= nx || z >= nz) continue;
    const i = z * nx + x;
    const d = metres * brush.k[n] * share[i];
    heights[i] -= d;
    marks[i] += d;
    taken += d;
  }
  return taken;
}
