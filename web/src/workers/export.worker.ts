import { expose, transfer } from 'comlink';
import type { GroundRaster } from '@rammer/core/surface/ground';
import type { PlacedMesh } from '@rammer/core/block/placedMesh';
import { assetFilesOf } from '@rammer/core/io/assetFiles';
import { readHabitats, writeHabitat } from '@rammer/core/io/habitatFile';
import { writeZip } from '@rammer/core/io/zip';
import type { KeptHabitat } from '@rammer/core/growth/keptHabitat';
import type { Asset } from '@rammer/core/kit/asset';
import { levelGlbStream, type GlbOptions } from '@rammer/core/io/glb';
import { blocksToObj } from '@rammer/core/io/obj';
import { contoursSvg } from '@rammer/core/io/contoursSvg';
import { terrainLodsToGlb } from '@rammer/core/io/terrainGlb';
import { groundIndexPng, heightsPng, heightsRaw, weightsPng } from '@rammer/core/io/rasters';
import { makeLevel } from '@rammer/core/level/level';
import type { Block, LevelObject } from '@rammer/core/level/objects';
import type { Grid } from '@rammer/core/level/tiles';

/** Bytes held at a time of a file that is written in pieces. */
const BLOB_PIECE = 16 << 20;

const api = {
  async glb(objects: LevelObject[], grid: Grid, heights: Float32Array, options: GlbOptions): Promise<Blob> {
    const { chunks } = await levelGlbStream(makeLevel(objects), { grid, heights, noise: new Map() }, options);
    // The browser keeps large blobs on disk: pieces go into them as they are made.
    const parts: Blob[] = [];
    let open: BlobPart[] = [];
    let bytes = 0;
    const close = () => {
      parts.push(new Blob(open));
      open = [];
      bytes = 0;
    };
    for (const chunk of chunks()) {
      open.push(chunk as BlobPart);
      if ((bytes += chunk.length) > BLOB_PIECE) close();
    }
    close();
    return new Blob(parts, { type: 'model/gltf-binary' });
  },
  /** A zip of the level's assets, each as a GLB. */
  async assets(objects: LevelObject[], assets: ReadonlyMap<string, Asset>, species: { asset: string }[]) {
    const files = await assetFilesOf(makeLevel(objects), assets, species);
    const zip = writeZip(files.map(({ file, glb }) => [file.slice('assets/'.length), glb]));
    return transfer({ zip, count: files.length }, [zip.buffer as ArrayBuffer]);
  },
  async terrain(grid: Grid, heights: Float32Array) {
    const made = await terrainLodsToGlb({ grid, heights, noise: new Map() });
    return transfer(made, [made.glb.buffer as ArrayBuffer]);
  },
  raw(grid: Grid, heights: Float32Array) {
    return heightsRaw({ grid, heights, noise: new Map() });
  },
  contours(grid: Grid, heights: Float32Array, step: number) {
    return contoursSvg({ grid, heights }, step);
  },
  ground(ground: GroundRaster) {
    return groundIndexPng(ground);
  },
  heights(grid: Grid, heights: Float32Array) {
    return heightsPng({ grid, heights, noise: new Map() });
  },
  weights(ground: GroundRaster) {
    return weightsPng(ground);
  },
  habitat(kept: KeptHabitat, meshes: ReadonlyMap<string, Uint8Array>): Uint8Array {
    return writeHabitat(kept, meshes);
  },
  /** The habitats of a level package. */
  habitats(bytes: Uint8Array) {
    return readHabitats(bytes);
  },
  obj(blocks: Block[], built: PlacedMesh[], groups: ReadonlyMap<string, string>): string {
    return blocksToObj(blocks, built, groups);
  },
};

export type ExportWorker = typeof api;
expose(api);
