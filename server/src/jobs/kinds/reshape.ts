import { settingsOf } from '@rammer/core/level/level';
import { outside, reshape, type Reshape } from '@rammer/core/level/reshape';
import { createLevel } from '../../db/levelStore';
import type { JobKind } from '../kind';
import { levelOf } from './levelOf';

/** A copy of a level at another size. */
export const reshapeLevel: JobKind = {
  seconds: 300,
  async run(asked, db) {
    const { name, ...size } = asked.input as unknown as Reshape & { name: string };
    const made = reshape(await levelOf(asked, db, 'whole'), size);
    made.objects.set('settings', { ...settingsOf(made), name });
    return { commit: async (tx) => ({ id: await createLevel(tx, made), outside: outside(made) }) };
  },
};
