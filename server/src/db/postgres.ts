import { execFileSync, spawn } from 'node:child_process';
import { existsSync, readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { StartFault } from '../fault';

/** PostgreSQL's own programs, run by the user its files belong to. */
const ROOT = '/usr/lib/postgresql';
/** The oldest that knows all that is asked of it. */
const OLDEST = 13;

export interface User {
  uid: number;
  gid: number;
}

/** Versions that are installed, the newest first. */
export function installedVersions(): number[] {
  if (!existsSync(ROOT)) return [];
  return readdirSync(ROOT)
    .map(Number)
    .filter((v) => v >= OLDEST && existsSync(join(ROOT, String(v), 'bin/initdb')))
    .sort((a, b) => b - a);
}

/** The programs for a cluster: those of the version that made it, or the newest for one that is yet to be made. */
export function binariesFor(cluster: string): string {
  const versions = installedVersions();
  if (versions.length === 0) throw new StartFault('PostgreSQL is not installed: run `apt-get install postgresql`, or set DATABASE_URL to a server of yours.');
  const file = join(cluster, 'PG_VERSION');
  if (!existsSync(file)) return join(ROOT, String(versions[0]), 'bin');
  const made = readFileSync(file, 'utf8').trim();
  if (!/^\d+$/.test(made))
    throw new StartFault(`${file} does not say which PostgreSQL made the data: restore the folder from a backup, or move it away to start afresh.`);
  if (versions.includes(Number(made))) return join(ROOT, made, 'bin');
  throw new StartFault(
    `the data in ${cluster} were made by PostgreSQL ${made}, and ${versions.join(', ')} is ` +
      `installed: run \`apt-get install postgresql-${made}\`, or restore a backup into a new data folder.`,
  );
}

/** The user whom a server run by root leaves the database to: PostgreSQL refuses to run as root. */
export function postgresUser(): User | undefined {
  if (process.getuid?.() !== 0) return undefined;
  try {
    const id = (flag: string) => Number(execFileSync('id', [flag, 'postgres'], { encoding: 'utf8', stdio: ['ignore', 'pipe', 'ignore'] }));
    return { uid: id('-u'), gid: id('-g') };
  } catch {
    throw new StartFault(
      'there is no user `postgres` to run the database, which refuses to run as ' +
        "root: install PostgreSQL from Debian's packages, or start Rammer as another user.",
    );
  }
}

/** Runs a program to its end without holding anything up. */
export function run(
  program: string,
  args: string[],
  options: { cwd?: string; user?: User; env?: NodeJS.ProcessEnv } = {},
): Promise<{ code: number | null; text: string }> {
  return new Promise((done) => {
    const child = spawn(program, args, {
      cwd: options.cwd,
      stdio: ['ignore', 'pipe', 'pipe'],
      env: { PATH: process.env.PATH, LC_ALL: 'C.UTF-8', ...options.env },
      ...options.user,
    });
    let text = '';
    for (const stream of [child.stdout, child.stderr])
      stream.on('data', (d: Buffer) => {
        text += d.toString();
      });
    child.once('error', (error) => done({ code: null, text: error.message }));
    // The database goes on with these streams: what counts is the program's own end.
    child.once('exit', (code) => {
      setImmediate(() => {
        child.stdout.destroy();
        child.stderr.destroy();
        done({ code, text });
      });
    });
  });
}
