import rapier from '@dimforge/rapier3d-compat';
import * as core from 'recast-navigation';
import * as generators from 'recast-navigation/generators';
import type { Recast } from '../play/recast';

/** The WebAssembly kernels as Node loads them; tests only. */
export async function loadKernels(): Promise<{ recast: Recast; rapier: typeof rapier }> {
  await core.init();
  await rapier.init();
  return { recast: { ...core, ...generators }, rapier };
}
