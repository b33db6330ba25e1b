import { spawn, type ChildProcess } from 'node:child_process';
import { existsSync, mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { createServer, type AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { clusterHome } from '../../server/src/db/cluster';

const root = fileURLToPath(new URL('../..', import.meta.url));

function freePort(): Promise<number> {
  return new Promise((done) => {
    const probe = createServer().listen(0, '127.0.0.1', () => {
      const { port } = probe.address() as AddressInfo;
      probe.close(() => done(port));
    });
  });
}

/** The real server with a data folder, a database cluster and a port of its own. */
export class Rammer {
  private child?: ChildProcess;
  private constructor(
    readonly data: string,
    readonly port: number,
  ) {}

  static async start(): Promise<Rammer> {
    const r = new Rammer(mkdtempSync(join(tmpdir(), 'rammer-e2e-')), await freePort());
    await r.serve();
    return r;
  }

  get base(): string {
    return `http://127.0.0.1:${this.port}`;
  }

  async serve(): Promise<void> {
    const child = spawn(process.execPath, ['--import', 'tsx', join(root, 'server/src/main.ts')], {
      cwd: root,
      env: { ...process.env, RAMMER_PORT: String(this.port), RAMMER_DATA: this.data, RAMMER_LOG: 'silent' },
      stdio: ['ignore', 'pipe', 'pipe'],
    });
    this.child = child;
    let text = '';
    await new Promise<void>((done, fail) => {
      child.stdout!.on('data', (d: Buffer) => {
        text += d.toString();
        if (text.includes('Rammer is ready')) done();
      });
      child.stderr!.on('data', (d: Buffer) => {
        text += d.toString();
      });
      child.once('exit', (code) => fail(new Error(`the server ended with ${code}: ${text}`)));
    });
  }

  /** Ends the server at once, as a crash would. */
  async killServer(): Promise<void> {
    const child = this.child!;
    if (child.exitCode !== null || child.signalCode !== null) return;
    const gone = new Promise((done) => child.once('exit', done));
    child.kill('SIGKILL');
    await gone;
  }

  /** Ends the database at once: the postmaster and whatever it started. */
  killDatabase(): boolean {
    const file = join(clusterHome(this.data), 'cluster/postmaster.pid');
    if (!existsSync(file)) return false;
    try {
      process.kill(Number(readFileSync(file, 'utf8').split('\n')[0]), 'SIGKILL');
      return true;
    } catch {
      return false;
    }
  }

  /** Stops everything and takes its folders away. */
  async stop(): Promise<void> {
    const child = this.child!;
    if (child.exitCode === null && child.signalCode === null) {
      const gone = new Promise((done) => child.once('exit', done));
      child.kill('SIGTERM');
      await Promise.race([gone, new Promise((go) => setTimeout(go, 15_000))]);
    }
    if (child.exitCode === null) child.kill('SIGKILL');
    this.killDatabase();
    rmSync(clusterHome(this.data), { recursive: true, force: true });
    rmSync(this.data, { recursive: true, force: true });
  }
}
