import Module from 'manifold-3d';
import type { SolidKernel } from '../block/kernel';

/** The kernel of solids as Node loads it. */
export async function solidKernel(): Promise<SolidKernel> {
  const kernel = await Module();
  kernel.setup();
  return kernel;
}
