import { create } from 'zustand';
import type { Block } from '@rammer/core/level/objects';
import type { BuiltBlock } from '@rammer/core/block/build';
import { blockWorker, replaceBlockWorker } from '../workers/pool';
import { progress } from '../workers/progress';

/** Share of the solids that are cut, while cutting takes long enough to be shown. */
export const useCutting = create<{ share?: number }>(() => ({}));

/** Work shorter than this shows nothing, ms. */
const SHOWN_AFTER = 700;

/** That somebody stopped it. */
export class CuttingStopped extends Error {}

let stop: (() => void) | undefined;

/** Ends the cutting that is under way; the worker goes with it. */
export const stopCutting = (): void => stop?.();

/**
 * Cuts solids in the worker, with progress where it takes long.
 *
 * @throws CuttingStopped when it was stopped; what the worker throws, else
 */
export async function cutSolids(blocks: readonly Block[]): Promise<BuiltBlock[]> {
  const began = performance.now();
  const { onProgress, end } = progress((share) => {
    if (performance.now() - began > SHOWN_AFTER) useCutting.setState({ share });
  });
  const stopped = new Promise<never>((_, reject) => {
    stop = () => {
      replaceBlockWorker();
      reject(new CuttingStopped('cutting solids was stopped'));
    };
  });
  try {
    return await Promise.race([blockWorker().build(blocks, [], onProgress), stopped]);
  } finally {
    end();
    stop = undefined;
    useCutting.setState({ share: undefined });
  }
}
