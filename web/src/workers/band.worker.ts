import { expose, transfer } from 'comlink';
import type { BodyFigures } from '@rammer/core/body/bodies';
import type { Grid } from '@rammer/core/level/tiles';
import type { Vec3 } from '@rammer/core/num/vec';
import { makeWalkArea, type Band, type Standing } from '@rammer/core/play/walkArea';

export interface BandInput {
  body: BodyFigures;
  grid: Grid;
  on: Standing;
  entry?: Vec3;
  which: number[];
}

/** Told of progress no more often than this, ms. */
const TELL_MS = 100;

const api = {
  /** Bakes a band of nav tiles beside others that bake theirs. */
  bake({ body, grid, on, entry, which }: BandInput, onProgress: (done: number) => void): Band {
    const area = makeWalkArea(body, grid);
    let told = performance.now();
    const work = area.bake(on, entry, new Set(which));
    for (let step = work.next(); !step.done; step = work.next()) {
      if (performance.now() - told < TELL_MS) continue;
      told = performance.now();
      onProgress(step.value);
    }
    const band = area.band(which);
    return transfer(band, [...new Set([band.links, ...band.tiles.flatMap((t) => Object.values(t) as Uint8Array[])].map((a) => a.buffer as ArrayBuffer))]);
  },
};

export type BandWorker = typeof api;
expose(api);
