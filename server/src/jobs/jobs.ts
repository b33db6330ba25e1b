import { randomUUID } from 'node:crypto';
import { Worker } from 'node:worker_threads';
import type { Check } from '@rammer/core/snag/checkLevel';
import type { Level } from '@rammer/core/level/level';

export interface Job {
  id: string;
  kind: 'check';
  level: string;
  /** version of the level the job works on */
  version: number;
  state: 'running' | 'done' | 'failed' | 'cancelled';
  progress: number;
  result?: Check;
  error?: string;
}

/** Long work on the server, in worker threads of this process: start, look, cancel. */
export interface Jobs {
  startCheck(levelId: string, level: Level): Job;
  get(id: string): Job | undefined;
  cancel(id: string): Job | undefined;
  close(): void;
}

const KEPT = 100;

/** What a job needs of a worker thread; tests bring their own. */
export interface JobWorker {
  on(event: 'message', listener: (message: WorkerMessage) => void): unknown;
  on(event: 'error', listener: (error: Error) => void): unknown;
  terminate(): unknown;
}

export type WorkerMessage = { progress: number } | { check: Check } | { failed: string; trap: boolean };

const startWorker = (level: Level): JobWorker => new Worker(new URL('./checkWorker.boot.mjs', import.meta.url), {
  workerData: { objects: [...level.objects.values()], tiles: [...level.tiles], version: level.version, assets: [...level.assets] },
});

export function makeJobs(onCheck: (levelId: string, version: number, check: Check) => Promise<void>, log: (error: unknown) => void, start: (level: Level) => JobWorker = startWorker): Jobs {
  const jobs = new Map<string, Job>();
  const workers = new Map<string, JobWorker>();

  const run = (job: Job, level: Level, retry: boolean) => {
    const worker = start(level);
    workers.set(job.id, worker);
    const end = (state: Job['state'], error?: string) => {
      if (job.state !== 'running') return;
      job.state = state;
      if (error) job.error = error;
      workers.delete(job.id);
      void worker.terminate();
    };
    worker.on('message', (message) => {
      if ('progress' in message) job.progress = message.progress;
      else if ('failed' in message) {
        // After a trap the kernel's memory is not to be trusted: a new worker tries once more.
        if (message.trap && retry && job.state === 'running') {
          void worker.terminate();
          run(job, level, false);
        } else end('failed', message.failed);
      } else {
        job.result = message.check;
        job.progress = 1;
        onCheck(job.level, job.version, message.check).then(() => end('done'), (error: unknown) => {
          log(error);
          end('failed', 'the result could not be stored');
        });
      }
    });
    worker.on('error', (error) => { log(error); end('failed', 'the check failed; the server log says more'); });
  };

  return {
    startCheck(levelId, level) {
      for (const job of jobs.values()) if (job.level === levelId && job.version === level.version && job.state === 'running') return job;
      const job: Job = { id: randomUUID(), kind: 'check', level: levelId, version: level.version, state: 'running', progress: 0 };
      jobs.set(job.id, job);
      for (const [id, old] of jobs) {
        if (jobs.size <= KEPT) break;
        if (old.state !== 'running') jobs.delete(id);
      }
      run(job, level, true);
      return job;
    },
    get: (id) => jobs.get(id),
    cancel(id) {
      const job = jobs.get(id);
      if (job?.state === 'running') {
        job.state = 'cancelled';
        void workers.get(id)?.terminate();
        workers.delete(id);
      }
      return job;
    },
    close() {
      for (const w of workers.values()) void w.terminate();
    },
  };
}
