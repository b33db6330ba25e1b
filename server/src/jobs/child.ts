import { Worker } from 'node:worker_threads';
import { and, eq } from 'drizzle-orm';
import { TooMuch } from '@rammer/core/num/tooMuch';
import { isTrap } from '@rammer/core/num/trap';
import { connect } from '../db/open';
import { jobs } from '../db/schema';
import { useNativeDeflate } from '../nativeDeflate';
import { databaseIsAway, databaseIsFull, diskFull } from '../problem';
import { sendEdits } from './desk';
import { JobFault } from './kind';
import { JOB_KINDS, type JobKindName } from './kinds/index';
import type { ChildMessage, Task } from './crew';

/**
 * A process that does one piece of work at a time for the crew that started it. It reads what it needs from the
 * database and writes what comes of it there; to its parent it only tells how far it is.
 */
useNativeDeflate();
const { db } = connect(process.env.RAMMER_JOB_DATABASE!, () => {}, 2);
// A parent that has died hears nothing: the thread below ends this process then.
const say = (message: ChildMessage): void => {
  process.send?.(message, undefined, undefined, () => {});
};

// Work that never gives way hears nothing of a parent that died: a thread of its own looks for it.
new Worker(`setInterval(() => { if (process.ppid !== ${process.ppid}) process.kill(process.pid, 'SIGKILL'); }, 500)`, {
  eval: true,
  resourceLimits: { maxOldGenerationSizeMb: 8 },
});
process.on('disconnect', () => process.exit(0));

process.on('message', (task: Task) => {
  const run = 'edits' in task ? sendEdits(db, task.edits).then((answer) => say({ done: answer })) : runJob(task.job, task.attempt);
  run.catch((error: unknown) => {
    if (error instanceof JobFault || error instanceof TooMuch) say({ failed: error.message, code: error.code });
    else if (databaseIsFull(error)) say({ failed: diskFull().message, code: diskFull().code });
    else if (databaseIsAway(error)) say({ failed: 'the database went away', away: true });
    else say({ failed: (error as Error).stack ?? String(error), trap: isTrap(error) });
  });
});
say({ ready: true });

async function runJob(id: string, attempt: number): Promise<void> {
  const mine = and(eq(jobs.id, id), eq(jobs.state, 'running'), eq(jobs.tries, attempt));
  const [row] = await db.select({ kind: jobs.kind, levelId: jobs.levelId, input: jobs.input, file: jobs.file }).from(jobs).where(mine);
  if (row) {
    let told = 0;
    const done = await JOB_KINDS[row.kind as JobKindName].run(
      { id, ...(row.levelId ? { levelId: row.levelId } : {}), input: (row.input ?? {}) as Record<string, unknown>, ...(row.file ? { file: row.file } : {}) },
      db,
      (share) => {
        const now = performance.now();
        if (now - told < 100) return;
        told = now;
        say({ progress: share });
      },
    );
    await db
      .transaction(async (tx) => {
        const result = done.commit ? await done.commit(tx) : done.result;
        // A job that was cancelled or given to another meanwhile leaves nothing.
        const ended = await tx
          .update(jobs)
          .set({ state: 'done', progress: 1, result: result ?? null, output: done.output ?? null, file: null })
          .where(mine)
          .returning({ id: jobs.id });
        if (ended.length === 0) tx.rollback();
      })
      .catch((error: unknown) => {
        if ((error as Error).name !== 'TransactionRollbackError') throw error;
      });
  }
  say({ done: undefined });
}
