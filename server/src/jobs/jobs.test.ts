import { EventEmitter } from 'node:events';
import { describe, expect, it } from 'vitest';
import type { Check } from '@rammer/core/snag/checkLevel';
import { makeLevel } from '@rammer/core/level/level';
import { makeJobs, type JobWorker, type WorkerMessage } from './jobs';

const CHECK = { reach: { reached: true }, snags: [] } as unknown as Check;

/** Worker threads that answer as they are told, one after the other. */
function staged(...answers: (WorkerMessage | Error)[][]) {
  const ended: number[] = [];
  let started = 0;
  const start = (): JobWorker => {
    const n = started++;
    const emitter = new EventEmitter();
    setImmediate(() => { for (const a of answers[n] ?? []) emitter.emit(a instanceof Error ? 'error' : 'message', a); });
    return Object.assign(emitter, { terminate: () => { ended.push(n); } }) as unknown as JobWorker;
  };
  return { start, ended, get started() { return started; } };
}

async function run(workers: ReturnType<typeof staged>) {
  const stored: number[] = [];
  const jobs = makeJobs(async (_id, version) => { stored.push(version); }, () => {}, workers.start);
  const job = jobs.startCheck('level', makeLevel([], [], 7));
  for (let i = 0; i < 50 && jobs.get(job.id)!.state === 'running'; i++) await new Promise((go) => setTimeout(go, 2));
  return { job: jobs.get(job.id)!, stored };
}

describe('a job', () => {
  it('after a trap gets a new worker and one more try', async () => {
    const workers = staged([{ progress: 0.4 }, { failed: 'memory access out of bounds', trap: true }], [{ progress: 0.5 }, { check: CHECK }]);
    const { job, stored } = await run(workers);
    expect(job).toMatchObject({ state: 'done', progress: 1, result: CHECK });
    expect(stored).toEqual([7]);
    expect(workers.started).toBe(2);
    expect(workers.ended).toEqual([0, 1]);
  });

  it('that traps twice has failed, and is not tried for ever', async () => {
    const trap = { failed: 'unreachable executed', trap: true };
    const workers = staged([trap], [trap], [{ check: CHECK }]);
    expect((await run(workers)).job).toMatchObject({ state: 'failed', error: 'unreachable executed' });
    expect(workers.started).toBe(2);
  });

  it('that fails by a fault of ours is not tried again', async () => {
    const workers = staged([{ failed: 'level has no settings', trap: false }], [{ check: CHECK }]);
    expect((await run(workers)).job).toMatchObject({ state: 'failed', error: 'level has no settings' });
    expect(workers.started).toBe(1);
  });

  it('whose worker dies says so', async () => {
    expect((await run(staged([new Error('out of memory')]))).job).toMatchObject({ state: 'failed', error: expect.stringContaining('server log') });
  });
});
