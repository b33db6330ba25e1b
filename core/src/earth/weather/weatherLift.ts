import type { AnyEditBody } from '../../level/edits/index';
import type { Weather } from '../../level/objects';
import { TILE_QUADS, TILE_SAMPLES, TILE_SIDE, tileKey, WEATHER_CHANNELS, type Grid, type Tiles } from '../../level/tiles';
import { FIXED_ONE, packRaster, toBase64 } from '../../num/fixed';
import { hashBytes, hashText } from '../../num/hash';
import type { Point2 } from '../../num/outline';
import { smoothstep } from '../../num/vec';
import { overTiles, wholeRect } from '../rect';
import { outlineRow, stretchesOf } from '../stretches';
import { hydraulic, HYDRAULIC_DEFAULTS, type WeatherMarks } from './hydraulic';
import { thermal } from './thermal';

/** What weathering made of the ground below a lift: metres moved a sample, and its marks. */
export interface Weathered extends WeatherMarks {
  moved: Float32Array;
}

/** What a weather lift would be made from now; another hash than its `made` says that it is stale. */
export function weatherHash(lift: Weather, below: Float32Array, grid: Grid): string {
  return hashText(
    JSON.stringify([
      lift.seed,
      lift.droplets,
      lift.strength,
      lift.radius,
      lift.talus,
      lift.rounds,
      lift.mask?.outline ?? null,
      grid.nx,
      grid.nz,
      grid.spacing,
    ]) + hashBytes(new Uint8Array(below.buffer, below.byteOffset, below.byteLength)),
  );
}

/** Share of each sample in the area that is weathered: inside the outline of the lift's mask, fading at its edge; everywhere where it has none. */
function areaOf(lift: Weather, grid: Grid): Float32Array {
  const share = new Float32Array(grid.nx * grid.nz);
  const outline = lift.mask?.outline;
  if (!outline) return share.fill(1);
  const soft = Math.max(outline.soft, 2 * grid.spacing);
  const sides = stretchesOf(outline.line as Point2[], true, soft);
  const row = new Float64Array(grid.nx);
  for (let z = 0; z < grid.nz; z++) {
    outlineRow(outline.line as Point2[], sides, { z: z * grid.spacing, x0: 0, count: grid.nx, spacing: grid.spacing }, row);
    for (let x = 0; x < grid.nx; x++) share[z * grid.nx + x] = smoothstep(0, soft, row[x]);
  }
  return share;
}

/** Part of the progress that is the droplets'; the rest is sliding. */
const RAIN_SHARE = 0.7;

/**
 * Weathers the ground below a lift: first rain, then sliding.
 *
 * @param below heights of the stack below the lift, metres
 * @param onProgress called now and then with the share done; false stops, and the result is `undefined`
 */
export function weather(lift: Weather, below: Float32Array, grid: Grid, onProgress: (done: number) => boolean = () => true): Weathered | undefined {
  const n = below.length;
  const heights = Float64Array.from(below);
  const marks: WeatherMarks = { scour: new Float32Array(n), settle: new Float32Array(n), runoff: new Float32Array(n) };
  const share = areaOf(lift, grid);
  const rain = { ...HYDRAULIC_DEFAULTS, droplets: lift.droplets, seed: lift.seed, radius: lift.radius, capacity: HYDRAULIC_DEFAULTS.capacity * lift.strength };
  if (lift.droplets > 0 && !hydraulic(heights, grid, rain, { share, marks }, (done) => onProgress(done * RAIN_SHARE))) return undefined;
  const rained = heights.slice();
  if (lift.rounds > 0 && !thermal(heights, grid, { talus: lift.talus, rounds: lift.rounds }, share, (done) => onProgress(RAIN_SHARE + done * (1 - RAIN_SHARE))))
    return undefined;
  const moved = new Float32Array(n);
  for (let i = 0; i < n; i++) {
    const slid = heights[i] - rained[i];
    if (slid < 0) marks.scour[i] -= slid;
    else marks.settle[i] += slid;
    moved[i] = heights[i] - below[i];
  }
  return { moved, ...marks };
}

/** Water that counts as all there is in the `runoff` raster, drops a sample. */
const MUCH_WATER = 60;

/** The edit that keeps what weathering made: the lift's rasters and the hash it was made from. */
export function keepWeather(lift: Weather, made: Weathered, hash: string, grid: Grid, tiles: Tiles): AnyEditBody {
  const stroke: { key: string; delta: string }[] = [];
  const unit: Record<(typeof WEATHER_CHANNELS)[number], (i: number) => number> = {
    delta: (i) => Math.round(made.moved[i] * FIXED_ONE),
    scour: (i) => Math.round(made.scour[i] * FIXED_ONE),
    settle: (i) => Math.round(made.settle[i] * FIXED_ONE),
    runoff: (i) => Math.round(Math.min(1, made.runoff[i] / MUCH_WATER) * FIXED_ONE),
  };
  overTiles(wholeRect(grid), (tx, tz, own) => {
    for (const channel of WEATHER_CHANNELS) {
      const key = tileKey(lift.id, channel, tx, tz);
      const old = tiles.get(key);
      const delta = new Int32Array(TILE_SAMPLES);
      let any = false;
      for (let z = own.z0; z <= own.z1; z++) {
        for (let x = own.x0; x <= own.x1; x++) {
          const local = (z - tz * TILE_QUADS) * TILE_SIDE + x - tx * TILE_QUADS;
          delta[local] = unit[channel](z * grid.nx + x) - (old ? old[local] : 0);
          if (delta[local] !== 0) any = true;
        }
      }
      if (any) stroke.push({ key, delta: toBase64(packRaster(delta)) });
    }
  });
  const set: AnyEditBody = { kind: 'set', patches: [{ id: lift.id, set: { made: hash } }] };
  return stroke.length === 0 ? set : { kind: 'together', parts: [set, { kind: 'stroke', tiles: stroke }] };
}
