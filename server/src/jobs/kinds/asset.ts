import { readAsset } from '@rammer/core/io/assetGlb';
import { summaryOf } from '@rammer/core/kit/summary';
import { sha256 } from '@rammer/core/num/sha256';
import { keepAsset } from '../../db/assetStore';
import { JobFault, type JobKind } from '../kind';

/** Checks a GLB and keeps it under its hash. */
export const asset: JobKind = {
  seconds: 120,
  async run(asked) {
    const bytes = asked.file ?? new Uint8Array();
    const read = await readAsset(bytes, asked.input.name as string);
    if (!read.ok) throw new JobFault(read.code, read.message);
    const summary = summaryOf(sha256(bytes), read.value);
    return {
      commit: async (tx) => {
        await keepAsset(tx, bytes, summary);
        return summary;
      },
    };
  },
};
