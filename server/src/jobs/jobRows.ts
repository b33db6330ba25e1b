import { randomUUID } from 'node:crypto';
import { and, eq, inArray, lt, sql } from 'drizzle-orm';
import type { Database } from '../db/open';
import { jobs } from '../db/schema';
import type { JobKindName } from './kinds/index';

/** A job as the door tells it. One that still waits for a worker counts as running. */
export interface JobView {
  id: string;
  kind: string;
  level?: string;
  /** version of the level it was asked for */
  version?: number;
  state: 'running' | 'done' | 'failed' | 'cancelled';
  /** whether no worker has taken it yet */
  waiting: boolean;
  progress: number;
  result?: unknown;
  code?: string;
  error?: string;
}

export interface JobWanted {
  kind: JobKindName;
  level?: string;
  version?: number;
  input?: Record<string, unknown>;
  file?: Uint8Array;
}

/** How often work that ended through no fault of its own is begun again. */
const MOST_TRIES = 3;
/** A worker that has not said for so long that it lives has died, ms. */
const SILENT_MS = 15_000;
/** How long what came of a job can be asked for. */
const KEPT = sql`interval '1 hour'`;

export async function addJob(db: Database, wanted: JobWanted): Promise<string> {
  const id = randomUUID();
  await db
    .insert(jobs)
    .values({ id, kind: wanted.kind, levelId: wanted.level ?? null, version: wanted.version ?? null, input: wanted.input ?? null, file: wanted.file ?? null });
  return id;
}

/** A job of a kind that is waiting or running for a level at a version. */
export async function sameJob(db: Database, kind: JobKindName, level: string, version: number): Promise<string | undefined> {
  const [row] = await db
    .select({ id: jobs.id })
    .from(jobs)
    .where(and(eq(jobs.levelId, level), eq(jobs.kind, kind), eq(jobs.version, version), inArray(jobs.state, ['queued', 'running'])))
    .limit(1);
  return row?.id;
}

/** How many jobs of a level wait or run: the more, the later its next is taken. */
export async function jobsAhead(db: Database, level: string): Promise<number> {
  const [row] = await db
    .select({ n: sql<number>`count(*)::int` })
    .from(jobs)
    .where(and(eq(jobs.levelId, level), inArray(jobs.state, ['queued', 'running'])));
  return row.n;
}

export async function jobView(db: Database, id: string): Promise<JobView | undefined> {
  const [row] = await db
    .select({
      id: jobs.id,
      kind: jobs.kind,
      level: jobs.levelId,
      version: jobs.version,
      state: jobs.state,
      progress: jobs.progress,
      result: jobs.result,
      code: jobs.code,
      error: jobs.error,
    })
    .from(jobs)
    .where(eq(jobs.id, id));
  if (!row) return undefined;
  return {
    id: row.id,
    kind: row.kind,
    ...(row.level ? { level: row.level } : {}),
    ...(row.version === null ? {} : { version: row.version }),
    state: row.state === 'queued' ? 'running' : row.state,
    waiting: row.state === 'queued',
    progress: row.progress,
    ...(row.state === 'done' && row.result !== null ? { result: row.result } : {}),
    ...(row.code ? { code: row.code } : {}),
    ...(row.error ? { error: row.error } : {}),
  };
}

/** States of some jobs, for who waits for them. */
export async function jobStates(db: Database, ids: readonly string[]): Promise<Map<string, string>> {
  const rows = await db
    .select({ id: jobs.id, state: jobs.state })
    .from(jobs)
    .where(inArray(jobs.id, [...ids]));
  return new Map(rows.map((r) => [r.id, r.state]));
}

/** What came of a job, taken away with it: for answers that are given once. */
export async function takeJob(
  db: Database,
  id: string,
): Promise<{ state: string; result: unknown; output: Uint8Array | null; code: string | null; error: string | null } | undefined> {
  const [row] = await db
    .delete(jobs)
    .where(eq(jobs.id, id))
    .returning({ state: jobs.state, result: jobs.result, output: jobs.output, code: jobs.code, error: jobs.error });
  return row;
}

/** Takes a waiting job. @returns its kind and the number of this try, or `undefined` where another was quicker */
export async function claimJob(db: Database, id: string): Promise<{ kind: JobKindName; attempt: number } | undefined> {
  const [row] = await db
    .update(jobs)
    .set({ state: 'running', tries: sql`${jobs.tries} + 1`, seenAt: sql`now()` })
    .where(and(eq(jobs.id, id), eq(jobs.state, 'queued')))
    .returning({ kind: jobs.kind, attempt: jobs.tries });
  return row && { kind: row.kind as JobKindName, attempt: row.attempt };
}

/** Says that a job's worker lives. @returns whether the job is still to be done */
export async function tellJob(db: Database, id: string, attempt: number, progress: number): Promise<boolean> {
  const rows = await db
    .update(jobs)
    .set({ progress, seenAt: sql`now()` })
    .where(and(eq(jobs.id, id), eq(jobs.state, 'running'), eq(jobs.tries, attempt)))
    .returning({ id: jobs.id });
  return rows.length > 0;
}

export async function failJob(db: Database, id: string, attempt: number, code: string, error: string): Promise<void> {
  await db
    .update(jobs)
    .set({ state: 'failed', code, error, file: null })
    .where(and(eq(jobs.id, id), eq(jobs.state, 'running'), eq(jobs.tries, attempt)));
}

/** Puts a job back to wait. @param free whether this try does not count. @returns whether it will be tried again */
export async function requeueJob(db: Database, id: string, attempt: number, free: boolean): Promise<boolean> {
  if (attempt >= MOST_TRIES && !free) {
    await failJob(db, id, attempt, 'work-died', 'this was begun several times and ended each time before it was done; the server log says more');
    return false;
  }
  const rows = await db
    .update(jobs)
    .set({ state: 'queued', progress: 0, seenAt: sql`now()`, ...(free ? { tries: sql`${jobs.tries} - 1` } : {}) })
    .where(and(eq(jobs.id, id), eq(jobs.state, 'running'), eq(jobs.tries, attempt)))
    .returning({ id: jobs.id });
  return rows.length > 0;
}

export async function cancelJob(db: Database, id: string): Promise<void> {
  await db
    .update(jobs)
    .set({ state: 'cancelled', file: null })
    .where(and(eq(jobs.id, id), inArray(jobs.state, ['queued', 'running'])));
}

/** Forgets old jobs and finds those that a dead worker, or a queue that was lost, left behind. @returns jobs to be sent to the queue again */
export async function sweepJobs(db: Database): Promise<string[]> {
  await db.delete(jobs).where(and(inArray(jobs.state, ['done', 'failed', 'cancelled']), lt(jobs.seenAt, sql`now() - ${KEPT}`)));
  const lost = await db
    .select({ id: jobs.id, attempt: jobs.tries })
    .from(jobs)
    .where(and(eq(jobs.state, 'running'), lt(jobs.seenAt, sql`now() - ${`${SILENT_MS} milliseconds`}::interval`)));
  const again: string[] = [];
  for (const { id, attempt } of lost) if (await requeueJob(db, id, attempt, false)) again.push(id);
  const forgotten = await db
    .update(jobs)
    .set({ seenAt: sql`now()` })
    .where(and(eq(jobs.state, 'queued'), lt(jobs.seenAt, sql`now() - interval '60 seconds'`)))
    .returning({ id: jobs.id });
  return [...again, ...forgotten.map((f) => f.id)];
}
