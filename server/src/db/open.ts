import { fileURLToPath } from 'node:url';
import { drizzle, type NodePgDatabase } from 'drizzle-orm/node-postgres';
import { migrate } from 'drizzle-orm/node-postgres/migrator';
import type { PgTransactionConfig } from 'drizzle-orm/pg-core';
import pg from 'pg';
import { databaseIsAway } from '../problem';
import * as schema from './schema';
import { upgradeLevels } from './upgradeLevels';

export type Database = NodePgDatabase<typeof schema> & { $client: pg.Pool };
export type Transaction = Parameters<Parameters<Database['transaction']>[0]>[0];

/** @param onError told of connections that were lost */
export function connect(url: string, onError: (error: Error) => void = () => {}, max = 8): { pool: pg.Pool; db: Database } {
  // A database that is away refuses at once; a machine that is busy may take seconds to let one in.
  const pool = new pg.Pool({ connectionString: url, max, connectionTimeoutMillis: 12_000 });
  // A lost connection must not end the process, neither an idle one nor one that is in use: the query that was
  // under way is refused, and the next opens a new one.
  pool.on('error', onError);
  pool.on('connect', (client) => {
    client.on('error', onError);
  });
  const db = drizzle(pool, { schema });
  db.transaction = (work, config) => inTransaction(pool, work, config);
  return { pool, db };
}

/**
 * A transaction on a connection of the pool, which gets it back however that ends. (Drizzle's own keeps a connection
 * for ever whose `begin` failed: a database that went away eight times left none.)
 */
async function inTransaction<T>(pool: pg.Pool, work: (tx: Transaction) => Promise<T>, config?: PgTransactionConfig): Promise<T> {
  const client = await pool.connect();
  let failed: unknown;
  try {
    return (await drizzle(client, { schema }).transaction(work as never, config)) as T;
  } catch (error) {
    failed = error;
    throw error;
  } finally {
    client.release(failed !== undefined && databaseIsAway(failed));
  }
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
