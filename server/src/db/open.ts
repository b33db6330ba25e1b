import { fileURLToPath } from 'node:url';
import { drizzle } from 'drizzle-orm/node-postgres';
import { migrate } from 'drizzle-orm/node-postgres/migrator';
import pg from 'pg';
import * as schema from './schema';

export type Database = ReturnType<typeof connect>['db'];
export type Transaction = Parameters<Parameters<Database['transaction']>[0]>[0];

export function connect(url: string, onError: (error: Error) => void = () => {}) {
  // A database that is away refuses at once; a machine that is busy may take seconds to let one in.
  const pool = new pg.Pool({ connectionString: url, max: 8, connectionTimeoutMillis: 12_000 });
  // A dropped idle connection must not end the process; the next query opens a new one.
  pool.on('error', onError);
  return { pool, db: drizzle(pool, { schema }) };
}

const MIGRATION_LOCK = 7_214_001;

/** Brings the schema up to date. Two servers at once take turns: migrations are not safe side by side. */
export async function migrateDatabase(url: string): Promise<void> {
  const { pool, db } = connect(url);
  const lock = await pool.connect();
  try {
    await lock.query('select pg_advisory_lock($1)', [MIGRATION_LOCK]);
    await migrate(db, { migrationsFolder: fileURLToPath(new URL('./migrations', import.meta.url)) });
  } finally {
    await lock.query('select pg_advisory_unlock($1)', [MIGRATION_LOCK]).catch(() => {});
    lock.release();
    await pool.end();
  }
}
