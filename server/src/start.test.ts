import { spawn, type ChildProcess } from 'node:child_process';
import { existsSync, mkdirSync, mkdtempSync, readdirSync, readFileSync, readlinkSync, renameSync, rmSync, writeFileSync } from 'node:fs';
import { createServer, type AddressInfo, type Server } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { afterAll, describe, expect, inject, it } from 'vitest';
import { clusterHome } from './db/cluster';

const root = fileURLToPath(new URL('../..', import.meta.url));
const folders: string[] = [];

const freePort = (): Promise<number> =>
  new Promise((done) => {
    const probe = createServer().listen(0, '127.0.0.1', () => {
      const { port } = probe.address() as AddressInfo;
      probe.close(() => done(port));
    });
  });

/** A data folder of its own; taken away at the end with the cluster that belongs to it. */
function folder(): string {
  const made = mkdtempSync(join(tmpdir(), 'rammer-start-'));
  folders.push(made);
  return made;
}

/** Processes whose folder is in `home`: a database that was left running. */
const inside = (home: string): number[] =>
  readdirSync('/proc')
    .filter((n) => /^\d+$/.test(n))
    .flatMap((n) => {
      try {
        return readlinkSync(`/proc/${n}/cwd`).startsWith(home) ? [Number(n)] : [];
      } catch {
        return [];
      }
    });

interface Start {
  child: ChildProcess;
  port: number;
  out(): string;
  ready: Promise<boolean>;
  ended: Promise<number | null>;
}

async function start(data: string, env: Record<string, string> = {}): Promise<Start> {
  const port = env.RAMMER_PORT ? Number(env.RAMMER_PORT) : await freePort();
  const { DATABASE_URL: _, ...outer } = process.env;
  const child = spawn(process.execPath, ['--import', 'tsx', join(root, 'server/src/main.ts')], {
    cwd: root,
    env: { ...outer, RAMMER_PORT: String(port), RAMMER_DATA: data, RAMMER_LOG: 'silent', ...env },
    stdio: ['ignore', 'pipe', 'pipe'],
  });
  let text = '';
  const ended = new Promise<number | null>((done) => {
    child.once('exit', (code) => done(code));
  });
  const ready = new Promise<boolean>((done) => {
    for (const stream of [child.stdout!, child.stderr!])
      stream.on('data', (d: Buffer) => {
        text += d.toString();
        if (text.includes('Rammer is ready')) done(true);
      });
    void ended.then(() => done(false));
  });
  return { child, port, out: () => text, ready, ended };
}

async function stop(s: Start): Promise<number | null> {
  s.child.kill('SIGTERM');
  return s.ended;
}

/** A start that must fail: one line, exit 1, nothing left running. */
async function refused(data: string, env: Record<string, string>, says: RegExp): Promise<void> {
  const s = await start(data, env);
  expect(await s.ended).toBe(1);
  expect(s.out()).toMatch(says);
  expect(s.out().trim().split('\n')).toHaveLength(1);
  expect(s.out()).not.toMatch(/\n\s+at /);
}

const healthy = async (s: Start): Promise<number> => (await fetch(`http://127.0.0.1:${s.port}/api/health`)).status;

afterAll(async () => {
  for (const data of folders) {
    const home = existsSync(data) ? clusterHome(data) : undefined;
    if (home)
      for (const pid of inside(home))
        try {
          process.kill(pid, 'SIGKILL');
        } catch {
          /* gone */
        }
    if (home) rmSync(home, { recursive: true, force: true });
    rmSync(data, { recursive: true, force: true });
  }
});

describe('a start that cannot be', () => {
  it('names a port that is taken before it makes a database', async () => {
    const data = folder();
    const holder: Server = createServer().listen(0, '127.0.0.1');
    await new Promise((go) => holder.once('listening', go));
    const { port } = holder.address() as AddressInfo;
    await refused(data, { RAMMER_PORT: String(port) }, new RegExp(`port ${port} is in use`));
    holder.close();
    expect(existsSync(join(clusterHome(data), 'cluster'))).toBe(false);
    await refused(data, { RAMMER_PORT: 'forty' }, /RAMMER_PORT must be a port number/);
  });

  it('names a data folder that is a file, or cannot be made', async () => {
    const data = folder();
    const file = join(data, 'file');
    writeFileSync(file, 'x');
    await refused(file, {}, /data folder .* (is a file|cannot be made)/);
    await refused(join(file, 'under'), {}, /cannot be made: it, or a folder above it, is a file/);
    await refused('/proc/rammer', {}, /data folder \/proc\/rammer cannot be made/);
  });

  it('names what is wrong with DATABASE_URL', async () => {
    const data = folder();
    const given = new URL(inject('clusterUrl'));
    const with_ = (change: (url: URL) => void) => {
      const url = new URL(given);
      change(url);
      return url.href;
    };
    await refused(data, { DATABASE_URL: '' }, /DATABASE_URL is empty/);
    await refused(data, { DATABASE_URL: 'mysql://x' }, /is no address of PostgreSQL/);
    await refused(
      data,
      {
        DATABASE_URL: with_((u) => {
          u.port = '1';
        }),
      },
      /127.0.0.1:1.*nothing listens there/,
    );
    await refused(
      data,
      {
        DATABASE_URL: with_((u) => {
          u.password = 'wrong';
        }),
      },
      /refuses the user or the password/,
    );
    await refused(
      data,
      {
        DATABASE_URL: with_((u) => {
          u.pathname = '/nowhere';
        }),
      },
      /has no database of that name/,
    );
  });
});

describe('a data folder', () => {
  it('whose database cannot run is told in one line; one whose files only need mending starts', async () => {
    const data = folder();
    const first = await start(data);
    expect(await first.ready).toBe(true);
    expect(await stop(first)).toBe(0);
    const home = clusterHome(data);
    expect(inside(home)).toEqual([]);
    const cluster = join(home, 'cluster');
    const keep = (name: string) => {
      const text = readFileSync(join(home, name), 'utf8');
      return () => writeFileSync(join(home, name), text);
    };

    let back = keep('password');
    writeFileSync(join(home, 'password'), 'not it');
    await refused(data, {}, /the password in .*password is not that of the database/);
    renameSync(join(home, 'password'), join(home, 'aside'));
    await refused(data, {}, /password.* is missing/);
    renameSync(join(home, 'aside'), join(home, 'password'));
    back();

    back = keep('cluster/PG_VERSION');
    writeFileSync(join(cluster, 'PG_VERSION'), '9\n');
    await refused(data, {}, /made by PostgreSQL 9.*is installed/);
    writeFileSync(join(cluster, 'PG_VERSION'), 'many\n');
    await refused(data, {}, /does not say which PostgreSQL/);
    back();

    back = keep('cluster/postgresql.conf');
    writeFileSync(join(cluster, 'postgresql.conf'), 'fsync = perhaps\n');
    await refused(data, {}, /PostgreSQL did not start in .*fsync/);
    back();
    expect(inside(home)).toEqual([]);

    // A pid file that is broken, or names a process of somebody else, keeps nobody out.
    for (const text of ['', 'nonsense\n', `${process.pid}\n${cluster}\n1\n1\n\n127.0.0.1\n1\nready\n`]) {
      writeFileSync(join(cluster, 'postmaster.pid'), text);
      const s = await start(data);
      expect([await s.ready, await healthy(s)]).toEqual([true, 200]);
      expect(await stop(s)).toBe(0);
    }
    writeFileSync(join(home, 'port'), '17');
    const last = await start(data);
    expect(await last.ready).toBe(true);
    expect(await stop(last)).toBe(0);
    expect(inside(home)).toEqual([]);
  });

  it('with two servers at once: both start, and the one that stops leaves the other', async () => {
    const data = folder();
    const [a, b] = await Promise.all([start(data), start(data)]);
    expect(await Promise.all([a.ready, b.ready])).toEqual([true, true]);
    const listed = async (s: Start) => ((await (await fetch(`http://127.0.0.1:${s.port}/api/levels`)).json()) as unknown[]).length;
    expect([await listed(a), await listed(b)]).toEqual([1, 1]);
    expect(await stop(b)).toBe(0);
    expect([await healthy(a), await listed(a)]).toEqual([200, 1]);
    expect(await stop(a)).toBe(0);
    expect(inside(clusterHome(data))).toEqual([]);
  });

  it('whose start was killed at any moment starts the next time', async () => {
    const data = folder();
    for (const after of [700, 1100, 1500, 2000, 2600]) {
      const s = await start(data);
      await Promise.race([s.ready, new Promise((go) => setTimeout(go, after))]);
      s.child.kill('SIGKILL');
      await s.ended;
    }
    const s = await start(data);
    expect([await s.ready, s.out()]).toEqual([true, expect.stringContaining('ready')]);
    expect(await stop(s)).toBe(0);
  });

  it('says where its database is where it cannot be in there', async () => {
    const data = folder();
    const home = clusterHome(data);
    if (home.startsWith(data)) expect(existsSync(join(data, 'WHERE.txt'))).toBe(false);
    mkdirSync(join(data, 'open'), { mode: 0o755 });
    const s = await start(data);
    expect(await s.ready).toBe(true);
    expect(existsSync(join(data, 'WHERE.txt'))).toBe(!home.startsWith(data));
    if (!home.startsWith(data)) expect(readFileSync(join(data, 'WHERE.txt'), 'utf8')).toContain(home);
    expect(await stop(s)).toBe(0);
  });
});
