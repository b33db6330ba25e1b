import { parentPort, workerData } from 'node:worker_threads';
import { makeLevel } from '@rammer/core/level/level';
import { isTrap } from '@rammer/core/play/recast';
import { checkLevel } from '@rammer/core/snag/checkLevel';
import { loadRecast } from './loadRecast';

const { objects, tiles, version } = workerData as { objects: never[]; tiles: [string, Int32Array][]; version: number };
try {
  const recast = await loadRecast();
  const check = checkLevel(makeLevel(objects, tiles, version), recast, (progress) => {
    parentPort!.postMessage({ progress });
    return true;
  });
  parentPort!.postMessage({ check });
} catch (error) {
  parentPort!.postMessage({ failed: (error as Error).message, trap: isTrap(error) });
}
