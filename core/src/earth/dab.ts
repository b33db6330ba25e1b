import type { Tiles } from '../level/tiles';
import { FIXED_ONE } from '../num/fixed';
import { fractalNoise } from '../num/noise';
import { sinCosDeg } from '../num/trig';
import { clamp, smoothstep } from '../num/vec';
import { dabRect, falloff, overDab, workTile, type BrushKind, type BrushSettings, type StrokeBuffer } from './brush';
import type { Rect, Terrain } from './compose';
import { surveyHeight, type HeightPicture, type SurveyPlace } from './survey';
import { thermal } from './weather/thermal';

/** Working tiles of the sample a dab is at, and where in them it is. */
interface Spot {
  delta: Int32Array;
  held: Int32Array;
  weight: Int32Array;
  at: number;
}

/** What a brush looks at: the ground as it is, and what was made ready for it around the dab, see `READY`. */
interface Look {
  now: number;
  ready: number;
  x: number;
  z: number;
}

type Change = (spot: Spot, look: Look, f: number, brush: BrushSettings) => void;

/** Strength as a share of the way for brushes that go some way: 0.15 m is a quarter. */
const shareOf = (brush: BrushSettings, f: number): number => Math.min(1, clamp(brush.strength / 0.15, 0, 4) * 0.25 * f);

/**
 * Relative brushes add d to `delta` and, where the ground is held, also to `held`: since height =
 * lerp(below + delta, held, w), the height changes by d whatever w is, and raised ground stays raised
 * by as much when anything below changes.
 */
const relative = (metres: (look: Look, f: number, brush: BrushSettings) => number): Change => ({ delta, held, weight, at }, look, f, brush) => {
  const d = Math.round(metres(look, f, brush) * FIXED_ONE);
  delta[at] += d;
  if (weight[at] > 0) held[at] += d;
};

/**
 * Holding brushes: with share s, w' = w + (1 - w) s and held' = ((1 - s) w held + s target) / w', which
 * makes the new height lerp(old height, target, s) and keeps it when anything below changes.
 */
const holds = (target: (look: Look, brush: BrushSettings) => number): Change => (spot, look, f, brush) => hold(spot, Math.round(target(look, brush) * FIXED_ONE), shareOf(brush, f));

function hold({ held, weight, at }: Spot, target: number, share: number): void {
  const w = weight[at] / FIXED_ONE;
  // Rounded up, so that repeated light dabs always arrive at full weight.
  const next = Math.min(FIXED_ONE, Math.ceil((w + (1 - w) * share) * FIXED_ONE));
  if (next === 0) return;
  held[at] = Math.round(((1 - share) * w * held[at] + share * target) / ((1 - share) * w + share));
  weight[at] = next;
}

/** Share of a step that is its face. */
const FACE = 0.25;

/** Height of the steps over a slope: level treads `rise` apart, each joined to the next by a steep face. */
export function terraced(height: number, rise: number): number {
  const step = Math.floor(height / rise);
  return rise * (step + smoothstep(0.5 - FACE / 2, 0.5 + FACE / 2, height / rise - step));
}

/** Towards zero, so that repeated light dabs always arrive. */
const fade = (value: number, share: number): number => Math.trunc(value * (1 - share));

const CHANGES: Record<BrushKind, Change> = {
  raise: relative((_, f, b) => b.strength * f),
  lower: relative((_, f, b) => -b.strength * f),
  smooth: relative(({ now, ready: mean }, f, b) => shareOf(b, f) * (mean - now)),
  // Away from the mean, no faster than a dab raises.
  sharpen: relative(({ now, ready: mean }, f, b) => clamp(shareOf(b, f) * (now - mean), -b.strength * f, b.strength * f)),
  noise: relative(({ x, z }, f, b) => b.strength * f * grain.at(x / b.grain, z / b.grain)),
  level: holds((_, b) => b.levelTo),
  terrace: holds(({ now }, b) => terraced(now, b.rise)),
  // How far each sample slides is in what was made ready: a share of it here would not keep the mass.
  weather: relative(({ now, ready }) => ready - now),
  print: relative(({ ready }, f, b) => b.tall * f * ready),
  erase: ({ delta, held, weight, at }, _, f, b) => {
    const share = shareOf(b, f);
    delta[at] = fade(delta[at], share);
    weight[at] = fade(weight[at], share);
    if (weight[at] === 0) held[at] = 0;
  },
};
const grain = fractalNoise(17, 4);

/** What some brushes work out over the whole dab first: one number a sample of the rectangle, row by row. */
const READY: Partial<Record<BrushKind, (terrain: Terrain, rect: Rect, brush: BrushSettings, x: number, z: number, print?: HeightPicture) => Float32Array>> = { smooth: meanAround, sharpen: meanAround, weather: slid, print: printed };

/**
 * Sets one dab of a brush into the stroke buffer of a hand lift.
 *
 * @param terrain composed heights as they are now
 * @param print what `print` lays down
 * @returns the touched rectangle, to be recomposed; `undefined` outside the level
 */
export function dab(buffer: StrokeBuffer, tiles: Tiles, terrain: Terrain, brush: BrushSettings, x: number, z: number, print?: HeightPicture): Rect | undefined {
  const { grid } = buffer;
  const rect = dabRect(grid, x, z, brush.radius);
  if (!rect) return undefined;
  const ready = READY[brush.kind]?.(terrain, rect, brush, x, z, print);
  const change = CHANGES[brush.kind];
  const w = rect.x1 - rect.x0 + 1;
  // One tile serves many samples in a row: it is looked up only where it changes.
  let [lastX, lastZ] = [-1, -1];
  const spot = { at: 0 } as Spot;
  const look: Look = { now: 0, ready: 0, x: 0, z: 0 };
  overDab(grid, rect, x, z, brush.radius, brush.hardness, (tx, tz, local, f, sample) => {
    if (tx !== lastX || tz !== lastZ) {
      [lastX, lastZ] = [tx, tz];
      spot.delta = workTile(buffer, tiles, 'delta', tx, tz);
      spot.held = workTile(buffer, tiles, 'held', tx, tz);
      spot.weight = workTile(buffer, tiles, 'weight', tx, tz);
    }
    spot.at = local;
    const sx = sample % grid.nx;
    const sz = (sample - sx) / grid.nx;
    look.now = terrain.heights[sample];
    look.ready = ready ? ready[(sz - rect.z0) * w + sx - rect.x0] : 0;
    look.x = sx * grid.spacing;
    look.z = sz * grid.spacing;
    change(spot, look, f, brush);
  });
  return rect;
}

/**
 * Holds a ramp between two points: straight from height to height along the line between them, full
 * over the brush's hard middle, fading to its rim.
 *
 * @param from, to metres; beyond the ends nothing is held
 * @returns the touched rectangle, or `undefined`
 */
export function rampStroke(buffer: StrokeBuffer, tiles: Tiles, from: readonly [number, number, number], to: readonly [number, number, number], brush: Pick<BrushSettings, 'radius' | 'hardness'>): Rect | undefined {
  const { grid } = buffer;
  const [dx, dz] = [to[0] - from[0], to[2] - from[2]];
  const long = Math.sqrt(dx * dx + dz * dz);
  if (long < grid.spacing) return undefined;
  const reach = long / 2 + brush.radius;
  const rect = dabRect(grid, (from[0] + to[0]) / 2, (from[2] + to[2]) / 2, reach);
  if (!rect) return undefined;
  let touched: Rect | undefined;
  overDab(grid, rect, (from[0] + to[0]) / 2, (from[2] + to[2]) / 2, reach, 0.95, (tx, tz, local, _f, sample) => {
    const sx = sample % grid.nx;
    const sz = (sample - sx) / grid.nx;
    const [px, pz] = [sx * grid.spacing - from[0], sz * grid.spacing - from[2]];
    const t = (px * dx + pz * dz) / (long * long);
    if (t < 0 || t > 1) return;
    const beside = Math.abs(px * dz - pz * dx) / long;
    const share = 1 - smoothstep(Math.min(brush.hardness, 0.95), 1, beside / brush.radius);
    if (share <= 0) return;
    const spot: Spot = { delta: workTile(buffer, tiles, 'delta', tx, tz), held: workTile(buffer, tiles, 'held', tx, tz), weight: workTile(buffer, tiles, 'weight', tx, tz), at: local };
    hold(spot, Math.round((from[1] + (to[1] - from[1]) * t) * FIXED_ONE), share);
    touched = touched ? { x0: Math.min(touched.x0, sx), z0: Math.min(touched.z0, sz), x1: Math.max(touched.x1, sx), z1: Math.max(touched.z1, sz) } : { x0: sx, z0: sz, x1: sx, z1: sz };
  });
  return touched;
}

/** Mean of the 5 x 5 samples around each sample of the rectangle, edges clamped. */
function meanAround(terrain: Terrain, rect: Rect): Float32Array {
  const { nx, nz } = terrain.grid;
  const w = rect.x1 - rect.x0 + 1;
  const out = new Float32Array(w * (rect.z1 - rect.z0 + 1));
  for (let z = rect.z0, o = 0; z <= rect.z1; z++) {
    for (let x = rect.x0; x <= rect.x1; x++, o++) {
      let sum = 0;
      for (let dz = -2; dz <= 2; dz++) {
        const row = clamp(z + dz, 0, nz - 1) * nx;
        for (let dx = -2; dx <= 2; dx++) sum += terrain.heights[row + clamp(x + dx, 0, nx - 1)];
      }
      out[o] = sum / 25;
    }
  }
  return out;
}

/** Rounds of sliding in a dab of full strength. */
const SLIDES = 8;

/** Ground of the rectangle after what stands steeper than the talus angle slid, within the dab; none is lost. */
function slid({ grid, heights }: Terrain, rect: Rect, brush: BrushSettings, x: number, z: number): Float32Array {
  // A rim of its own around it: sliding leaves the outermost samples alone.
  const [w, d] = [rect.x1 - rect.x0 + 3, rect.z1 - rect.z0 + 3];
  const ground = new Float64Array(w * d);
  const share = new Float32Array(w * d);
  for (let j = 0, i = 0; j < d; j++) {
    for (let k = 0; k < w; k++, i++) {
      const [sx, sz] = [rect.x0 - 1 + k, rect.z0 - 1 + j];
      ground[i] = heights[clamp(sz, 0, grid.nz - 1) * grid.nx + clamp(sx, 0, grid.nx - 1)];
      if (sx < rect.x0 || sx > rect.x1 || sz < rect.z0 || sz > rect.z1) continue;
      const [dx, dz] = [sx * grid.spacing - x, sz * grid.spacing - z];
      share[i] = Math.min(1, shareOf(brush, falloff(Math.sqrt(dx * dx + dz * dz) / brush.radius, brush.hardness)) * 4);
    }
  }
  thermal(ground, { nx: w, nz: d, spacing: grid.spacing }, { talus: brush.talus, rounds: SLIDES }, share);
  const out = new Float32Array((w - 2) * (d - 2));
  for (let j = 0; j < d - 2; j++) for (let k = 0; k < w - 2; k++) out[j * (w - 2) + k] = ground[(j + 1) * w + k + 1];
  return out;
}

/** Values of a picture laid over the dab, its longer side the dab's width, turned about its middle; 0 beside it. */
function printed({ grid }: Terrain, rect: Rect, brush: BrushSettings, x: number, z: number, print?: HeightPicture): Float32Array {
  const w = rect.x1 - rect.x0 + 1;
  const out = new Float32Array(w * (rect.z1 - rect.z0 + 1));
  if (!print) return out;
  const long = Math.max(print.width, print.height) - 1;
  const [width, depth] = [(2 * brush.radius * (print.width - 1)) / long, (2 * brush.radius * (print.height - 1)) / long];
  const place: SurveyPlace = { x: -width / 2, z: -depth / 2, width, depth, low: 0, high: 1 };
  const [sin, cos] = sinCosDeg(brush.turn);
  for (let sz = rect.z0, i = 0; sz <= rect.z1; sz++) {
    for (let sx = rect.x0; sx <= rect.x1; sx++, i++) {
      const [dx, dz] = [sx * grid.spacing - x, sz * grid.spacing - z];
      out[i] = surveyHeight(print, place, dx * cos + dz * sin, dz * cos - dx * sin) ?? 0;
    }
  }
  return out;
}
