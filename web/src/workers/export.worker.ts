import { expose, transfer } from 'comlink';
import { levelToGlb } from '@rammer/core/io/glb';
import { makeLevel } from '@rammer/core/level/level';
import type { LevelObject } from '@rammer/core/level/objects';
import type { Grid } from '@rammer/core/level/tiles';

const api = {
  async glb(objects: LevelObject[], grid: Grid, heights: Float32Array): Promise<Uint8Array> {
    const bytes = await levelToGlb(makeLevel(objects), { grid, heights, noise: new Map() });
    return transfer(bytes, [bytes.buffer as ArrayBuffer]);
  },
};

export type ExportWorker = typeof api;
expose(api);
