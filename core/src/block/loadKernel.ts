import Module from 'manifold-3d';
import type { SolidKernel } from './kernel';

/**
 * Loads the kernel of solids. Everyone else in core is handed it: only workers, CLI, server and tests call
 * this, and only where a level needs it.
 *
 * @param wasm where its WebAssembly lies, for a host that moves files; left out in Node
 */
export async function loadSolidKernel(wasm?: string): Promise<SolidKernel> {
  const kernel = await (wasm ? Module({ locateFile: () => wasm } as Parameters<typeof Module>[0]) : Module());
  kernel.setup();
  return kernel;
}
