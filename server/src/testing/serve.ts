import { randomUUID } from 'node:crypto';
import type { AddressInfo } from 'node:net';
import pg from 'pg';
import { inject } from 'vitest';
import { makeEdit, type AnyEditBody, type Edit } from '@rammer/core/level/edits/index';
import { makeApp } from '../app';
import { connect, migrateDatabase } from '../db/open';
import { openJobs } from '../jobs/jobs';
import { KEEP_ALIVE_MS } from '../keepAlive';
import { useNativeDeflate } from '../nativeDeflate';

export interface Answer {
  status: number;
  type: string;
  body: any;
  headers: Headers;
}

useNativeDeflate();

/** A server on a database of its own. */
export async function serve({ web, ...options }: { most?: number; web?: string } = {}) {
  const admin = inject('clusterUrl');
  const name = `t_${randomUUID().replace(/-/g, '')}`;
  const client = new pg.Client(admin);
  await client.connect();
  await client.query(`create database ${name}`);
  const url = new URL(admin);
  url.pathname = `/${name}`;
  await migrateDatabase(url.href);
  const errors: unknown[] = [];
  const { db, pool } = connect(url.href);
  const { pool: health } = connect(url.href, () => {}, 1);
  let port = 0;
  const log = (e: unknown) => {
    errors.push(e);
  };
  const jobs = await openJobs({ db, pool, url: url.href, log, ...options });
  const app = makeApp({ db, health, jobs, ...(web ? { web } : {}), hosts: () => [`127.0.0.1:${port}`], log });
  const server = app.listen(0, '127.0.0.1');
  server.keepAliveTimeout = KEEP_ALIVE_MS;
  await new Promise((done) => server.once('listening', done));
  port = (server.address() as AddressInfo).port;
  const base = `http://127.0.0.1:${port}`;
  const call = async (method: string, path: string, body?: unknown, headers: Record<string, string> = {}): Promise<Answer> => {
    const raw = body instanceof Uint8Array || typeof body === 'string';
    const r = await fetch(base + path, {
      method,
      headers: { ...(body !== undefined && !raw ? { 'Content-Type': 'application/json' } : {}), ...headers },
      body: body === undefined ? undefined : raw ? (body as never) : JSON.stringify(body),
    });
    const type = r.headers.get('content-type') ?? '';
    const bytes = new Uint8Array(await r.arrayBuffer());
    return { status: r.status, type, headers: r.headers, body: type.includes('json') ? JSON.parse(new TextDecoder().decode(bytes)) : bytes };
  };
  return {
    base,
    url: url.href,
    db,
    pool,
    port,
    errors,
    call,
    jobs,
    async stop() {
      await jobs.close();
      server.closeAllConnections();
      await new Promise((done) => server.close(done));
      await Promise.all([pool.end(), health.end()]);
      await client.query(`drop database ${name} with (force)`);
      await client.end();
    },
  };
}

export const edit = (body: AnyEditBody, id: string = randomUUID()): Edit => makeEdit(body, id, body.kind);
export const block = (id: string, x = 1) =>
  ({ id, version: 1, kind: 'block', name: id, shape: 'box', size: [1, 1, 1], at: [x, 0, 1], turn: 0, hidden: false, out: false }) as never;
export const addBlock = (id: string, x = 1): Edit => edit({ kind: 'add', objects: [block(id, x)] });
export const NEW = {
  name: 'yard',
  tilesX: 2,
  tilesZ: 2,
  spacing: 0.5,
  seed: 3,
  body: {
    name: 'adult',
    figures: {
      height: 1.8,
      crouched: 1.2,
      eye: 1.65,
      radius: 0.35,
      step: 0.4,
      maxSlope: 45,
      walk: 2,
      run: 5,
      gravity: 9.81,
      jumpApex: 0.9,
      vault: 1.1,
      climb: 2,
      safeDrop: 4,
      wade: 0.9,
    },
  },
};
