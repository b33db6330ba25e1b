import { expose, transfer } from 'comlink';
import type { GroundRaster } from '@rammer/core/surface/ground';
import type { PlacedMesh } from '@rammer/core/block/placedMesh';
import { levelToGlb, type GlbOptions } from '@rammer/core/io/glb';
import { blocksToObj } from '@rammer/core/io/obj';
import { contoursSvg } from '@rammer/core/io/contoursSvg';
import { terrainLodsToGlb } from '@rammer/core/io/terrainGlb';
import { groundIndexPng, heightsPng, heightsRaw, weightsPng } from '@rammer/core/io/rasters';
import { makeLevel } from '@rammer/core/level/level';
import type { Block, LevelObject } from '@rammer/core/level/objects';
import type { Grid } from '@rammer/core/level/tiles';

const give = (bytes: Uint8Array) => transfer(bytes, [bytes.buffer as ArrayBuffer]);

const api = {
  async glb(objects: LevelObject[], grid: Grid, heights: Float32Array, options: GlbOptions): Promise<Uint8Array> {
    return give(await levelToGlb(makeLevel(objects), { grid, heights, noise: new Map() }, options));
  },
  async terrain(grid: Grid, heights: Float32Array) {
    const made = await terrainLodsToGlb({ grid, heights, noise: new Map() });
    return transfer(made, [made.glb.buffer as ArrayBuffer]);
  },
  raw(grid: Grid, heights: Float32Array) { return heightsRaw({ grid, heights, noise: new Map() }); },
  contours(grid: Grid, heights: Float32Array, step: number) { return contoursSvg({ grid, heights }, step); },
  ground(ground: GroundRaster) { return groundIndexPng(ground); },
  heights(grid: Grid, heights: Float32Array) { return heightsPng({ grid, heights, noise: new Map() }); },
  weights(ground: GroundRaster) { return weightsPng(ground); },
  obj(blocks: Block[], built: PlacedMesh[], groups: ReadonlyMap<string, string>): string { return blocksToObj(blocks, built, groups); },
};

export type ExportWorker = typeof api;
expose(api);
