import { transfer } from 'comlink';
import { unpacked } from '@rammer/core/growth/packedPlants';
import type { Runner } from '@rammer/core/scene/runner';
import { composeInSlabs, groundInSlabs } from '../workers/slabs';
import { blockWorker, earthWorker, growthWorker, replaceBlockWorker, replaceGrowthWorker, replaceWalkWorker, walkWorker } from '../workers/pool';
import { progress } from '../workers/progress';
import { assetFile } from './assetFile';
import { CuttingStopped, cutSolids } from './cutting';

/** Samples composed or filled where they are changed, in some tens of milliseconds; more go to the workers. */
const MOST_AT_ONCE = 300_000;
/** A gesture pauses when it does nothing for so long, ms. */
const PAUSE = 40;

/**
 * The long work of a level, in the browser's workers.
 *
 * @param level id of the level, under which its walk areas are kept across reloads
 */
export function inWorkers(level: string): Runner {
  let previewing = false;
  let previews = 0;
  return {
    mostAtOnce: MOST_AT_ONCE,
    compose: composeInSlabs,
    ground: groundInSlabs,

    async fill({ grid, heights }, waters, stack) {
      const copy = heights.slice();
      const routes = stack.filter((l) => l.lift === 'route');
      return earthWorker().fill(grid, transfer(copy, [copy.buffer]), [...waters], routes);
    },

    async build(blocks) {
      try {
        return await cutSolids(blocks);
      } catch (error) {
        if (error instanceof CuttingStopped)
          throw new Error('cutting solids was stopped: they stand as they were. Undo the last change, or change a block to cut them again.', { cause: error });
        replaceBlockWorker();
        throw new Error(`solids could not be cut: ${(error as Error).message}. Undo the last change and try again.`, { cause: error });
      }
    },

    async preview(blocks, moving) {
      const mine = ++previews;
      while (previewing) {
        await new Promise((later) => setTimeout(later, 4));
        if (mine !== previews) return undefined;
      }
      previewing = true;
      try {
        return await blockWorker().build(blocks, [...moving]);
      } catch {
        return undefined;
      } finally {
        previewing = false;
      }
    },

    async grow(input) {
      try {
        return (await growthWorker().grow(input)).map(unpacked);
      } catch (error) {
        replaceGrowthWorker();
        throw error;
      }
    },

    asset: ({ hash }) => assetFile(hash),
    pause: () => new Promise((go) => setTimeout(go, PAUSE)),

    async bake(input, onProgress) {
      const { onProgress: tell, end } = progress(onProgress);
      try {
        const result = await walkWorker().bake(level, input, tell);
        return result.kind === 'done' ? result : undefined;
      } catch (error) {
        replaceWalkWorker();
        throw new Error(`the walk area could not be baked: ${(error as Error).message}`, { cause: error });
      } finally {
        end();
      }
    },
  };
}
