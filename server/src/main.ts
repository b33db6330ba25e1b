import { readdirSync, readFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { resolve } from 'node:path';
import { count } from 'drizzle-orm';
import { pino } from 'pino';
import { readPackage } from '@rammer/core/io/package';
import { makeApp } from './app';
import { openCluster, type Cluster } from './db/cluster';
import { addAsset } from './db/assetStore';
import { createLevel, readLevel } from './db/levelStore';
import { connect, migrateDatabase } from './db/open';
import { levels } from './db/schema';

const root = fileURLToPath(new URL('../..', import.meta.url));
const port = Number(process.env.RAMMER_PORT ?? 4600);
const data = resolve(process.env.RAMMER_DATA ?? resolve(root, '.data'));
const log = pino({ level: process.env.RAMMER_LOG ?? 'warn' });

if (!Number.isInteger(port) || port < 1 || port > 65535) {
  console.error(`RAMMER_PORT must be a port number from 1 to 65535, not "${process.env.RAMMER_PORT}".`);
  process.exit(2);
}

const cluster: Cluster | undefined = process.env.DATABASE_URL ? undefined : await openCluster(data);
const url = process.env.DATABASE_URL ?? cluster!.url;
await migrateDatabase(url);
const { db, pool } = connect(url, (error) => log.warn(error, 'a database connection was lost'));

let lastEnsure = 0;
/** Our own cluster is started again when it has died; at most every two seconds. */
const reviveDatabase = () => {
  if (!cluster || Date.now() - lastEnsure < 2000) return;
  lastEnsure = Date.now();
  setImmediate(() => cluster.ensure());
};

const names = ['127.0.0.1', 'localhost', '[::1]'];
const ports = [port, ...(process.env.RAMMER_DEV_PORT ? [Number(process.env.RAMMER_DEV_PORT)] : [])];
const { app, jobs } = makeApp({
  db, log: (error) => log.error(error), onDatabaseAway: reviveDatabase, web: resolve(root, 'web/dist'),
  hosts: () => names.flatMap((n) => ports.map((p) => `${n}:${p}`)),
});

await seedKit();
await seedDemo();

const server = app.listen(port, '127.0.0.1', (error?: Error) => {
  if (error) {
    console.error((error as NodeJS.ErrnoException).code === 'EADDRINUSE' ? `Port ${port} is in use. Set RAMMER_PORT to another one.` : error.message);
    process.exit(1);
  }
  console.log(`Rammer is ready at http://127.0.0.1:${port}`);
});
server.requestTimeout = 120_000;
server.headersTimeout = 15_000;
server.maxConnections = 200;

let closing = false;
const close = () => {
  if (closing) return;
  closing = true;
  jobs.close();
  server.closeAllConnections();
  server.close(() => {
    void pool.end().then(() => {
      cluster?.stop();
      process.exit(0);
    });
  });
};
process.on('SIGTERM', close);
process.on('SIGINT', close);

/** The shipped kit and plants are always there to choose from. */
async function seedKit(): Promise<void> {
  const folder = resolve(root, 'demo/kit');
  for (const file of readdirSync(folder).filter((f) => f.endsWith('.glb')).sort()) {
    const added = await addAsset(db, new Uint8Array(readFileSync(resolve(folder, file))), file);
    if (!added.ok) throw new Error(`the shipped asset ${file} cannot be read: ${added.message}`);
  }
}

/** An empty database gets the demo, and its first check is started so that the list can say how it stands. */
async function seedDemo(): Promise<void> {
  const [{ n }] = await db.select({ n: count() }).from(levels);
  if (n > 0) return;
  const opened = readPackage(new Uint8Array(readFileSync(resolve(root, 'demo/harrow-ledge-small.rammer.zip'))));
  if (!opened.ok) throw new Error(`the demo cannot be opened: ${opened.message}`);
  const id = await createLevel(db, opened.value);
  jobs.startCheck(id, (await readLevel(db, id, true))!);
}
