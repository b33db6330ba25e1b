import { loadSolidKernel } from '../../block/loadKernel';
import type { MendTools } from '../../kit/mend/tools';
import { hullBy } from '../../kit/mend/colliders';
import { PNG_PICTURES } from './pngPictures';

/**
 * Loads what mends need.
 *
 * @param wasm where manifold's WebAssembly lies, for a host that moves files; left out in Node
 * @param pictures what unpacks them; PNG alone
 */
export async function loadMendTools(wasm?: string, pictures: MendTools['pictures'] = PNG_PICTURES): Promise<MendTools> {
  const [{ MeshoptSimplifier }, kernel] = await Promise.all([import('meshoptimizer'), loadSolidKernel(wasm)]);
  await MeshoptSimplifier.ready;
  return { simplifier: MeshoptSimplifier as unknown as MendTools['simplifier'], hull: hullBy(kernel), pictures };
}
