import { spawn, type ChildProcess } from 'node:child_process';
import { randomUUID } from 'node:crypto';
import { mkdtempSync, readdirSync, readFileSync, readlinkSync, rmSync } from 'node:fs';
import { createServer, type AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { deflateSync } from 'node:zlib';
import { strToU8, zipSync } from 'fflate';
import { SHIPPED_BODIES } from '@rammer/core/body/bodies';
import type { SingleEdit } from '@rammer/core/level/edits/edit';
import { makeEdit, type AnyEditBody, type Edit } from '@rammer/core/level/edits/index';
import { packRaster, toBase64 } from '@rammer/core/num/fixed';
import { clusterHome } from '../../server/src/db/cluster';

/**
 * `npm run trial -- kills [N]`, `-- soak [MINUTES]`, `-- cases`: the real server under kills, under steady work, and
 * under everything that is small and asks for much. Not a benchmark: it says what was lost, how long it took, how
 * quickly health was answered meanwhile and how much memory there was. Traffic goes to this machine alone.
 */
const root = fileURLToPath(new URL('../..', import.meta.url));
const sleep = (ms: number) => new Promise((go) => setTimeout(go, ms));
const MB = 1 << 20;
/** Whatever an answer holds. */
type Json = ReturnType<typeof JSON.parse>;

class Server {
  child!: ChildProcess;
  /** times the server ended though nobody ended it */
  deaths = 0;
  private wanted = false;
  constructor(
    readonly data: string,
    readonly port: number,
  ) {}
  get base(): string {
    return `http://127.0.0.1:${this.port}`;
  }

  static async make(): Promise<Server> {
    const port = await new Promise<number>((done) => {
      const probe = createServer().listen(0, '127.0.0.1', () => {
        const { port: p } = probe.address() as AddressInfo;
        probe.close(() => done(p));
      });
    });
    const server = new Server(mkdtempSync(join(tmpdir(), 'rammer-trial-')), port);
    await server.start();
    return server;
  }

  async start(): Promise<void> {
    const { DATABASE_URL: _, ...env } = process.env;
    const child = spawn(process.execPath, ['--import', 'tsx', join(root, 'server/src/main.ts')], {
      cwd: root,
      env: { ...env, RAMMER_PORT: String(this.port), RAMMER_DATA: this.data, RAMMER_LOG: 'silent' },
      stdio: ['ignore', 'pipe', 'inherit'],
    });
    this.child = child;
    this.wanted = false;
    child.once('exit', () => {
      if (!this.wanted) this.deaths++;
    });
    await new Promise<void>((done, fail) => {
      child.stdout!.on('data', (d: Buffer) => {
        if (d.toString().includes('ready')) done();
      });
      child.once('exit', (code) => fail(new Error(`the server ended with ${code}`)));
    });
  }

  async end(signal: NodeJS.Signals): Promise<void> {
    this.wanted = true;
    const gone = new Promise((done) => this.child.once('exit', done));
    this.child.kill(signal);
    await gone;
  }

  /** Processes of the database, the postmaster first. */
  database(): number[] {
    const cluster = join(clusterHome(this.data), 'cluster');
    const inside = readdirSync('/proc')
      .filter((n) => /^\d+$/.test(n))
      .map(Number)
      .filter((n) => {
        try {
          return readlinkSync(`/proc/${n}/cwd`) === cluster;
        } catch {
          return false;
        }
      });
    return inside.sort((a, b) => a - b);
  }

  async call(method: string, path: string, body?: unknown, again = false): Promise<{ status: number; body: Json }> {
    const raw = body instanceof Uint8Array || typeof body === 'string';
    try {
      const answer = await fetch(this.base + path, {
        method,
        headers: body === undefined ? {} : { 'Content-Type': raw ? 'application/octet-stream' : 'application/json' },
        body: body === undefined ? undefined : raw ? (body as never) : JSON.stringify(body),
      });
      const bytes = new Uint8Array(await answer.arrayBuffer());
      return { status: answer.status, body: answer.headers.get('content-type')?.includes('json') ? JSON.parse(new TextDecoder().decode(bytes)) : bytes };
    } catch (error) {
      // A connection that was kept open and closed by the server while this process was busy is tried once more.
      if (again && (error as { cause?: { code?: string } }).cause?.code === 'ECONNRESET') return this.call(method, path, body, false);
      return { status: 0, body: undefined };
    }
  }

  async clean(): Promise<void> {
    if (this.child.exitCode === null && this.child.signalCode === null) await this.end('SIGTERM');
    const home = clusterHome(this.data);
    rmSync(home, { recursive: true, force: true });
    rmSync(this.data, { recursive: true, force: true });
  }
}

const NEW = { name: 'trial', tilesX: 4, tilesZ: 4, spacing: 0.5, seed: 3, body: { name: 'adult', figures: SHIPPED_BODIES.adult } };
const CLIENT = 'trial-client-1';
const edit = (body: AnyEditBody): Edit => makeEdit(body, randomUUID(), body.kind);
const box = (id: string, at = 1) =>
  ({ id, version: 1, kind: 'block', name: id, shape: 'box', size: [1, 1, 1], at: [at, 0, 1], turn: 0, hidden: false, out: false }) as never;
const stroke = (value: number): SingleEdit => {
  const raster = new Int32Array(4225);
  raster[700] = value;
  return { kind: 'stroke', tiles: [{ key: 'hand/delta/0,0', delta: toBase64(packRaster(raster)) }] };
};

/** Edits go on while the server, its database or one of the database's processes is killed. */
async function kills(n: number): Promise<void> {
  const server = await Server.make();
  const {
    body: { id },
  } = await server.call('POST', '/api/levels', NEW);
  let version = 0;
  const acknowledged = new Set<string>();
  let ground = 0;
  let stop = false;
  const writing = (async () => {
    for (let i = 0; !stop; i++) {
      const batch = Array.from({ length: 12 }, (_, k) => edit({ kind: 'together', parts: [{ kind: 'add', objects: [box(`b${i}-${k}`)] }, stroke(1)] }));
      for (;;) {
        const answer = await server.call('POST', `/api/levels/${id}/edits`, { client: CLIENT, base: version, edits: batch });
        if (answer.status === 200) {
          version = answer.body.version;
          batch.forEach((_, k) => acknowledged.add(`b${i}-${k}`));
          ground += batch.length;
          break;
        }
        if (answer.status !== 0 && answer.status !== 503) throw new Error(`an answer of ${answer.status}: ${JSON.stringify(answer.body)}`);
        await sleep(60);
      }
    }
  })();
  const count = { database: 0, backend: 0, server: 0 };
  for (let k = 0; k < n; k++) {
    await sleep(150 + ((k * 7919) % 500));
    const what = k % 8 === 7 ? 'server' : k % 2 === 0 ? 'database' : 'backend';
    count[what]++;
    if (what === 'server') {
      await server.end('SIGKILL');
      await server.start();
      continue;
    }
    const pids = server.database();
    const victim = what === 'database' ? pids[0] : pids[pids.length - 1 - ((k * 31) % Math.max(1, pids.length - 1))];
    if (victim !== undefined)
      try {
        process.kill(victim, 'SIGKILL');
      } catch {
        /* gone */
      }
    for (let tries = 0; tries < 200 && (await server.call('GET', '/api/health')).status !== 200; tries++) await sleep(100);
  }
  stop = true;
  await writing;
  const level = (await server.call('GET', `/api/levels/${id}?tiles=1`)).body;
  const there = level.objects.filter((o: { id: string }) => /^b\d+-/.test(o.id)).map((o: { id: string }) => o.id) as string[];
  const lost = [...acknowledged].filter((b) => !there.includes(b)).length;
  const { unpackRaster } = await import('@rammer/core/num/fixed');
  const height = level.tiles.length === 0 ? 0 : unpackRaster(new Uint8Array(Buffer.from(level.tiles[0].data, 'base64')), 4225)[700];
  const log = (await server.call('GET', `/api/levels/${id}/edits?after=0`)).body;
  console.log(
    `${n} kills (${count.database} of the database, ${count.backend} of one of its processes, ${count.server} ` +
      `of the server): ${acknowledged.size} edits acknowledged, ${lost} lost, ${height - ground} doubled, ` +
      `version ${level.version}, folded to ${log.folded}; the server ended by itself ${server.deaths} times`,
  );
  await server.clean();
  if (lost > 0 || height !== ground || server.deaths > 0) process.exitCode = 1;
}

/** How quickly health answers, and the most memory, while something runs: seen from a process of its own. */
async function watched<T>(server: Server, work: () => Promise<T>): Promise<{ value: T; seconds: number; p99: number; worst: number; memory: number }> {
  const watch = spawn(process.execPath, [join(root, 'bench/src/trialWatch.mjs'), server.base, String(server.child.pid)], {
    stdio: ['pipe', 'pipe', 'inherit'],
  });
  let text = '';
  watch.stdout.on('data', (d: Buffer) => {
    text += d.toString();
  });
  const ended = new Promise((done) => watch.once('exit', done));
  const from = performance.now();
  const value = await work();
  const seconds = (performance.now() - from) / 1000;
  watch.stdin.end();
  await ended;
  return { value, seconds, ...(JSON.parse(text) as { p99: number; worst: number; memory: number }) };
}

/** A package of objects, made as another program would. */
const packageOf = (objects: object[], rasters: object[] = [], files: Record<string, Uint8Array> = {}) =>
  zipSync({ 'level.json': strToU8(JSON.stringify({ format: 'rammer-level', version: 6, objects, rasters })), ...files });
const settings = (tiles: number, spacing = 0.25) => [
  { id: 'settings', kind: 'settings', name: `${tiles} tiles`, tilesX: tiles, tilesZ: tiles, spacing, player: 'player' },
  { id: 'player', kind: 'body', name: 'adult', figures: SHIPPED_BODIES.adult },
  { id: 'hand', kind: 'lift', lift: 'hand', name: 'hand', order: 100, visible: true },
];

/** A grey picture of 16 bits, every sample the same. */
function greyPng(side: number, value: number): Uint8Array {
  const table = Array.from({ length: 256 }, (_, n) => {
    let c = n;
    for (let k = 0; k < 8; k++) c = c & 1 ? 0xedb88320 ^ (c >>> 1) : c >>> 1;
    return c >>> 0;
  });
  const crc = (b: Uint8Array) => {
    let c = 0xffffffff;
    for (const x of b) c = table[(c ^ x) & 255] ^ (c >>> 8);
    return (c ^ 0xffffffff) >>> 0;
  };
  const chunk = (type: string, data: Uint8Array) => {
    const body = Buffer.concat([Buffer.from(type), data]);
    const out = Buffer.alloc(body.length + 8);
    out.writeUInt32BE(data.length);
    body.copy(out, 4);
    out.writeUInt32BE(crc(body), body.length + 4);
    return out;
  };
  const head = Buffer.alloc(13);
  head.writeUInt32BE(side, 0);
  head.writeUInt32BE(side, 4);
  head.set([16, 0, 0, 0, 0], 8);
  const rows = Buffer.alloc(side * (1 + side * 2));
  for (let z = 0; z < side; z++) for (let x = 0; x < side; x++) rows.writeUInt16BE(value, z * (1 + side * 2) + 1 + x * 2);
  return new Uint8Array(
    Buffer.concat([Buffer.from([137, 80, 78, 71, 13, 10, 26, 10]), chunk('IHDR', head), chunk('IDAT', deflateSync(rows)), chunk('IEND', Buffer.alloc(0))]),
  );
}

/** What was measured from outside before, one after the other, with health asked for all the while. */
async function cases(only?: string): Promise<void> {
  const server = await Server.make();
  let worstP99 = 0;
  let most = 0;
  const one = async (name: string, work: () => Promise<{ status: number; body?: Json }>) => {
    if (only && !name.includes(only)) return undefined;
    const { value, seconds, p99, worst, memory } = await watched(server, work);
    worstP99 = Math.max(worstP99, p99);
    most = Math.max(most, memory);
    console.log(
      `${name.padEnd(58)} ${String(value.status).padStart(3)} ${(value.body?.code ?? '').padEnd(16)} ${seconds.toFixed(1).padStart(6)} ` +
        `s   health ${p99.toFixed(0).padStart(4)} ms (99 %), ${worst.toFixed(0)} worst   ${Math.round(memory / MB)} MB`,
    );
    return value;
  };
  const open = async (bytes: Uint8Array) => (await server.call('POST', '/api/levels/package', bytes)).body?.id as string;
  await one('plan of a plain level of 64 x 64 tiles', async () => server.call('GET', `/api/levels/${await open(packageOf(settings(64)))}/plan.png`));
  const blocks = (n: number, side: number) =>
    Array.from({ length: n }, (_, i) => ({ ...(box(`b${i}`) as object), size: [side, 4, side], at: [(i * 37) % 900, 0, (i * 91) % 900] }));
  await one('plan of 1,000 blocks of 40 m', async () =>
    server.call('GET', `/api/levels/${await open(packageOf([...settings(64), ...blocks(1000, 40)]))}/plan.png`),
  );
  await one('plan of 1,000 blocks of 900 m', async () =>
    server.call('GET', `/api/levels/${await open(packageOf([...settings(64), ...blocks(1000, 900)]))}/plan.png`),
  );
  const noise = Array.from({ length: 20 }, (_, i) => ({
    id: `n${i}`,
    kind: 'lift',
    lift: 'noise',
    name: `n${i}`,
    order: i,
    visible: true,
    seed: i,
    height: 3,
    scale: 40,
    octaves: 8,
    warp: 20,
  }));
  await one('plan of 20 warped noise lifts on 64 x 64 tiles', async () =>
    server.call('GET', `/api/levels/${await open(packageOf([...settings(64), ...noise]))}/plan.png`),
  );
  const hands = Array.from({ length: 12 }, (_, i) => ({ id: `h${i}`, kind: 'lift', lift: 'hand', name: `h${i}`, order: i, visible: true }));
  const shared = greyPng(4097, 7);
  await one(`12 rasters that share one picture, in ${Math.round(packageOf([...settings(64), ...hands], [], { 'r.png': shared }).length / 1024)} KB`, () =>
    server.call(
      'POST',
      '/api/levels/package',
      packageOf(
        [...settings(64), ...hands],
        hands.map((h) => ({ lift: h.id, channel: 'delta', offset: 0, low: 'r.png' })),
        { 'r.png': shared },
      ),
    ),
  );
  await one('a package of 4,096 hand tiles, in and out', async () => {
    const id = await open(packageOf(settings(64), [{ lift: 'hand', channel: 'delta', offset: 0, low: 'r.png' }], { 'r.png': shared }));
    return server.call('GET', `/api/levels/${id}/package`);
  });
  await one('an edit of 4,096 tiles', async () => {
    const id = await open(packageOf(settings(64)));
    const raster = Int32Array.from({ length: 4225 }, (_, i) => Math.round(900 * Math.sin(i / 300)));
    const delta = toBase64(packRaster(raster));
    const wide = edit({ kind: 'stroke', tiles: Array.from({ length: 4096 }, (_, i) => ({ key: `hand/delta/${i % 64},${Math.floor(i / 64)}`, delta })) });
    const from = performance.now();
    const answer = await server.call('POST', `/api/levels/${id}/edits`, { client: CLIENT, base: 0, edits: [wide] });
    console.log(`    of these the edit itself ${((performance.now() - from) / 1000).toFixed(1)} s, ${(JSON.stringify(wide).length / 1e6).toFixed(1)} MB`);
    return answer;
  });
  const brackets = zipSync({ 'level.json': strToU8('['.repeat(120_000_000)) });
  await sleep(500);
  await one('31 MB of [ as edits', async () => {
    const { body } = await server.call('POST', '/api/levels', NEW);
    return server.call('POST', `/api/levels/${body.id}/edits`, '['.repeat(31_000_000));
  });
  await one('a package whose level.json is 120 MB of [', () => server.call('POST', '/api/levels/package', brackets, true));
  await one('plants: 2,000 a 100 m2 on 64 x 64 tiles at 2 m, checked', async () => {
    const asset = (await server.call('GET', '/api/assets')).body.find((a: { role: string }) => a.role === 'plant');
    const glb = (await server.call('GET', `/api/assets/${asset.hash}`)).body as Uint8Array;
    const species = {
      id: 's',
      kind: 'species',
      name: 'heath',
      asset: 'a',
      order: 0,
      density: 2000,
      spacing: 0.1,
      clearance: 0,
      height: [0.3, 0.5],
      slenderness: [1, 1],
      lean: 0,
      tints: ['#668844'],
      seed: 1,
      rule: { on: true, slope: [0, 90], height: [-500, 500], soft: 0, grounds: [] },
    };
    const id = await open(
      packageOf([...settings(64, 2), { id: 'a', kind: 'asset', name: 'heath', role: 'plant', hash: asset.hash }, species], [], {
        [`assets/${asset.hash}.glb`]: glb,
      }),
    );
    return checked(server, id);
  });
  await one('the large demo, opened and checked', async () =>
    checked(server, await open(new Uint8Array(readFileSync(join(root, 'demo/harrow-ledge-large.rammer.zip'))))),
  );
  await one('300 voids through 300 cylinders, checked', async () => {
    const parts = Array.from({ length: 600 }, (_, i) => ({
      ...(box(`c${i}`) as object),
      shape: 'cylinder',
      size: [30, 30, 30],
      at: [20 + (i % 20), 0, 20 + Math.floor(i / 20) / 2],
      ...(i % 2 ? { op: 'void' } : {}),
    }));
    return checked(server, await open(packageOf([...settings(4), ...parts])));
  });
  console.log(
    `all of it: health within ${worstP99.toFixed(0)} ms (the worst 99th percentile of a row), server ` +
      `and workers at most ${Math.round(most / MB)} MB, the server ended by itself ${server.deaths} times`,
  );
  await server.clean();
}

/** Starts a check and waits for its end. */
async function checked(server: Server, id: string): Promise<{ status: number; body: { code: string } }> {
  let job = (await server.call('POST', `/api/levels/${id}/check`)).body;
  while (job.state === 'running') {
    await sleep(200);
    job = (await server.call('GET', `/api/jobs/${job.id}`)).body;
  }
  return { status: 200, body: { code: job.state === 'failed' ? job.code : job.state } };
}

/** Steady editing, reading, packing and checking: memory and log stay where they are. */
async function soak(minutes: number): Promise<void> {
  const server = await Server.make();
  const {
    body: { id },
  } = await server.call('POST', '/api/levels', NEW);
  let version = 0;
  let edits = 0;
  const until = Date.now() + minutes * 60_000;
  let next = Date.now() + 60_000;
  await server.call('POST', `/api/levels/${id}/edits`, { client: CLIENT, base: 0, edits: [edit({ kind: 'add', objects: [box('a')] })] });
  for (let i = 0; Date.now() < until; i++) {
    const batch = Array.from({ length: 10 }, (_, k) =>
      edit({ kind: 'together', parts: [{ kind: 'set', patches: [{ id: 'a', set: { turn: (i * 10 + k) % 360 } }] }, stroke(k % 2 ? 1 : -1)] }),
    );
    const answer = await server.call('POST', `/api/levels/${id}/edits`, { client: CLIENT, base: version, edits: batch });
    if (answer.status === 200) {
      version = answer.body.version;
      edits += batch.length;
    }
    if (i % 40 === 0) await server.call('GET', `/api/levels/${id}?tiles=1`);
    if (i % 200 === 0) await server.call('GET', `/api/levels/${id}/package`);
    if (i % 600 === 0) await checked(server, id);
    if (Date.now() > next) {
      next += 60_000;
      const { body: log } = await server.call('GET', `/api/levels/${id}/edits?after=0`);
      const { memory, p99 } = await watched(server, () => sleep(400));
      console.log(
        `${String(edits).padStart(7)} edits, server and workers ${Math.round(memory / MB)} MB, ` +
          `health ${p99.toFixed(0)} ms, log whole from version ${log.edits[0]?.version} of ${version}`,
      );
    }
    await sleep(150);
  }
  await server.clean();
}

const [what, number] = process.argv.slice(2);
if (what === 'kills') await kills(Number(number ?? 200));
else if (what === 'soak') await soak(Number(number ?? 20));
else if (what === 'cases') await cases(number);
else console.error('usage: npm run trial -- kills [N] | soak [MINUTES] | cases [PART OF A NAME]');
