import { writePackage } from '@rammer/core/io/package';
import { settingsOf } from '@rammer/core/level/level';
import type { JobKind } from '../kind';
import { levelOf } from './levelOf';

/** A level as a package, and the name of its file. */
export const pack: JobKind = {
  seconds: 300,
  async run(asked, db) {
    const level = await levelOf(asked, db, 'whole');
    const file =
      settingsOf(level)
        .name.toLowerCase()
        .replace(/[^a-z0-9]+/g, '-')
        .replace(/^-|-$/g, '') || 'level';
    return { result: { file: `${file}.rammer.zip` }, output: writePackage(level) };
  },
};
