import { readdirSync, readFileSync } from 'node:fs';
import { createServer, type Server } from 'node:http';
import { resolve } from 'node:path';
import { fileURLToPath } from 'node:url';
import type { Express } from 'express';
import { count } from 'drizzle-orm';
import { pino } from 'pino';
import { makeApp } from './app';
import { openDatabase } from './database';
import { createLevel, levelVersion } from './db/levelStore';
import { addAsset, missingAssets } from './db/assetStore';
import { connect, migrateDatabase, underLock, type Database } from './db/open';
import { levels } from './db/schema';
import { StartFault } from './fault';
import { openJobs, type Jobs } from './jobs/jobs';
import { KEEP_ALIVE_MS } from './keepAlive';
import { useNativeDeflate } from './nativeDeflate';
import { readPackage } from '@rammer/core/io/package';
import { sha256 } from '@rammer/core/num/sha256';

const root = fileURLToPath(new URL('../..', import.meta.url));

/** How long an orderly end may take. */
const CLOSE_MS = 30_000;

/** Starts the server and prints where it is. @throws StartFault in one line; then nothing is left running */
export async function start(): Promise<void> {
  const log = pino({ level: process.env.RAMMER_LOG ?? 'warn' });
  const port = portFrom(process.env.RAMMER_PORT);
  useNativeDeflate();
  // The port first: where it is taken nothing else is begun.
  let app: Express | undefined;
  const server = createServer((req, res) => {
    if (app) app(req, res);
    else
      res
        .writeHead(503, { 'Content-Type': 'application/problem+json', 'Retry-After': '1' })
        .end('{"type":"about:blank","title":"Rammer is starting","status":503,"code":"starting"}');
  });
  server.requestTimeout = 120_000;
  server.headersTimeout = 15_000;
  server.keepAliveTimeout = KEEP_ALIVE_MS;
  server.maxConnections = 1000;
  await listen(server, port);
  const notes: string[] = [];
  let stop: (() => Promise<void>) | undefined;
  // Whoever is told to end while it starts ends once it has, so that no database is left running.
  let ended!: () => void;
  const begun = new Promise<void>((done) => {
    ended = done;
  });
  let closing = false;
  const close = () => {
    if (closing) return;
    closing = true;
    void begun.then(() => stop?.()).finally(() => process.exit(0));
    // Whatever does not end by then ends with the process; the database is safe either way.
    void begun.then(() => {
      setTimeout(() => process.exit(0), CLOSE_MS);
    });
  };
  process.on('SIGTERM', close);
  process.on('SIGINT', close);
  try {
    const { url, cluster } = await openDatabase((line) => notes.push(line));
    stop = async () => {
      await cluster?.stop();
    };
    await migrateDatabase(url);
    const { db, pool } = connect(url, (error) => log.warn(error, 'a database connection was lost'));
    const { pool: health } = connect(url, () => {}, 1);
    const trouble = (error: unknown) => {
      log.error(error);
    };
    const jobs = await openJobs({ db, pool, url, log: trouble });
    let lastEnsure = 0;
    /** Our own cluster is started again when it has died; at most every two seconds. */
    const reviveDatabase = () => {
      if (!cluster || Date.now() - lastEnsure < 2000) return;
      lastEnsure = Date.now();
      void cluster.ensure().catch(trouble);
    };
    const names = ['127.0.0.1', 'localhost', '[::1]'];
    const ports = [port, ...(process.env.RAMMER_DEV_PORT ? [Number(process.env.RAMMER_DEV_PORT)] : [])];
    const made = makeApp({
      db,
      health,
      jobs,
      log: trouble,
      onDatabaseAway: reviveDatabase,
      web: resolve(root, 'web/dist'),
      hosts: () => names.flatMap((n) => ports.map((p) => `${n}:${p}`)),
    });
    const seed = async () => {
      await seedKit(db);
      await seedDemo(db, jobs);
    };
    await underLock(url, seed);
    app = made;
    stop = async () => {
      server.closeAllConnections();
      server.close();
      await jobs.close();
      await Promise.all([pool.end(), health.end()]).catch(() => {});
      await cluster?.stop();
    };
  } catch (error) {
    server.close();
    await stop?.().catch(() => {});
    throw error;
  }
  ended();
  if (closing) return;
  for (const note of notes) console.log(note);
  console.log(`Rammer is ready at http://127.0.0.1:${port}`);
}

function portFrom(text = '4600'): number {
  const port = Number(text);
  if (!/^\d+$/.test(text.trim()) || port < 1 || port > 65_535) throw new StartFault(`RAMMER_PORT must be a port number from 1 to 65535, not "${text}".`);
  return port;
}

function listen(server: Server, port: number): Promise<void> {
  return new Promise((done, fail) => {
    server.once('error', (error: NodeJS.ErrnoException) => {
      fail(
        new StartFault(
          error.code === 'EADDRINUSE'
            ? `port ${port} is in use: set RAMMER_PORT to another one.`
            : error.code === 'EACCES'
              ? `port ${port} may not be opened by this user: set RAMMER_PORT to one over 1023.`
              : `port ${port} cannot be opened: ${error.message}.`,
        ),
      );
    });
    server.listen(port, '127.0.0.1', () => done());
  });
}

/** The shipped kit and plants are always there to choose from. */
async function seedKit(db: Database): Promise<void> {
  const folder = resolve(root, 'demo/kit');
  const files = readdirSync(folder)
    .filter((f) => f.endsWith('.glb'))
    .sort()
    .map((file) => ({ file, bytes: new Uint8Array(readFileSync(resolve(folder, file))) }));
  const missing = new Set(
    await missingAssets(
      db,
      files.map(({ bytes }) => sha256(bytes)),
    ),
  );
  for (const { file, bytes } of files) {
    if (!missing.has(sha256(bytes))) continue;
    const added = await addAsset(db, bytes, file);
    if (!added.ok) throw new Error(`the shipped asset ${file} cannot be read: ${added.message}`);
  }
}

/** An empty database gets the demo, and its first check is started so that the list can say how it stands. */
async function seedDemo(db: Database, jobs: Jobs): Promise<void> {
  const [{ n }] = await db.select({ n: count() }).from(levels);
  if (n > 0) return;
  const opened = readPackage(new Uint8Array(readFileSync(resolve(root, 'demo/harrow-ledge-small.rammer.zip'))));
  if (!opened.ok) throw new Error(`the demo cannot be opened: ${opened.message}`);
  const id = await createLevel(db, opened.value);
  await jobs.start({ kind: 'check', level: id, version: (await levelVersion(db, id))! });
}
