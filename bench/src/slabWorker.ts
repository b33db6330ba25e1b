import { parentPort } from 'node:worker_threads';
import { composeSlab, type SlabJob } from '@rammer/core/earth/slab';

/** Composes the slabs it is sent, as a worker of the app does. */
parentPort!.on('message', (job: SlabJob) => {
  const slab = composeSlab(job);
  parentPort!.postMessage(slab, [slab.data.buffer, ...slab.made.map(([, data]) => data.buffer)] as ArrayBuffer[]);
});
