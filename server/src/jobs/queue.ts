import PgBoss from 'pg-boss';
import type { Pool } from 'pg';
import { underLock } from '../db/open';

/** The queue's name in the database. */
const QUEUE = 'rammer-jobs';

/** Jobs that wait, by their ids, those of the level that has fewest in hand first. */
export interface Queue {
  send(id: string, ahead: number): Promise<void>;
  /** the next that waits */
  take(): Promise<string | undefined>;
  close(): Promise<void>;
}

/**
 * The queue in PostgreSQL. Only the order of jobs is in it: what is asked, how far it is and what came of it is in
 * the table of jobs, so that a job is given out once and lost by nobody.
 */
export async function openQueue(pool: Pool, url: string, log: (error: unknown) => void): Promise<Queue> {
  const boss = new PgBoss({
    db: { executeSql: (text, values) => pool.query(text, values as never) },
    schedule: false,
    supervise: false,
    retryLimit: 0,
    archiveCompletedAfterSeconds: 60,
    deleteAfterMinutes: 5,
  });
  boss.on('error', log);
  // Two servers that start at once must not make its tables side by side.
  await underLock(url, async () => {
    await boss.start();
    await boss.createQueue(QUEUE, { name: QUEUE, policy: 'standard', retryLimit: 0, expireInMinutes: 5 });
  });
  return {
    async send(id, ahead) {
      await boss.send(QUEUE, { id }, { priority: -ahead, retryLimit: 0 });
    },
    async take() {
      const [job] = await boss.fetch<{ id: string }>(QUEUE);
      if (!job) return undefined;
      // Given out is done here: the table of jobs knows whether it ends well.
      await boss.deleteJob(QUEUE, job.id);
      return job.data.id;
    },
    // It may wait for a database that is away: nobody needs to wait with it.
    close: () =>
      Promise.race([
        boss.stop({ graceful: false, close: false, wait: false }),
        new Promise<void>((go) => {
          setTimeout(go, 2000).unref();
        }),
      ]),
  };
}
