import { transfer, wrap, type Remote } from 'comlink';
import type { Terrain } from '@rammer/core/earth/compose';
import { joinSlabs, slabJobs, type SlabSource } from '@rammer/core/earth/slab';
import type { Surface } from '@rammer/core/level/objects';
import type { Grid } from '@rammer/core/level/tiles';
import type { GroundRaster, GroundSource } from '@rammer/core/surface/ground';
import { groundSlabJobs, joinGround } from '@rammer/core/surface/slab';
import type { SlabWorker } from './slab.worker';

/** As many as there are cores, within reason: one level is composed by all of them at once. */
const COUNT = Math.min(4, Math.max(1, navigator.hardwareConcurrency));
/** Slabs of more samples than this are halved, so that no worker holds too much at once. */
const MOST_SAMPLES = 4_000_000;

interface Hand {
  worker: Worker;
  remote: Remote<SlabWorker>;
}
let hands: Hand[] = [];

/** Gives jobs to the workers one by one as they come free; results in the order of the jobs. A failure ends all workers: the next call starts others. */
async function share<Job, Result>(jobs: readonly Job[], run: (remote: Remote<SlabWorker>, job: Job) => Promise<Result>): Promise<Result[]> {
  while (hands.length < Math.min(COUNT, jobs.length)) {
    const worker = new Worker(new URL('./slab.worker.ts', import.meta.url), { type: 'module', name: `slab ${hands.length + 1}` });
    hands.push({ worker, remote: wrap<SlabWorker>(worker) });
  }
  const mine = hands;
  const results: Result[] = [];
  let next = 0;
  try {
    await Promise.all(
      mine.map(async ({ remote }) => {
        while (next < jobs.length) {
          const at = next++;
          results[at] = await run(remote, jobs[at]);
        }
      }),
    );
  } catch (error) {
    if (hands === mine) {
      for (const { worker } of mine) worker.terminate();
      hands = [];
    }
    throw error;
  }
  return results;
}

const slabCount = ({ nx, nz }: Grid): number => Math.max(COUNT, Math.ceil((nx * nz) / MOST_SAMPLES));

/** Composes a whole level. @param source as it is now: what changes later is not seen. Noise that had to be made joins its `noise`. */
export async function composeInSlabs(source: SlabSource & { noise: Map<string, Float32Array> }): Promise<Terrain> {
  const jobs = slabJobs(source, slabCount(source.grid));
  const slabs = await share(jobs, (remote, job) =>
    remote.heights(
      transfer(
        job,
        job.noise.map(([, rows]) => rows.data.buffer),
      ),
    ),
  );
  return joinSlabs(source.grid, source.noise, slabs);
}

/** Composes the whole ground of a level, likewise. */
export async function groundInSlabs(surfaces: Surface[], source: GroundSource): Promise<GroundRaster> {
  const { grid } = source.terrain;
  const jobs = groundSlabJobs(surfaces, source, slabCount(grid));
  const slabs = await share(jobs, (remote, job) => remote.ground(transfer(job, [job.heights.data.buffer, ...job.noise.map(([, rows]) => rows.data.buffer)])));
  return joinGround(grid, surfaces, slabs);
}
