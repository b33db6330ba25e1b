import * as core from 'recast-navigation';
import * as generators from 'recast-navigation/generators';
import type { Recast } from '@rammer/core/play/recast';

/** The recast kernel for Node. */
export async function loadRecast(): Promise<Recast> {
  await core.init();
  return { ...core, ...generators };
}
