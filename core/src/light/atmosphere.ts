import type { Vec3 } from '../num/vec';

/**
 * Air of the earth on a clear day, as light goes through it: scattered by its molecules (blue most), by dust and droplets, taken by ozone.
 * Figures at sea level, one a metre, red, green and blue (Bruneton and Neyret 2008; Hillaire 2020).
 */
const MOLECULES: Vec3 = [5.802e-6, 13.558e-6, 33.1e-6];
const DUST = 3.996e-6;
const DUST_TAKEN = 4.4e-6;
const OZONE: Vec3 = [0.65e-6, 1.881e-6, 0.085e-6];
/** Heights over which molecules and dust thin to 1/e, metres. */
const MOLECULES_HEIGHT = 8000;
const DUST_HEIGHT = 1200;
/** Radius of the earth and of the air around it, metres. */
const GROUND = 6_360_000;
const TOP = 6_460_000;
/** How far dust throws light forward (Henyey and Greenstein 1941). */
const FORWARD = 0.8;
/** Share of light that the ground throws back. */
const ALBEDO = 0.25;

/** What air of a height does to light: scattered by molecules and by dust, and lost in all, one a metre. */
function airAt(height: number, dust: number): { molecules: number; dust: number; lost: Vec3 } {
  const m = Math.exp(-height / MOLECULES_HEIGHT);
  const d = dust * Math.exp(-height / DUST_HEIGHT);
  const o = Math.max(0, 1 - Math.abs(height - 25_000) / 15_000);
  const lost = [0, 1, 2].map((k) => MOLECULES[k] * m + (DUST + DUST_TAKEN) * d + OZONE[k] * o) as Vec3;
  return { molecules: m, dust: DUST * d, lost };
}

/** Length of a ray from a radius up to the edge of the air, metres; `up` is the sine of its angle over the horizon. */
const toTop = (radius: number, up: number): number => -radius * up + Math.sqrt(Math.max(0, radius * radius * (up * up - 1) + TOP * TOP));
/** Length to the ground, or infinity where it goes past it. */
function toGround(radius: number, up: number): number {
  const under = radius * radius * (up * up - 1) + GROUND * GROUND;
  return up < 0 && under > 0 ? Math.max(0, -radius * up - Math.sqrt(under)) : Infinity;
}

/**
 * Share of light from outside that comes through the air.
 *
 * @param height over the ground, metres @param up sine of the angle over the horizon it comes from @param dust 1 on a clear day
 * @returns red, green, blue; black where the earth stands between
 */
export function sunThrough(up: number, height = 0, dust = 1): Vec3 {
  const radius = GROUND + height;
  if (toGround(radius, up) < Infinity && height > 0) return [0, 0, 0];
  const length = toTop(radius, Math.max(up, -0.02));
  const depth: Vec3 = [0, 0, 0];
  let before = 0;
  const STEPS = 24;
  for (let i = 0; i < STEPS; i++) {
    // Short steps first: the air is thick below.
    const end = length * ((i + 1) / STEPS) ** 2;
    const at = (before + end) / 2;
    const { lost } = airAt(Math.sqrt(radius * radius + at * at + 2 * radius * at * up) - GROUND, dust);
    for (let k = 0; k < 3; k++) depth[k] += lost[k] * (end - before);
    before = end;
  }
  return depth.map((d) => Math.exp(-d)) as Vec3;
}

/** A table of `sunThrough` and of light scattered many times, by height (rows, closer near the ground) and sine of the sun's angle. */
interface Tables {
  through: Float64Array;
  many: Float64Array;
}
const ROWS = 12;
const COLUMNS = 32;
const rowHeight = (row: number): number => (TOP - GROUND) * (row / (ROWS - 1)) ** 2;
/** Sine of a column: close together about the horizon. */
const columnUp = (column: number): number => {
  const x = (column / (COLUMNS - 1)) * 2 - 1;
  return x * Math.abs(x);
};

function look(table: Float64Array, height: number, up: number): Vec3 {
  const r = Math.sqrt(Math.min(1, Math.max(0, height / (TOP - GROUND)))) * (ROWS - 1);
  const c = (Math.sign(up) * Math.sqrt(Math.abs(up)) * 0.5 + 0.5) * (COLUMNS - 1);
  const [r0, c0] = [Math.min(ROWS - 2, Math.floor(r)), Math.min(COLUMNS - 2, Math.floor(c))];
  const [fr, fc] = [r - r0, c - c0];
  const at = (row: number, column: number, k: number) => table[(row * COLUMNS + column) * 3 + k];
  return [0, 1, 2].map(
    (k) => (at(r0, c0, k) * (1 - fc) + at(r0, c0 + 1, k) * fc) * (1 - fr) + (at(r0 + 1, c0, k) * (1 - fc) + at(r0 + 1, c0 + 1, k) * fc) * fr,
  ) as Vec3;
}

const DIRECTIONS = 24;

/** Tables of air with so much dust; made once for each. */
function tablesOf(dust: number): Tables {
  const through = new Float64Array(ROWS * COLUMNS * 3);
  const many = new Float64Array(ROWS * COLUMNS * 3);
  for (let row = 0; row < ROWS; row++)
    for (let column = 0; column < COLUMNS; column++) through.set(sunThrough(columnUp(column), Math.max(1, rowHeight(row)), dust), (row * COLUMNS + column) * 3);
  const tables = { through, many };
  // Light that was scattered once arrives from all round, and is scattered again and again: a geometric row (Hillaire 2020, 5.5).
  for (let row = 0; row < ROWS; row++) {
    for (let column = 0; column < COLUMNS; column++) {
      const once: Vec3 = [0, 0, 0];
      const share: Vec3 = [0, 0, 0];
      for (let i = 0; i < DIRECTIONS; i++) {
        const up = 1 - (2 * i + 1) / DIRECTIONS;
        const round = i * 2.399963;
        const flat = Math.sqrt(1 - up * up);
        const sun = columnUp(column);
        const cosine = up * sun + flat * Math.sqrt(1 - sun * sun) * Math.cos(round);
        march(tables, { height: Math.max(1, rowHeight(row)), up, sun, cosine, dust }, 10, (light, scattered) => {
          for (let k = 0; k < 3; k++) {
            once[k] += light[k] / DIRECTIONS;
            share[k] += scattered[k] / DIRECTIONS;
          }
        });
      }
      for (let k = 0; k < 3; k++) many[(row * COLUMNS + column) * 3 + k] = once[k] / (1 - Math.min(0.95, share[k]));
    }
  }
  return tables;
}

interface Ray {
  height: number;
  up: number;
  /** sine of the sun's angle over the horizon, and cosine between the ray and the sun */
  sun: number;
  cosine: number;
  dust: number;
}

/** Walks along a ray and gives the light scattered towards its start, sun of 1 outside the air, and the share of all light it scatters. */
function march(
  { through, many }: Tables,
  { height, up, sun, cosine, dust }: Ray,
  steps: number,
  give: (light: Vec3, scattered: Vec3) => void,
  phases = false,
): void {
  const radius = GROUND + height;
  const ground = toGround(radius, up);
  const length = Math.min(ground, toTop(radius, up));
  const byMolecules = phases ? (3 / (16 * Math.PI)) * (1 + cosine * cosine) : 1 / (4 * Math.PI);
  const g = FORWARD;
  const byDust = phases ? (1 - g * g) / (4 * Math.PI * (1 + g * g - 2 * g * cosine) ** 1.5) : 1 / (4 * Math.PI);
  const seen: Vec3 = [1, 1, 1];
  const light: Vec3 = [0, 0, 0];
  const scattered: Vec3 = [0, 0, 0];
  let before = 0;
  for (let i = 0; i < steps; i++) {
    const end = length * ((i + 1) / steps) ** 2;
    const at = (before + end) / 2;
    const step = end - before;
    const r = Math.sqrt(radius * radius + at * at + 2 * radius * at * up);
    const here = r - GROUND;
    // The sun's angle over the horizon there: the earth bends away under the ray.
    const there = Math.min(1, Math.max(-1, (radius * sun + at * cosine) / r));
    const air = airAt(Math.max(0, here), dust);
    const direct = look(through, here, there);
    const again = look(many, here, there);
    for (let k = 0; k < 3; k++) {
      const m = MOLECULES[k] * air.molecules;
      const t = Math.exp(-air.lost[k] * step);
      // What is scattered within the step is dimmed by the step itself.
      const within = (1 - t) / Math.max(air.lost[k], 1e-12);
      light[k] += seen[k] * within * (direct[k] * (m * byMolecules + air.dust * byDust) + again[k] * (m + air.dust));
      scattered[k] += seen[k] * within * (m + air.dust);
      seen[k] *= t;
    }
    before = end;
  }
  if (ground < Infinity) {
    const direct = look(through, 0, sun);
    for (let k = 0; k < 3; k++) light[k] += (seen[k] * direct[k] * Math.max(0, sun) * ALBEDO) / Math.PI;
  }
  give(light, scattered);
}

/** Light of a clear sky: a table by angle from the sun's azimuth and angle over the horizon. */
export interface SkyTable {
  /** columns from the sun's azimuth to the one across from it, 0 to 180 degrees */
  width: number;
  /** rows from the horizon up: row `v` (0 to 1) is `90 v^2` degrees high */
  height: number;
  /** red, green, blue of each, row by row; light of the sky where the sun outside the air gives pi on a face turned to it */
  data: Float32Array;
  /** what is left of the sun's own light */
  sun: Vec3;
}

const known = new Map<number, Tables>();

/**
 * The sky of a clear day, light that was scattered once exactly and more often about.
 *
 * @param sun sine of the sun's angle over the horizon; below 0 it has set
 * @param dust how much dust and droplets there are, 1 on a clear day
 */
export function clearSky(sun: number, dust = 1, width = 32, height = 32): SkyTable {
  let tables = known.get(dust);
  if (!tables) known.set(dust, (tables = tablesOf(dust)));
  const data = new Float32Array(width * height * 3);
  const flat = Math.sqrt(Math.max(0, 1 - sun * sun));
  for (let row = 0; row < height; row++) {
    const angle = ((row / (height - 1)) ** 2 * Math.PI) / 2;
    const up = Math.sin(angle);
    for (let column = 0; column < width; column++) {
      const cosine = up * sun + Math.cos(angle) * flat * Math.cos((column / (width - 1)) * Math.PI);
      march(
        tables,
        { height: 200, up: Math.max(up, 1e-3), sun, cosine, dust },
        24,
        // The sun gives pi outside the air.
        (light) => data.set([light[0] * Math.PI, light[1] * Math.PI, light[2] * Math.PI], (row * width + column) * 3),
        true,
      );
    }
  }
  return { width, height, data, sun: sunThrough(Math.max(sun, 0), 0, dust) };
}

/** Light of the sky in a direction over the horizon. @param angle over it, degrees @param round from the sun's azimuth, degrees */
export function skyLight({ width, height, data }: SkyTable, angle: number, round: number): Vec3 {
  const y = Math.sqrt(Math.max(0, Math.min(1, angle / 90))) * (height - 1);
  const x = (Math.abs(((round + 540) % 360) - 180) / 180) * (width - 1);
  const [x0, y0] = [Math.min(width - 2, Math.floor(x)), Math.min(height - 2, Math.floor(y))];
  const at = (dx: number, dy: number, k: number) => data[((y0 + dy) * width + x0 + dx) * 3 + k];
  const [fx, fy] = [x - x0, y - y0];
  return [0, 1, 2].map((k) => (at(0, 0, k) * (1 - fx) + at(1, 0, k) * fx) * (1 - fy) + (at(0, 1, k) * (1 - fx) + at(1, 1, k) * fx) * fy) as Vec3;
}
