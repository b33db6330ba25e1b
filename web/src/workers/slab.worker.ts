import { expose, transfer } from 'comlink';
import { composeSlab, type SlabJob, type SlabResult } from '@rammer/core/earth/slab';
import { composeGroundSlab, type GroundSlab, type GroundSlabJob } from '@rammer/core/surface/slab';

const api = {
  heights(job: SlabJob): SlabResult {
    const slab = composeSlab(job);
    return transfer(slab, [slab.data.buffer, ...slab.made.map(([, data]) => data.buffer)]);
  },
  ground(job: GroundSlabJob): GroundSlab {
    const slab = composeGroundSlab(job);
    return transfer(slab, [slab.of.buffer, slab.weights.buffer, slab.topOf.buffer, slab.tops.buffer]);
  },
};

export type SlabWorker = typeof api;
expose(api);
