import { loadSolidKernel } from '@rammer/core/block/loadKernel';
import { needsKernel } from '@rammer/core/scene/parts';
import { checkLevel } from '@rammer/core/scene/checkLevel';
import { storeCheck } from '../../db/levelStore';
import type { JobKind } from '../kind';
import { levelOf, meshesOf } from './levelOf';

/** The whole check of a level; what it found is kept with the level. */
export const check: JobKind = {
  seconds: 1200,
  async run(asked, db, progress) {
    const level = await levelOf(asked, db, true);
    const found = (await checkLevel(level, {
      assets: await meshesOf(level),
      kernel: needsKernel(level) ? await loadSolidKernel() : undefined,
      onProgress: (share) => {
        progress(share);
        return true;
      },
    }))!;
    const { reach, snags } = found;
    return {
      async commit(tx) {
        await storeCheck(tx, asked.levelId!, level.version, {
          reached: reach.reached,
          length: reach.length,
          walkTime: reach.walkTime,
          ...(reach.stop ? { message: reach.stop.message } : {}),
          snags: snags.filter((s) => !s.accepted).length,
        });
        return found;
      },
    };
  },
};
