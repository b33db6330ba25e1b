import type { Pool } from 'pg';
import type { Database } from '../db/open';
import { databaseIsAway, Problem } from '../problem';
import { Crew } from './crew';
import { sendEdits, type EditsAnswer, type EditsAsked } from './desk';
import { addJob, cancelJob, jobsAhead, jobStates, jobView, sameJob, takeJob, type JobView, type JobWanted } from './jobRows';
import { openQueue } from './queue';
import { wakeEnded, type Waiting } from './waiting';
import { startWorker, type JobWorker } from './worker';

/** Long work as the routes see it: started and looked at, or waited for. */
export interface Jobs {
  /** Starts a job, or finds the one that does the same for the same version of a level. */
  start(wanted: JobWanted & { level: string; version: number }): Promise<JobView>;
  view(id: string): Promise<JobView | undefined>;
  cancel(id: string): Promise<JobView | undefined>;
  /** Does a job and gives what came of it. @throws Problem where it failed; `signal` cancels it */
  run(wanted: JobWanted, signal?: AbortSignal): Promise<{ result: unknown; output: Uint8Array | null }>;
  /** Applies a batch of edits: a large one in a child of its own, so that nobody waits for it and no check keeps it waiting. */
  edits(asked: EditsAsked): Promise<EditsAnswer>;
  readonly worker: JobWorker | undefined;
  close(): Promise<void>;
}

/** Batches up to so many bytes are applied at once, in the server itself. */
const SMALL_BATCH = 192 << 10;
/** A child for large batches stands ready this long after the start, ms: late enough to leave the start alone. */
const WARM_MS = 2000;
/** Seconds a large batch may take. */
const BATCH_SECONDS = 120;
const WAIT_MS = 250;
/** What a job's fault is at the door; of the file it was given where it is not listed. */
const STATUS: Record<string, number> = { internal: 500, 'work-died': 500, 'level-missing': 404, 'disk-full': 503 };

export interface JobsOptions {
  db: Database;
  pool: Pool;
  url: string;
  log: (error: unknown) => void;
  /** children for jobs here; 0 leaves them to other machines */
  most?: number;
}

export async function openJobs({ db, pool, url, log, most }: JobsOptions): Promise<Jobs> {
  const queue = await openQueue(pool, url, (error) => {
    if (!databaseIsAway(error)) log(error);
  });
  const worker = most === 0 ? undefined : startWorker(db, queue, url, log, most === undefined ? {} : { most });
  const desk = new Crew({ url, most: 1, warm: WARM_MS });
  const waiting: Waiting = new Map();
  /** the last batch of each level: batches of one level take turns here, not in the database's locks */
  const turns = new Map<string, Promise<unknown>>();
  let deskTurn: Promise<unknown> = Promise.resolve();

  const look = (ids: readonly string[]) => {
    wakeEnded(waiting, ids, (asked) => jobStates(db, asked)).catch(() => {});
  };
  const poll = setInterval(() => look([...waiting.keys()]), WAIT_MS);
  worker?.onEnd((id) => look([id]));

  const add = async (wanted: JobWanted): Promise<string> => {
    const ahead = wanted.level ? await jobsAhead(db, wanted.level) : 0;
    const id = await addJob(db, wanted);
    await queue.send(id, ahead);
    worker?.poke();
    return id;
  };
  const cancel = async (id: string): Promise<void> => {
    await cancelJob(db, id);
    worker?.stop(id);
  };

  return {
    worker,
    async start(wanted) {
      const id = (await sameJob(db, wanted.kind, wanted.level, wanted.version)) ?? (await add(wanted));
      return (await jobView(db, id))!;
    },
    view: (id) => jobView(db, id),
    async cancel(id) {
      await cancel(id);
      return jobView(db, id);
    },
    async run(wanted, signal) {
      const id = await add(wanted);
      const gone = () => {
        waiting.get(id)?.();
      };
      signal?.addEventListener('abort', gone);
      await new Promise<void>((wake) => {
        waiting.set(id, wake);
        if (signal?.aborted) wake();
      });
      waiting.delete(id);
      signal?.removeEventListener('abort', gone);
      if (signal?.aborted) await cancel(id);
      const ended = await takeJob(db, id);
      if (ended?.state === 'done') return { result: ended.result, output: ended.output };
      if (!ended || ended.state !== 'failed') throw new Problem(409, 'job-cancelled', 'this was cancelled before it was done');
      throw new Problem(STATUS[ended.code ?? 'internal'] ?? 422, ended.code ?? 'internal', ended.error ?? 'Rammer failed at this');
    },
    edits(asked) {
      const work = async (): Promise<EditsAnswer> => {
        if (asked.body.length <= SMALL_BATCH) return sendEdits(db, asked);
        const mine = deskTurn.then(() => desk.begin({ edits: asked }, BATCH_SECONDS).ended);
        deskTurn = mine;
        const how = await mine;
        if (how.kind === 'done') return how.value as EditsAnswer;
        if (how.kind === 'fault') throw new Problem(422, how.code, how.message);
        if (how.kind === 'failed') {
          log(new Error(`a batch of edits: ${how.message}`));
          throw new Problem(500, 'internal', 'Rammer failed at this. Nothing was changed; the server log says more.');
        }
        throw new Problem(
          503,
          how.kind === 'again' && how.why === 'away' ? 'database-away' : 'worker-away',
          'this could not be done just now; nothing was changed. Rammer tries again by itself.',
        );
      };
      const next = (turns.get(asked.levelId) ?? Promise.resolve()).then(work, work);
      turns.set(asked.levelId, next);
      void next
        .catch(() => {})
        .finally(() => {
          if (turns.get(asked.levelId) === next) turns.delete(asked.levelId);
        });
      return next;
    },
    async close() {
      clearInterval(poll);
      worker?.close();
      desk.close();
      await queue.close().catch(() => {});
    },
  };
}
