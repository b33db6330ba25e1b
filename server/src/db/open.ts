import { fileURLToPath } from 'node:url';
import { drizzle } from 'drizzle-orm/node-postgres';
import { migrate } from 'drizzle-orm/node-postgres/migrator';
import pg from 'pg';
import * as schema from './schema';
import { upgradeLevels } from './upgradeLevels';

export type Database = ReturnType<typeof connect>['db'];
export type Transaction = Parameters<Parameters<Database['transaction']>[0]>[0];

/** @param onError told of connections that were lost */
export function connect(url: string, onError: (error: Error) => void = () => {}, max = 8) {
  // A database that is away refuses at once; a machine that is busy may take seconds to let one in.
  const pool = new pg.Pool({ connectionString: url, max, connectionTimeoutMillis: 12_000 });
  // A lost connection must not end the process, neither an idle one nor one that is in use: the query that was
  // under way is refused, and the next opens a new one.
  pool.on('error', onError);
  pool.on('connect', (client) => { client.on('error', onError); });
  return { pool, db: drizzle(pool, { schema }) };
}

const LOCK = 7_214_001;

/** Does something that two servers must not do side by side. */
export async function underLock<T>(url: string, work: () => Promise<T>): Promise<T> {
  const client = new pg.Client({ connectionString: url, connectionTimeoutMillis: 12_000 });
  client.on('error', () => {});
  await client.connect();
  try {
    await client.query('select pg_advisory_lock($1)', [LOCK]);
    return await work();
  } finally {
    // The lock goes with the connection.
    await client.end().catch(() => {});
  }
}

/** Brings the schema and what is kept by it up to date. */
export async function migrateDatabase(url: string): Promise<void> {
  await underLock(url, async () => {
    const { pool, db } = connect(url, () => {}, 2);
    try {
      await migrate(db, { migrationsFolder: fileURLToPath(new URL('./migrations', import.meta.url)) });
      await upgradeLevels(db);
    } finally {
      await pool.end();
    }
  });
}
