import { expose, transfer } from 'comlink';
import { noiseLiftRaster } from '@rammer/core/earth/lifts/noise';
import { occluderHeights, sunDirection, sunlit } from '@rammer/core/mood/sunlit';
import type { Rect, Terrain } from '@rammer/core/earth/compose';
import { proposeRoute, type ProposalSettings } from '@rammer/core/earth/proposeRoute';
import type { PlacedMesh } from '@rammer/core/block/placedMesh';
import { surfaceTexture, TEXTURE_SIDE } from '@rammer/core/surface/textures';
import { TEXTURES, type Block, type NoiseLift } from '@rammer/core/level/objects';
import type { Grid } from '@rammer/core/level/tiles';
import { readingPicture, type Pictured, type ReadingInput, type ReadingResult } from '../view/readingPicture';

const api = {
  noise(lift: NoiseLift, grid: Grid): Float32Array {
    const raster = noiseLiftRaster(lift, grid)!;
    return transfer(raster, [raster.buffer]);
  },
  /** Sunlight and open sky of a rectangle of samples, two bytes each. */
  sunlit(grid: Grid, heights: Float32Array, blocks: Block[], pieces: PlacedMesh[], crowns: Float32Array, sun: { azimuth: number; elevation: number }, rect: Rect): Uint8Array {
    const terrain = { grid, heights, noise: new Map() };
    const out = sunlit(terrain, occluderHeights(terrain, blocks, pieces, crowns), sunDirection(sun.azimuth, sun.elevation), rect.x0, rect.z0, rect.x1, rect.z1);
    return transfer(out, [out.buffer]);
  },
  /** Points of a route between two places. */
  propose(terrain: Terrain, from: [number, number], to: [number, number], settings: ProposalSettings) { return proposeRoute(terrain, from, to, settings); },
  /** What a reading lays on the ground. */
  reading(kind: Pictured, input: ReadingInput): ReadingResult {
    const result = readingPicture(kind, input);
    return transfer(result, [result.picture.buffer, result.labels.buffer]);
  },
  /** The generated textures of all surfaces, one after the other, in the order of `TEXTURES`. */
  textures(): Uint8Array {
    const out = new Uint8Array(TEXTURE_SIDE * TEXTURE_SIDE * 4 * TEXTURES.length);
    TEXTURES.forEach((kind, i) => out.set(surfaceTexture(kind), i * TEXTURE_SIDE * TEXTURE_SIDE * 4));
    return transfer(out, [out.buffer]);
  },
};

export type EarthWorker = typeof api;
expose(api);
