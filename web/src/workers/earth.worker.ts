import { expose, transfer } from 'comlink';
import { noiseLiftRaster } from '@rammer/core/earth/noiseLift';
import { occluderHeights, sunDirection, sunlit } from '@rammer/core/mood/sunlit';
import type { Rect } from '@rammer/core/earth/compose';
import type { Block, NoiseLift } from '@rammer/core/level/objects';
import type { Grid } from '@rammer/core/level/tiles';

const api = {
  noise(lift: NoiseLift, grid: Grid): Float32Array {
    const raster = noiseLiftRaster(lift, grid)!;
    return transfer(raster, [raster.buffer]);
  },
  /** Sunlight and open sky of a rectangle of samples, two bytes each. */
  sunlit(grid: Grid, heights: Float32Array, blocks: Block[], sun: { azimuth: number; elevation: number }, rect: Rect): Uint8Array {
    const terrain = { grid, heights, noise: new Map() };
    const out = sunlit(terrain, occluderHeights(terrain, blocks), sunDirection(sun.azimuth, sun.elevation), rect.x0, rect.z0, rect.x1, rect.z1);
    return transfer(out, [out.buffer]);
  },
};

export type EarthWorker = typeof api;
expose(api);
