import { pino } from 'pino';
import { openDatabase } from './database';
import { connect } from './db/open';
import { StartFault } from './fault';
import { openQueue } from './jobs/queue';
import { startWorker } from './jobs/worker';
import { useNativeDeflate } from './nativeDeflate';

/**
 * `npm run worker`: takes jobs of the server at DATABASE_URL, on this machine or another. Any number may run; one that
 * ends, however, leaves its jobs to the others.
 */
async function work(): Promise<void> {
  if (process.env.DATABASE_URL === undefined)
    throw new StartFault('a worker needs DATABASE_URL, the database of the server whose jobs it takes: a server on this machine takes its own.');
  useNativeDeflate();
  const log = pino({ level: process.env.RAMMER_LOG ?? 'warn' });
  const { url } = await openDatabase(() => {});
  const { db, pool } = connect(url, (error) => log.warn(error, 'a database connection was lost'), 4);
  const { rows } = await pool.query<{ there: string | null }>("select to_regclass('public.jobs') as there");
  if (!rows[0].there) throw new StartFault('the database of DATABASE_URL holds no levels of this version of Rammer: start the server there first.');
  const trouble = (error: unknown) => {
    log.error(error);
  };
  const queue = await openQueue(pool, url, trouble);
  const worker = startWorker(db, queue, url, trouble);
  const close = () => {
    worker.close();
    // What ran here is put back to wait.
    setTimeout(() => {
      void queue
        .close()
        .then(() => pool.end())
        .finally(() => process.exit(0));
    }, 300);
  };
  process.once('SIGTERM', close);
  process.once('SIGINT', close);
  console.log("Rammer's worker is ready");
}

try {
  await work();
} catch (error) {
  console.error(`rammer: ${error instanceof StartFault ? error.message : `the worker could not start: ${(error as Error).message}`}`);
  process.exit(1);
}
