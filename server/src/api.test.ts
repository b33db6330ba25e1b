import { randomUUID } from 'node:crypto';
import { connect as dial } from 'node:net';
import { readFileSync } from 'node:fs';
import { deflateSync, strToU8, unzipSync, zipSync } from 'fflate';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { packRaster, toBase64 } from '@rammer/core/num/fixed';
import { readPackage } from '@rammer/core/io/package';
import { parseObject } from '@rammer/core/level/objects';
import { birchGlb, crateFiles, wallFiles } from '@rammer/core/testing/othersMeshes';
import { connect, migrateDatabase } from './db/open';
import { HEARTBEAT_MS, LEASE_MS } from '@rammer/core/level/lease';
import { addBlock, edit, NEW, serve } from './testing/serve';

let s: Awaited<ReturnType<typeof serve>>;
beforeAll(async () => {
  s = await serve();
});
afterAll(async () => {
  await s.stop();
  expect(s.errors).toEqual([]);
});

const ME = 'client-one-1';
const OTHER = 'client-two-2';
const made = async (more: object = {}): Promise<string> => (await s.call('POST', '/api/levels', { ...NEW, ...more })).body.id;
const send = (id: string, edits: unknown[], base = 0, client = ME, force = false) => s.call('POST', `/api/levels/${id}/edits`, { client, base, edits, force });
const objectsOf = async (id: string) => (await s.call('GET', `/api/levels/${id}`)).body;
const demo = new Uint8Array(readFileSync(new URL('../../demo/harrow-ledge-small.rammer.zip', import.meta.url)));
const upload = (bytes: Uint8Array | string) => s.call('POST', '/api/levels/package', bytes, { 'Content-Type': 'application/zip' });

describe('health and the description', () => {
  it('answers', async () => {
    expect((await s.call('GET', '/api/health')).body).toEqual({ ok: true });
    const { body } = await s.call('GET', '/api/openapi.json');
    expect(body.openapi).toBe('3.1.0');
    expect(Object.keys(body.paths)).toEqual(
      expect.arrayContaining(['/api/health', '/api/levels', '/api/levels/{id}/edits', '/api/levels/{id}/tiles', '/api/levels/{id}/package']),
    );
  });

  it('takes edits that are written by the words of its description alone', async () => {
    const id = await made({ name: 'by the book' });
    // A tile whose first two samples rise by 1 and 3 units: differences 1, 2, -3, 0 ...; zigzag 2, 4, 5, 0 ...; planes of bytes, deflated.
    const planes = new Uint8Array(65 * 65 * 4);
    planes.set([2, 4, 5]);
    const delta = Buffer.from(deflateSync(planes)).toString('base64');
    const edits = [
      {
        id: randomUUID(),
        version: 1,
        label: 'by hand',
        kind: 'together',
        reads: [],
        writes: ['o:line/to', 'o:line'],
        parts: [
          { kind: 'add', objects: [{ id: 'line', kind: 'measure', name: 'line', from: [0, 0, 0], to: [1, 0, 0] }] },
          { kind: 'set', patches: [{ id: 'line', set: { to: [2, 0, 0] } }] },
        ],
      },
      { id: randomUUID(), version: 1, label: 'by hand', kind: 'stroke', reads: [], writes: ['t:hand/delta/0,0'], tiles: [{ key: 'hand/delta/0,0', delta }] },
    ];
    expect((await send(id, edits)).body.results.map((r: { version?: number }) => r.version)).toEqual([1, 2]);
    const opened = readPackage(new Uint8Array((await s.call('GET', `/api/levels/${id}/package`)).body));
    if (!opened.ok) throw new Error(opened.message);
    expect(opened.value.object('line')).toMatchObject({ to: [2, 0, 0] });
    expect([...opened.value.tile('hand/delta/0,0')!.subarray(0, 4)]).toEqual([1, 3, 0, 0]);
    const { description } = (await s.call('GET', '/api/openapi.json')).body.paths['/api/levels/{id}/edits'].post;
    for (const word of ['o:<id>/<field>', 't:<tile key>', 'zigzag', 'edit-keys']) expect(description).toContain(word);
  });

  it('serves the pages the interface links to, as text, and no other file', async () => {
    const page = await fetch(`${s.base}/docs/numbers.md`);
    expect([page.status, page.headers.get('content-type'), (await page.text()).startsWith('# Numbers')]).toEqual([200, 'text/plain; charset=utf-8', true]);
    for (const path of ['/docs/package.md', '/docs/..%2fREADME.md', '/docs/level.schema.json', '/docs/'])
      expect([path, (await fetch(`${s.base}${path}`)).status]).toEqual([path, 404]);
  });

  it('sends the security headers that work', async () => {
    const { headers } = await s.call('GET', '/api/health');
    expect(headers.get('content-security-policy')).toContain("connect-src 'self' blob:");
    expect(headers.get('content-security-policy')).toContain("script-src 'self' 'wasm-unsafe-eval'");
    expect(headers.get('cross-origin-opener-policy')).toBe('same-origin');
    expect(headers.get('cross-origin-embedder-policy')).toBe('require-corp');
    expect(headers.get('x-powered-by')).toBeNull();
  });
});

describe('levels', () => {
  it('are made, listed, read and deleted', async () => {
    const id = await made({ name: 'first yard', tilesX: 3 });
    const row = (await s.call('GET', '/api/levels')).body.find((l: { id: string }) => l.id === id);
    expect(row).toMatchObject({ name: 'first yard', width: 96, depth: 64, blocks: 0, version: 0, check: null });
    const { objects, version } = await objectsOf(id);
    expect(version).toBe(0);
    expect(objects.map((o: { kind: string }) => o.kind)).toEqual([
      'settings',
      'body',
      'body',
      'lift',
      'lift',
      'surface',
      'surface',
      'surface',
      'surface',
      'groundRule',
      'lighting',
      'lighting',
      'lighting',
    ]);
    expect((await s.call('DELETE', `/api/levels/${id}`)).status).toBe(204);
    expect(await s.call('GET', `/api/levels/${id}`)).toMatchObject({ status: 404, body: { code: 'level-missing' } });
    expect((await s.call('DELETE', `/api/levels/${id}`)).status).toBe(404);
  });

  it('are refused where they make no sense, by problem+json', async () => {
    for (const bad of [
      { tilesX: 1 },
      { tilesZ: 65 },
      { spacing: 0.3 },
      { name: ' ' },
      { seed: -1 },
      { body: { name: 'x', figures: { ...NEW.body.figures, eye: 3 } } },
    ]) {
      const r = await s.call('POST', '/api/levels', { ...NEW, ...bad });
      expect(r).toMatchObject({ status: 400, body: { code: 'body-invalid', status: 400 } });
      expect(r.type).toContain('application/problem+json');
    }
    expect(await s.call('POST', '/api/levels', '{"name":', { 'Content-Type': 'application/json' })).toMatchObject({
      status: 400,
      body: { code: 'body-not-json' },
    });
    expect(await s.call('GET', '/api/levels/not-a-uuid')).toMatchObject({ status: 404 });
    expect(await s.call('GET', '/api/nowhere')).toMatchObject({ status: 404, body: { code: 'not-found' } });
  });
});

describe('edits', () => {
  it('are applied in order and answered with their versions', async () => {
    const id = await made();
    const r = await send(id, [addBlock('a'), edit({ kind: 'set', patches: [{ id: 'a', set: { turn: 30 } }] })]);
    expect(r.body).toMatchObject({ version: 2, rebased: false });
    expect((await objectsOf(id)).objects.find((o: { id: string }) => o.id === 'a')).toMatchObject({ turn: 30, version: 2 });
  });

  it('sent twice are applied once: the stored version is the answer', async () => {
    const id = await made();
    const e = addBlock('a');
    const first = await send(id, [e]);
    const again = await send(id, [e, addBlock('b')]);
    expect(again.body.results[0]).toEqual(first.body.results[0]);
    expect(again.body.version).toBe(2);
    expect((await s.call('GET', `/api/levels/${id}/edits?after=0`)).body.edits).toHaveLength(2);
  });

  it('on an older version are rebased where they are disjoint and refused where they are not', async () => {
    const id = await made();
    await send(id, [addBlock('a'), addBlock('b')]);
    await s.call('POST', `/api/levels/${id}/lease`, { client: OTHER, take: true });
    await send(id, [edit({ kind: 'set', patches: [{ id: 'a', set: { turn: 10 } }] })], 2, OTHER);
    await s.call('POST', `/api/levels/${id}/lease`, { client: ME, take: true });
    const apart = await send(
      id,
      [edit({ kind: 'set', patches: [{ id: 'a', set: { hidden: true } }] }), edit({ kind: 'set', patches: [{ id: 'b', set: { turn: 5 } }] })],
      2,
    );
    expect(apart.body).toMatchObject({ version: 5, rebased: true });
    const clash = edit({ kind: 'set', patches: [{ id: 'a', set: { turn: 77 } }] });
    const refused = await send(id, [clash], 2);
    expect(refused).toMatchObject({ status: 409, body: { code: 'conflict', version: 5 } });
    expect(refused.body.conflicts).toHaveLength(1);
    expect((await objectsOf(id)).version).toBe(5);
    expect((await send(id, [clash], 2, ME, true)).body.version).toBe(6);
    // A client's own edits never conflict with what it makes next.
    expect((await send(id, [edit({ kind: 'set', patches: [{ id: 'b', set: { turn: 6 } }] })], 3)).body.version).toBe(7);
  });

  it('that cannot be applied end the batch; those before stay, nothing is half done', async () => {
    const id = await made();
    const r = await send(id, [addBlock('a'), edit({ kind: 'remove', ids: ['a', 'nobody'] }), addBlock('c')]);
    expect(r.body.results).toMatchObject([{ version: 1 }, { code: 'object-missing' }]);
    expect(r.body.version).toBe(1);
    const ids = (await objectsOf(id)).objects.map((o: { id: string }) => o.id);
    expect(ids).toContain('a');
    expect(ids).not.toContain('c');
  });

  it('from a later version, with wrong keys or no sense are refused before anything is done', async () => {
    const id = await made();
    const good = addBlock('a');
    for (const [bad, code] of [
      [{ ...good, version: 9 }, 'edit-future'],
      [{ ...good, writes: [] }, 'edit-keys'],
      [{ ...good, id: 'x' }, 'edit-invalid'],
      [{}, 'edit-invalid'],
      [null, 'edit-invalid'],
    ] as const) {
      expect(await send(id, [addBlock('z'), bad])).toMatchObject({ status: 422, body: { code } });
    }
    expect((await objectsOf(id)).version).toBe(0);
    expect(await send(randomUUID(), [good])).toMatchObject({ status: 404, body: { code: 'level-missing' } });
    expect(await s.call('POST', `/api/levels/${id}/edits`, { client: 'x', base: 0, edits: [good] })).toMatchObject({ status: 400 });
  });

  it('change tiles by exact integer deltas', async () => {
    const id = await made();
    const delta = new Int32Array(65 * 65);
    delta[70] = 1234;
    const stroke = () => edit({ kind: 'stroke', tiles: [{ key: 'hand/delta/1,0', delta: toBase64(packRaster(delta)) }] });
    await send(id, [stroke(), stroke()]);
    const { tiles } = (await s.call('GET', `/api/levels/${id}/tiles`)).body;
    const twice = new Int32Array(65 * 65);
    twice[70] = 2468;
    expect(tiles).toEqual([{ key: 'hand/delta/1,0', data: Buffer.from(packRaster(twice)).toString('base64') }]);
    expect((await send(id, [edit({ kind: 'stroke', tiles: [{ key: 'hand/delta/9,0', delta: toBase64(packRaster(delta)) }] })])).body.results[0].code).toBe(
      'tile-invalid',
    );
  });

  it('of 40 clients at once each count once', async () => {
    const id = await made();
    const answers = await Promise.all(Array.from({ length: 40 }, (_, i) => send(id, [addBlock(`p${i}`)], 0)));
    expect(answers.map((a) => a.body.version).sort((a, b) => a - b)).toEqual(Array.from({ length: 40 }, (_, i) => i + 1));
    expect((await objectsOf(id)).objects).toHaveLength(53);
  });
});

describe('one writer', () => {
  const lease = (id: string, client: string, more: object = {}) => s.call('POST', `/api/levels/${id}/lease`, { client, ...more });

  it('holds the lease; another may read, take over, and then the first is told', async () => {
    const id = await made();
    expect((await lease(id, ME)).body).toMatchObject({ held: true });
    expect((await lease(id, OTHER)).body).toMatchObject({ held: false });
    expect(await send(id, [addBlock('a')], 0, OTHER)).toMatchObject({ status: 423, body: { code: 'not-writer' } });
    expect((await send(id, [addBlock('a')])).body.version).toBe(1);
    expect((await lease(id, OTHER, { take: true })).body).toMatchObject({ held: true, version: 1 });
    expect(await send(id, [addBlock('b')], 1)).toMatchObject({ status: 423 });
    expect((await lease(id, ME)).body.held).toBe(false);
    await lease(id, OTHER, { release: true });
    expect((await lease(id, ME)).body.held).toBe(true);
  });

  it('loses it after a silence', async () => {
    const id = await made();
    await lease(id, ME);
    const { pool } = connect(s.url);
    await pool.query("update levels set writer_until = now() - interval '1 second' where id = $1", [id]);
    await pool.end();
    expect((await lease(id, OTHER)).body.held).toBe(true);
    expect(LEASE_MS).toBeGreaterThan(HEARTBEAT_MS * 3);
  });
});

const bytesOf = (tile: Int32Array): Buffer => Buffer.from(tile.buffer, tile.byteOffset, tile.byteLength);

describe('packages', () => {
  it('in and out are the same level', async () => {
    const { status, body } = await upload(demo);
    expect(status).toBe(201);
    const out = await s.call('GET', `/api/levels/${body.id}/package`);
    expect(out.headers.get('content-disposition')).toBe('attachment; filename="harrow-ledge.rammer.zip"');
    const [a, b] = [readPackage(demo), readPackage(out.body)];
    expect(a.ok && b.ok).toBe(true);
    if (a.ok && b.ok) {
      expect([...b.value.objects.values()]).toEqual([...a.value.objects.values()]);
      const [was, is] = [a.value.tiles, b.value.tiles];
      expect([...is.keys()].sort()).toEqual([...was.keys()].sort());
      // Bytes, and not number by number: a server that stands still for seconds lets go of its connections.
      for (const [key, tile] of was) expect([key, Buffer.compare(bytesOf(is.get(key)!), bytesOf(tile))]).toEqual([key, 0]);
    }
  });

  it('have a small plan that follows the level', async () => {
    const id = (await upload(demo)).body.id as string;
    const first = await s.call('GET', `/api/levels/${id}/plan.png`);
    expect(first).toMatchObject({ status: 200, type: 'image/png' });
    expect([...first.body.subarray(1, 4)]).toEqual([...Buffer.from('PNG')]);
    expect(new DataView(first.body.buffer, first.body.byteOffset).getUint32(16)).toBe(240);
    expect(first.headers.get('etag')).toBe('"0"');
    await send(id, [
      edit({
        kind: 'add',
        objects: [{ id: 'big', version: 1, kind: 'block', name: 'big', shape: 'box', size: [40, 20, 40], at: [80, 0, 80], turn: 0, hidden: false, out: false }],
      }),
    ]);
    const second = await s.call('GET', `/api/levels/${id}/plan.png`);
    expect(second.headers.get('etag')).toBe('"1"');
    expect(Buffer.compare(Buffer.from(second.body), Buffer.from(first.body))).not.toBe(0);
    expect((await s.call('GET', `/api/levels/${randomUUID()}/plan.png`)).status).toBe(404);
  });

  it('that are hostile are refused by name and change nothing', async () => {
    const before = (await s.call('GET', '/api/levels')).body.length;
    const files = unzipSync(demo);
    const document = JSON.parse(new TextDecoder().decode(files['level.json']));
    const withLevel = (d: unknown) => zipSync({ ...files, 'level.json': strToU8(JSON.stringify(d)) });
    const cases: [Uint8Array, string][] = [
      [new Uint8Array(), 'zip-empty'],
      [demo.slice(0, 20_000), 'zip-truncated'],
      [strToU8('a picture, say'), 'zip-invalid'],
      [withLevel({ ...document, version: document.version + 1 }), 'package-future'],
      [zipSync({ ...files, 'level.json': strToU8(JSON.stringify(document).replace('"turn":8', '"turn":NaN')) }), 'package-json'],
      [zipSync({ '../climb.txt': strToU8('x') }), 'zip-path'],
    ];
    for (const [bytes, code] of cases) {
      const r = await upload(bytes);
      expect(r).toMatchObject({ status: 422, body: { code } });
      expect(r.type).toContain('problem+json');
    }
    expect((await s.call('GET', '/api/levels')).body).toHaveLength(before);
  });

  it('of 300 MB are refused in bounded memory', async () => {
    const chunk = new Uint8Array(1 << 20);
    let sent = 0;
    const body = new ReadableStream<Uint8Array>({
      pull(controller) {
        if (sent >= 300) controller.close();
        else {
          sent++;
          controller.enqueue(chunk);
        }
      },
    });
    const before = process.memoryUsage().rss;
    let most = 0;
    const watch = setInterval(() => {
      most = Math.max(most, process.memoryUsage().rss);
    }, 20);
    const r = await fetch(`${s.base}/api/levels/package`, {
      method: 'POST',
      body,
      duplex: 'half',
      headers: { 'Content-Type': 'application/zip' },
    } as RequestInit);
    clearInterval(watch);
    expect(r.status).toBe(413);
    expect(await r.json()).toMatchObject({ code: 'package-too-large' });
    expect(most - before).toBeLessThan(260 << 20);
  });
});

describe('a job', () => {
  it('checks a level, tells its progress, and its result is kept with the level', async () => {
    const id = (await upload(demo)).body.id as string;
    const job = (await s.call('POST', `/api/levels/${id}/check`)).body;
    expect(job.state).toBe('running');
    // The same level and version again is the same job.
    expect((await s.call('POST', `/api/levels/${id}/check`)).body.id).toBe(job.id);
    let now = job;
    const seen = new Set<number>();
    while (now.state === 'running') {
      await new Promise((go) => setTimeout(go, 50));
      now = (await s.call('GET', `/api/jobs/${job.id}`)).body;
      seen.add(now.progress);
    }
    expect(now).toMatchObject({ state: 'done', result: { reach: { reached: true } } });
    expect(seen.size).toBeGreaterThan(3);
    const row = async () => (await s.call('GET', '/api/levels')).body.find((l: { id: string }) => l.id === id);
    expect((await row()).check).toMatchObject({ reached: true, stale: false });
    await send(id, [addBlock('zz')]);
    expect((await row()).check.stale).toBe(true);
  });

  it('can be cancelled', async () => {
    const id = (await upload(demo)).body.id as string;
    const job = (await s.call('POST', `/api/levels/${id}/check`)).body;
    expect((await s.call('DELETE', `/api/jobs/${job.id}`)).body.state).toBe('cancelled');
    expect((await s.call('GET', `/api/jobs/${job.id}`)).body.state).toBe('cancelled');
    expect(await s.call('GET', `/api/jobs/${randomUUID()}`)).toMatchObject({ status: 404, body: { code: 'job-missing' } });
  });
});

describe('the door', () => {
  /** A request with headers that `fetch` will not send. */
  const raw = (headers: string) =>
    new Promise<string>((done) => {
      const socket = dial(s.port, '127.0.0.1', () => socket.write(`GET /api/levels HTTP/1.1\r\n${headers}\r\nConnection: close\r\n\r\n`));
      let text = '';
      socket.on('data', (d) => {
        text += d.toString();
      });
      socket.on('close', () => done(text));
    });

  it('answers only to its own name', async () => {
    expect(await raw(`Host: 127.0.0.1:${s.port}`)).toMatch(/^HTTP\/1.1 200/);
    for (const host of ['evil.example', `evil.example:${s.port}`, `127.0.0.1:${s.port + 1}`])
      expect(await raw(`Host: ${host}`)).toMatch(/^HTTP\/1.1 421[\s\S]*host-not-allowed/);
  });

  it('refuses other origins', async () => {
    expect(await raw(`Host: 127.0.0.1:${s.port}\r\nOrigin: http://127.0.0.1:${s.port}`)).toMatch(/^HTTP\/1.1 200/);
    for (const origin of ['http://evil.example', 'null', `https://127.0.0.1:${s.port}`])
      expect(await raw(`Host: 127.0.0.1:${s.port}\r\nOrigin: ${origin}`)).toMatch(/^HTTP\/1.1 403[\s\S]*origin-not-allowed/);
  });

  it('limits the size of a request', async () => {
    expect(await s.call('POST', '/api/levels', JSON.stringify({ ...NEW, name: 'x'.repeat(300_000) }), { 'Content-Type': 'application/json' })).toMatchObject({
      status: 413,
      body: { code: 'body-too-large' },
    });
  });
});

describe('migrations', () => {
  it('of two servers at once take turns', async () => {
    await Promise.all([migrateDatabase(s.url), migrateDatabase(s.url), migrateDatabase(s.url)]);
    expect((await s.call('GET', '/api/health')).status).toBe(200);
  });
});

describe('another size', () => {
  it('is a copy that opens, beside the level as it was; a size there is not is refused', async () => {
    const { id } = (await upload(demo)).body;
    const made = await s.call('POST', `/api/levels/${id}/reshape`, { name: 'wider', tilesX: 7, tilesZ: 6, spacing: 0.5, west: 32, north: 0 });
    expect([made.status, made.body.outside]).toEqual([201, 0]);
    const [old, wide] = [(await objectsOf(id)).objects, (await objectsOf(made.body.id)).objects];
    const entry = (list: { id: string; at: number[] }[]) => list.find((o) => o.id === 'entry')!.at;
    expect(entry(wide)).toEqual([entry(old)[0] + 32, entry(old)[1], entry(old)[2]]);
    expect(wide.find((o: { id: string }) => o.id === 'settings')).toMatchObject({ name: 'wider', tilesX: 7, tilesZ: 6, origin: [-32, 0] });
    expect((await s.call('GET', `/api/levels/${made.body.id}/package`)).status).toBe(200);
    expect(await s.call('POST', `/api/levels/${id}/reshape`, { name: 'x', tilesX: 1, tilesZ: 6, spacing: 0.5 })).toMatchObject({
      status: 400,
      body: { code: 'body-invalid' },
    });
    expect(await s.call('POST', `/api/levels/${randomUUID()}/reshape`, { name: 'x', tilesX: 4, tilesZ: 6, spacing: 0.5 })).toMatchObject({ status: 404 });
  });
});

describe('a level kept by version 5', () => {
  it('has its one rule of the ground become two, and its kinds the names of today, when the server starts', async () => {
    const {
      body: { id },
    } = await s.call('POST', '/api/levels', { ...NEW, name: 'old rules' });
    const { pool } = connect(s.url);
    await pool.query(
      `update objects set body = '{"id":"slope-rule","version":3,"kind":"groundRule","name":"steep","below":"moss","above":"slate","slope":28,"soft":6}' ` +
        `where level_id = $1 and id = 'slope-rule'`,
      [id],
    );
    await pool.query(`update objects set body = jsonb_set(body, '{kind}', '"mood"') where level_id = $1 and body->>'kind' = 'lighting'`, [id]);
    await pool.query('update levels set document = 5 where id = $1', [id]);
    await Promise.all([migrateDatabase(s.url), migrateDatabase(s.url)]);
    await pool.end();
    const { objects } = (await s.call('GET', `/api/levels/${id}`)).body;
    expect(objects.filter((o: { kind: string }) => o.kind === 'groundRule').map((o: { id: string }) => parseObject(o))).toMatchObject([
      { ok: true, object: { id: 'slope-rule', name: 'steep', version: 3, order: 10, surface: 'slate', where: [{ by: 'slope', band: [28, 90], soft: 6 }] } },
      { ok: true, object: { id: 'slope-rule-below', name: 'everywhere', order: 0, surface: 'moss', where: [] } },
    ]);
    expect(objects.filter((o: { kind: string }) => o.kind === 'lighting')).toHaveLength(3);
  });
});

describe('assets', () => {
  const kit = (name: string) => new Uint8Array(readFileSync(new URL(`../../demo/kit/${name}`, import.meta.url)));
  const add = (bytes: Uint8Array, name = 'thing') => s.call('POST', `/api/assets?name=${name}`, bytes, { 'Content-Type': 'model/gltf-binary' });

  it('are checked, kept under their hash, listed with their facts and given back as they were', async () => {
    const wall = kit('01-wall.glb');
    const first = await add(wall);
    expect(first).toMatchObject({
      status: 201,
      body: { name: 'wall', role: 'piece', collider: 'box', triangles: [140, 20], materials: ['masonry', 'sawn slate'] },
    });
    expect((await add(wall, 'again')).body.hash).toBe(first.body.hash);
    const list = (await s.call('GET', '/api/assets')).body as { hash: string }[];
    expect(list.filter((a) => a.hash === first.body.hash)).toHaveLength(1);
    const file = await s.call('GET', `/api/assets/${first.body.hash}`);
    expect(file.headers.get('content-type')).toContain('model/gltf-binary');
    expect(Buffer.compare(Buffer.from(file.body), Buffer.from(wall))).toBe(0);
    expect((await s.call('GET', `/api/assets/${'0'.repeat(64)}`)).status).toBe(404);
    expect((await s.call('GET', '/api/assets/../levels')).status).not.toBe(500);
  });

  it('that are hostile are refused by name and nothing is kept', async () => {
    const before = (await s.call('GET', '/api/assets')).body.length;
    const wall = kit('01-wall.glb');
    for (const [bytes, code] of [
      [wall.slice(0, 900), 'glb-truncated'],
      [strToU8('not a mesh at all, just words'), 'glb-invalid'],
      [new Uint8Array(), 'glb-invalid'],
    ] as const) {
      expect(await add(bytes)).toMatchObject({ status: 422, body: { code } });
    }
    expect((await s.call('GET', '/api/assets')).body).toHaveLength(before);
  });

  it('must be on the server before a level may name them', async () => {
    const id = await made({ name: 'kit yard' });
    const asset = (hash: string) => edit({ kind: 'add', objects: [{ id: 'wall', version: 1, kind: 'asset', name: 'wall', role: 'piece', hash }] });
    const refused = await send(id, [asset('f'.repeat(64))]);
    expect(refused.body.results[0]).toMatchObject({ code: 'asset-missing' });
    const { hash } = (await add(kit('01-wall.glb'))).body;
    expect((await send(id, [asset(hash)])).body.results[0]).toMatchObject({ version: 1 });
    // What a level uses is not deleted; what none uses is, once.
    const remove = (h: string) => s.call('DELETE', `/api/assets/${h}`);
    expect(await remove(hash)).toMatchObject({ status: 409, body: { code: 'asset-used' } });
    // The door wall as another program would have written it: levels of other tests use our own.
    const door = Buffer.from(kit('03-door-wall.glb'));
    door.write('Hammer', door.indexOf('Rammer'));
    const loose = (await add(new Uint8Array(door))).body.hash;
    expect([(await remove(loose)).status, (await remove(loose)).status, (await remove('x')).status]).toEqual([204, 404, 404]);
    // The package carries the mesh, and opens with it.
    const bytes = (await s.call('GET', `/api/levels/${id}/package`)).body;
    const opened = readPackage(new Uint8Array(bytes));
    expect(opened.ok && [...opened.value.assets.keys()]).toEqual([hash]);
  });

  it('of another form are kept as the GLB made of them; what one came from is in no library and stays while it is used', async () => {
    const obj = (await add(wallFiles()['hollow wall.obj'], 'wall of OBJ')).body;
    expect(obj).toMatchObject({ size: [2, 2.5, expect.closeTo(0.3, 5)], triangles: [10], hollow: ['back'], closed: false, authored: true });
    const crate = await crateFiles();
    const zip = (await add(zipSync(crate), 'crate')).body;
    expect(zip).toMatchObject({ name: 'old crate', size: [80, 80, 100], materials: ['planks'] });
    expect(await add(zipSync({ 'old crate.gltf': crate['old crate.gltf'] }), 'half')).toMatchObject({ status: 422, body: { code: 'glb-outside' } });
    const source = (await s.call('POST', '/api/assets?name=birch&source=1', await birchGlb(), { 'Content-Type': 'model/gltf-binary' })).body;
    const listed = async () => ((await s.call('GET', '/api/assets')).body as { hash: string }[]).some((a) => a.hash === source.hash);
    expect(await listed()).toBe(false);
    const id = await made({ name: 'birch yard' });
    const object = { id: 'b', version: 1, kind: 'asset', name: 'birch', role: 'plant', hash: obj.hash, source: { hash: source.hash, file: 'birch.glb' } };
    expect((await send(id, [edit({ kind: 'add', objects: [object as never] })])).body.results[0]).toMatchObject({ version: 1 });
    expect(await s.call('DELETE', `/api/assets/${source.hash}`)).toMatchObject({ status: 409, body: { code: 'asset-used' } });
    const opened = readPackage(new Uint8Array((await s.call('GET', `/api/levels/${id}/package`)).body));
    expect(opened.ok && [...opened.value.assets.keys()].sort()).toEqual([obj.hash, source.hash].sort());
    // Kept as an asset after all, it is in the library.
    await add(await birchGlb(), 'birch');
    expect(await listed()).toBe(true);
  });

  it('of a level that paints and sows: rasters keep their ranges', async () => {
    const id = await made({ name: 'painted' });
    const stroke = (key: string, value: number) => {
      const raster = new Int32Array(65 * 65);
      raster[100] = value;
      return edit({ kind: 'stroke', tiles: [{ key, delta: toBase64(packRaster(raster)) }] });
    };
    expect((await send(id, [stroke('gravel/paint/0,0', 900)])).body.results[0]).toMatchObject({ version: 1 });
    expect((await send(id, [stroke('gravel/paint/0,0', 900)], 1)).body.results[0]).toMatchObject({ code: 'tile-invalid' });
    expect((await send(id, [stroke('gravel/sown/0,0', 5)], 1)).body.results[0]).toMatchObject({ code: 'tile-invalid' });
    expect((await send(id, [stroke('slope-rule/paint/0,0', 5)], 1)).body.results[0]).toMatchObject({ code: 'tile-invalid' });
    const { tiles } = (await s.call('GET', `/api/levels/${id}/tiles`)).body;
    expect(tiles.map((t: { key: string }) => t.key)).toEqual(['gravel/paint/0,0']);
  });
});
