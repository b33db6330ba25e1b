import { cpus } from 'node:os';
import type { Database } from '../db/open';
import { databaseIsAway } from '../problem';
import { Crew, type CrewOptions, type Work } from './crew';
import { claimJob, failJob, jobsAhead, jobView, requeueJob, sweepJobs, tellJob } from './jobRows';
import { JOB_KINDS } from './kinds/index';
import type { Queue } from './queue';

/** How often the queue is asked when nobody said that something waits, and how often a running job's row is written. */
const POLL_MS = 400;
const TELL_MS = 300;
const SWEEP_MS = 5000;

export interface JobWorker {
  /** Looks into the queue at once. */
  poke(): void;
  /** Ends a job that runs here. */
  stop(id: string): void;
  /** Called when a job that ran here has ended, whichever way. */
  onEnd(listener: (id: string) => void): void;
  readonly crew: Crew;
  close(): void;
}

/** Takes jobs from the queue as long as a child is free, and keeps their rows: progress, cancel, end. */
export function startWorker(db: Database, queue: Queue, url: string, log: (error: unknown) => void, options: Partial<CrewOptions> = {}): JobWorker {
  const crew = new Crew({ url, most: Math.max(1, cpus().length), ...options });
  const running = new Map<string, Work>();
  const listeners: ((id: string) => void)[] = [];
  let closed = false;
  let looking = false;
  let again = false;
  const trouble = (error: unknown) => {
    if (!closed && !databaseIsAway(error)) log(error);
  };

  const run = async (id: string): Promise<void> => {
    const claimed = await claimJob(db, id);
    if (!claimed || closed) return;
    const { kind, attempt } = claimed;
    let progress = 0;
    const work = crew.begin({ job: id, attempt }, JOB_KINDS[kind].seconds, (share) => {
      progress = share;
    });
    running.set(id, work);
    const tell = setInterval(() => {
      tellJob(db, id, attempt, progress).then((wanted) => {
        if (!wanted) work.stop();
      }, trouble);
    }, TELL_MS);
    void work.ended.then(async (how) => {
      clearInterval(tell);
      running.delete(id);
      if (closed) {
        await requeueJob(db, id, attempt, true).catch(() => {});
        return;
      }
      try {
        if (how.kind === 'fault') await failJob(db, id, attempt, how.code, how.message);
        else if (how.kind === 'failed') {
          log(new Error(`job ${id} (${kind}): ${how.message}`));
          await failJob(db, id, attempt, 'internal', 'Rammer failed at this; the server log says more');
        } else if (how.kind === 'again') {
          log(new Error(`job ${id} (${kind}) is begun again: ${how.why}`));
          if (await requeueJob(db, id, attempt, how.why === 'room' || how.why === 'away')) await resend(id);
        }
      } catch (error) {
        // Its row says that it runs; the sweep finds it when nobody has spoken of it for a while.
        trouble(error);
      }
      for (const l of listeners) l(id);
      look();
    });
  };

  const resend = async (id: string): Promise<void> => {
    const job = await jobView(db, id);
    if (job) await queue.send(id, job.level ? await jobsAhead(db, job.level) : 0);
  };

  /** One look at a time; a poke during it makes another follow. */
  const look = (): void => {
    if (looking) {
      again = true;
      return;
    }
    looking = true;
    again = false;
    void (async () => {
      while (!closed && crew.free > 0) {
        const id = await queue.take();
        if (!id) break;
        await run(id);
      }
    })()
      .catch(trouble)
      .finally(() => {
        looking = false;
        if (again && !closed) look();
      });
  };

  const poll = setInterval(look, POLL_MS);
  const sweep = setInterval(() => {
    void sweepJobs(db)
      .then(async (ids) => {
        for (const id of ids) await resend(id);
      })
      .catch(trouble);
  }, SWEEP_MS);
  return {
    poke: look,
    stop: (id) => running.get(id)?.stop(),
    onEnd: (listener) => {
      listeners.push(listener);
    },
    crew,
    close() {
      closed = true;
      clearInterval(poll);
      clearInterval(sweep);
      crew.close();
    },
  };
}
