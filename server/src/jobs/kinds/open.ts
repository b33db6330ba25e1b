import { readPackage } from '@rammer/core/io/package';
import { createLevel } from '../../db/levelStore';
import { JobFault, type JobKind } from '../kind';
import { meshesOf } from './levelOf';

/** Makes a level of a package. */
export const open: JobKind = {
  seconds: 300,
  async run(asked) {
    const opened = readPackage(asked.file ?? new Uint8Array());
    if (!opened.ok) throw new JobFault(opened.code, opened.message);
    await meshesOf(opened.value);
    return { commit: async (tx) => ({ id: await createLevel(tx, opened.value) }) };
  },
};
