import rapier from '@dimforge/rapier3d-compat';

/** The WebAssembly kernel of walking as Node loads it; tests only. */
export async function loadKernels(): Promise<{ rapier: typeof rapier }> {
  await rapier.init();
  return { rapier };
}
