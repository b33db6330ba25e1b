import { parentPort, workerData } from 'node:worker_threads';
import { loadSolidKernel } from '@rammer/core/block/loadKernel';
import { needsKernel } from '@rammer/core/cost/parts';
import { readAssets } from '@rammer/core/io/readAssets';
import { makeLevel } from '@rammer/core/level/level';
import { isTrap } from '@rammer/core/play/recast';
import { checkLevel } from '@rammer/core/snag/checkLevel';
import { loadRecast } from './loadRecast';

const { objects, tiles, version, assets } = workerData as { objects: never[]; tiles: [string, Int32Array][]; version: number; assets: [string, Uint8Array][] };
try {
  const recast = await loadRecast();
  const level = makeLevel(objects, tiles, version, assets);
  const meshes = await readAssets(level);
  if (!meshes.ok) throw new Error(meshes.message);
  const check = checkLevel(level, recast, (progress) => {
    parentPort!.postMessage({ progress });
    return true;
  }, meshes.value, needsKernel(level) ? await loadSolidKernel() : undefined);
  parentPort!.postMessage({ check });
} catch (error) {
  parentPort!.postMessage({ failed: (error as Error).message, trap: isTrap(error) });
}
