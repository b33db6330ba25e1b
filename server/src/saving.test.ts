import { randomUUID } from 'node:crypto';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { readPackage } from '@rammer/core/io/package';
import type { Edit } from '@rammer/core/level/edits/index';
import { packRaster, toBase64 } from '@rammer/core/num/fixed';
import { LOG_KEPT } from './db/editLog';
import { connect } from './db/open';
import { addBlock, block, edit, NEW, serve } from './testing/serve';

let s: Awaited<ReturnType<typeof serve>>;
const kept = { ...LOG_KEPT };
beforeAll(async () => {
  s = await serve();
});
afterAll(async () => {
  Object.assign(LOG_KEPT, kept);
  await s.stop();
});

const ME = 'client-one-1';
const OTHER = 'client-two-2';
const made = async (more: object = {}): Promise<string> => (await s.call('POST', '/api/levels', { ...NEW, ...more })).body.id;
const send = (id: string, edits: unknown[], base = 0, client = ME, force = false) => s.call('POST', `/api/levels/${id}/edits`, { client, base, edits, force });
const lease = (id: string, client: string) => s.call('POST', `/api/levels/${id}/lease`, { client, take: true });
const objectsOf = async (id: string) => (await s.call('GET', `/api/levels/${id}`)).body.objects as { id: string; kind: string; name: string }[];
const stroke = (key: string, value: number, at = 100) => {
  const raster = new Int32Array(65 * 65);
  raster[at] = value;
  return edit({ kind: 'stroke', tiles: [{ key, delta: toBase64(packRaster(raster)) }] });
};
const log = async (id: string, after = 0) =>
  (await s.call('GET', `/api/levels/${id}/edits?after=${after}`)).body as { edits: { version: number; edit: Edit }[]; next?: number; folded: number };

describe('an edit', () => {
  it('as the log gives it is accepted again, whatever order its store gives keys and fields', async () => {
    const id = await made();
    const list = [
      addBlock('a'),
      edit({ kind: 'set', patches: [{ id: 'a', set: { turn: 30, at: [1, 2, 3], name: 'z', hidden: true, size: [2, 2, 2] } }] }),
      stroke('hand/delta/0,0', 5),
      edit({
        kind: 'together',
        parts: [
          { kind: 'set', patches: [{ id: 'a', set: { turn: 5, out: true } }] },
          { kind: 'add', objects: [block('b')] },
        ],
      }),
      edit({ kind: 'remove', ids: ['b'] }),
    ];
    const first = await send(id, list);
    expect(first.body.version).toBe(5);
    const { edits } = await log(id);
    const again = await send(
      id,
      edits.map((e) => e.edit),
    );
    expect([again.status, again.body]).toEqual([200, { version: 5, rebased: false, results: first.body.results }]);
  });

  it('has a uuid of its own: twice in a batch and in another level are refused, capitals are the same uuid', async () => {
    const [id, elsewhere] = [await made(), await made()];
    const e = addBlock('a');
    expect(await send(id, [e, { ...addBlock('b'), id: e.id.toUpperCase() }])).toMatchObject({ status: 422, body: { code: 'edit-repeated', index: 1 } });
    const capitals = await send(id, [{ ...e, id: e.id.toUpperCase() }]);
    expect(capitals.body.results).toEqual([{ id: e.id.toUpperCase(), version: 1 }]);
    expect((await send(id, [e])).body).toMatchObject({ version: 1, results: [{ id: e.id, version: 1 }] });
    expect((await send(elsewhere, [e])).body).toMatchObject({ version: 0, results: [{ id: e.id, code: 'edit-elsewhere' }] });
    expect((await s.call('POST', `/api/levels/${id}/edits/known`, { ids: [e.id, randomUUID()] })).body).toEqual({ known: { [e.id]: 1 } });
  });

  it('that holds what cannot be kept is refused by name, and names which it was', async () => {
    const id = await made();
    const odd = [
      { ...addBlock('a'), label: 'half \ud83d' },
      { ...addBlock('a'), label: 'a\0b' },
      edit({ kind: 'add', objects: [{ ...(block('a') as object), name: '\udc00' } as never] }),
      edit({ kind: 'add', objects: [{ ...(block('a') as object), stops: [] } as never] }),
      edit({ kind: 'add', objects: [{ ...(block('a') as object), note: { deep: 'x\0' } } as never] }),
    ];
    for (const e of odd) {
      const answer = await send(id, [addBlock('fine'), e]);
      if (answer.status === 422) expect(answer.body).toMatchObject({ code: 'edit-text', index: 1, id: e.id });
      else expect(answer.body.results.at(-1)).toMatchObject({ id: e.id, code: 'object-invalid' });
      expect([200, 422]).toContain(answer.status);
    }
    expect((await send(id, [edit({ kind: 'set', patches: [{ id: 'fine', set: { name: 'whole \ud83d\ude00' } }] })], 1)).status).toBe(200);
    for (const body of [{ name: 'half \ud83d' }, { name: 'a\0' }])
      expect(await s.call('POST', '/api/levels', { ...NEW, ...body })).toMatchObject({ status: 400, body: { code: 'body-invalid' } });
  });

  it('leaves nothing without what it needs; what another took away meanwhile is a conflict', async () => {
    const id = await made();
    await send(id, [
      edit({ kind: 'add', objects: [block('m'), { id: 'master', version: 1, kind: 'assembly', name: 'm', group: 'm', pivot: [0, 0, 0] } as never] }),
    ]);
    const copy = () => edit({ kind: 'add', objects: [{ id: 'copy', version: 1, kind: 'copy', name: 'c', assembly: 'master', at: [1, 0, 1] } as never] });
    await lease(id, OTHER);
    await send(id, [edit({ kind: 'remove', ids: ['master'] })], 1, OTHER);
    await lease(id, ME);
    expect(await send(id, [copy()], 1)).toMatchObject({ status: 409, body: { code: 'conflict' } });
    expect((await send(id, [copy()], 1, ME, true)).body.results[0]).toMatchObject({ code: 'object-missing' });
    expect(
      (await send(id, [edit({ kind: 'add', objects: [{ id: 'p', version: 1, kind: 'plant', name: 'p', species: 'nobody', at: [0, 0, 0] } as never] })], 2)).body
        .results[0],
    ).toMatchObject({ code: 'object-missing' });
    const again = edit({ kind: 'add', objects: [{ id: 'master', version: 1, kind: 'assembly', name: 'm', group: 'm', pivot: [0, 0, 0] } as never] });
    expect(
      (await send(id, [again, copy(), edit({ kind: 'remove', ids: ['master'] })], 2)).body.results.map((r: object) => ('code' in r ? r.code : 'ok')),
    ).toEqual(['ok', 'ok', 'object-used']);
    // What is used is looked for among rows, not only in what the batch touched.
    expect((await send(id, [edit({ kind: 'remove', ids: ['master'] })], 4)).body.results[0]).toMatchObject({ code: 'object-used' });
    expect(
      (
        await send(
          id,
          [
            edit({
              kind: 'together',
              parts: [
                { kind: 'remove', ids: ['master'] },
                { kind: 'remove', ids: ['copy'] },
              ],
            }),
          ],
          4,
        )
      ).body.results[0],
    ).toMatchObject({ version: 5 });
    // What needs something and is only moved is changed without that being read.
    const moved = [again, copy()].map((e) => ({ ...e, id: randomUUID() }));
    expect((await send(id, moved, 5)).body.version).toBe(7);
    expect((await send(id, [edit({ kind: 'set', patches: [{ id: 'copy', set: { at: [7, 0, 7] } }] })], 7)).body.results[0]).toMatchObject({ version: 8 });
    expect((await send(id, [edit({ kind: 'set', patches: [{ id: 'copy', set: { assembly: 'm' } }] })], 8)).body.results[0]).toMatchObject({
      code: 'object-missing',
    });
    const out = await s.call('GET', `/api/levels/${id}/package`);
    expect(readPackage(out.body).ok).toBe(true);
  });

  it('that is as wide as the widest level is kept: more than the server takes at once by itself', async () => {
    const id = await made({ tilesX: 64, tilesZ: 64 });
    const raster = new Int32Array(65 * 65);
    for (let i = 0, seed = 1; i < raster.length; i++) raster[i] = (seed = (Math.imul(seed, 1_664_525) + 1_013_904_223) >>> 0) % 4000;
    const delta = toBase64(packRaster(raster));
    const tiles = Array.from({ length: 4096 }, (_, i) => ({ key: `hand/delta/${i % 64},${Math.floor(i / 64)}`, delta }));
    const wide = edit({ kind: 'stroke', tiles });
    expect(JSON.stringify(wide).length).toBeGreaterThan(32 << 20);
    expect((await send(id, [wide])).body).toMatchObject({ version: 1, results: [{ id: wide.id, version: 1 }] });
    const whole = (await s.call('GET', `/api/levels/${id}?tiles=1`)).body;
    expect([whole.version, whole.tiles.length]).toEqual([1, 4096]);
    expect((await send(id, [edit({ kind: 'stroke', tiles: tiles.slice(0, 300), back: true })], 1)).body.version).toBe(2);
    expect((await s.call('GET', `/api/levels/${id}/tiles`)).body.tiles).toHaveLength(3796);
  });
});

describe('the log', () => {
  it('is folded: old edits are known still, and still held against what was made before them', async () => {
    Object.assign(LOG_KEPT, { rows: 10, foldAtRows: 20 });
    const id = await made();
    const first = Array.from({ length: 12 }, (_, i) => addBlock(`a${i}`));
    await send(id, first);
    await lease(id, OTHER);
    await send(
      id,
      Array.from({ length: 9 }, (_, i) => edit({ kind: 'set', patches: [{ id: `a${i}`, set: { turn: i + 1 } }] })),
      12,
      OTHER,
    );
    const page = await log(id);
    expect([page.folded, page.edits.map((e) => e.version)]).toEqual([11, Array.from({ length: 10 }, (_, i) => i + 12)]);
    const rows = async () =>
      (
        await s.pool.query('select (select count(*)::int from edits where level_id = $1) as e, (select count(*)::int from folded where level_id = $1) as f', [
          id,
        ])
      ).rows[0];
    expect(await rows()).toEqual({ e: 10, f: 1 });
    // An answer that was lost long ago.
    expect((await send(id, [first[3]], 0, OTHER)).body.results).toEqual([{ id: first[3].id, version: 4 }]);
    expect((await s.call('POST', `/api/levels/${id}/edits/known`, { ids: first.map((e) => e.id) })).body.known).toEqual(
      Object.fromEntries(first.map((e, i) => [e.id, i + 1])),
    );
    // What was made on version 5 by the other meets what the first did since, though that is folded.
    const clash = await send(id, [edit({ kind: 'remove', ids: ['a7'] })], 5, OTHER);
    expect(clash).toMatchObject({ status: 409, body: { code: 'conflict' } });
    expect(clash.body.conflicts[0].label).toContain('earlier edits');
    expect((await send(id, [addBlock('apart')], 5, OTHER)).body).toMatchObject({ version: 22, rebased: true });
    await lease(id, ME);
    expect((await send(id, [edit({ kind: 'set', patches: [{ id: 'a11', set: { turn: 3 } }] })], 0)).status).toBe(200);
    Object.assign(LOG_KEPT, kept);
  });

  it('keeps what folded edits read: the lift they drew on is not removed behind them', async () => {
    Object.assign(LOG_KEPT, { rows: 1, foldAtRows: 2 });
    const id = await made();
    await send(id, [stroke('hand/delta/0,0', 5), addBlock('a'), addBlock('b')]);
    await lease(id, OTHER);
    expect(await send(id, [edit({ kind: 'remove', ids: ['hand'] })], 0, OTHER)).toMatchObject({ status: 409, body: { code: 'conflict' } });
    Object.assign(LOG_KEPT, kept);
  });

  it('stays small however many edits there are', async () => {
    Object.assign(LOG_KEPT, { rows: 20, foldAtRows: 40 });
    const id = await made();
    await send(id, [addBlock('a')]);
    for (let i = 0; i < 10; i++)
      await send(
        id,
        Array.from({ length: 50 }, (_, k) => edit({ kind: 'set', patches: [{ id: 'a', set: { turn: (i * 50 + k) % 360 } }] })),
        1,
      );
    const {
      rows: [{ n, bytes }],
    } = await s.pool.query(
      'select count(*)::int as n, (select sum(pg_column_size(f.*))::int from folded f where f.level_id = $1) as bytes from edits where level_id = $1',
      [id],
    );
    expect(n).toBeLessThanOrEqual(40);
    expect(bytes).toBeLessThan(501 * 26);
    expect((await s.call('GET', `/api/levels/${id}/version`)).body).toEqual({ version: 501 });
    Object.assign(LOG_KEPT, kept);
  });

  it('is read a page at a time, bounded in bytes', async () => {
    const id = await made();
    const fat = (n: number) => edit({ kind: 'add', objects: [{ ...(block(`f${n}`) as object), note: 'x'.repeat(1_500_000) } as never] });
    for (let i = 0; i < 6; i++) expect((await send(id, [fat(i)], i)).body.version).toBe(i + 1);
    const pages: number[][] = [];
    for (let after: number | undefined = 0; after !== undefined;) {
      const page: Awaited<ReturnType<typeof log>> = await log(id, after);
      pages.push(page.edits.map((e) => e.version));
      after = page.next;
    }
    expect(pages).toEqual([
      [1, 2],
      [3, 4],
      [5, 6],
    ]);
    expect((await s.call('GET', `/api/levels/${randomUUID()}/edits?after=0`)).status).toBe(404);
  });
});

describe('a level', () => {
  it('is read as of one version, however it is written meanwhile', async () => {
    const id = await made();
    const writing = (async () => {
      for (let i = 0; i < 30; i++)
        await send(
          id,
          [
            edit({
              kind: 'together',
              parts: [
                { kind: 'set', patches: [{ id: 'settings', set: { name: `yard ${i + 1}` } }] },
                { kind: 'stroke', tiles: (stroke('hand/delta/0,0', 1) as unknown as { tiles: { key: string; delta: string }[] }).tiles },
              ],
            }),
          ],
          i,
        );
    })();
    let ended = false;
    void writing.then(() => {
      ended = true;
    });
    const { unpackRaster } = await import('@rammer/core/num/fixed');
    let looks = 0;
    while (!ended) {
      const { version, objects, tiles } = (await s.call('GET', `/api/levels/${id}?tiles=1`)).body;
      const settings = objects.find((o: { id: string }) => o.id === 'settings');
      const height = tiles.length === 0 ? 0 : unpackRaster(new Uint8Array(Buffer.from(tiles[0].data, 'base64')), 65 * 65)[100];
      expect([settings.name === 'yard' ? 0 : Number(settings.name.slice(5)), height]).toEqual([version, version]);
      looks++;
    }
    expect(looks).toBeGreaterThan(2);
  });

  it('with a row that cannot be read opens, is listed, checked and packed without it', async () => {
    const id = await made({ name: 'damaged' });
    await send(id, [addBlock('good'), addBlock('bad')]);
    await s.pool.query('update objects set body = \'{"id":"bad","kind":"block","shape":"blob"}\' where level_id = $1 and id = \'bad\'', [id]);
    expect((await objectsOf(id)).map((o) => o.id)).toContain('good');
    expect((await s.call('GET', '/api/levels')).body.find((l: { id: string }) => l.id === id)).toMatchObject({ name: 'damaged' });
    const packed = readPackage((await s.call('GET', `/api/levels/${id}/package`)).body);
    expect(packed.ok && [packed.value.objects.has('good'), packed.value.objects.has('bad')]).toEqual([true, false]);
    expect((await send(id, [addBlock('more')], 2)).body.version).toBe(3);
    expect((await send(id, [edit({ kind: 'set', patches: [{ id: 'bad', set: { turn: 1 } }] })], 3)).body.results[0]).toMatchObject({ code: 'object-missing' });
    await s.pool.query("update objects set body = '{}' where level_id = $1 and id = 'settings'", [id]);
    expect((await s.call('GET', '/api/levels')).status).toBe(200);
    expect(await s.call('GET', `/api/levels/${id}/package`)).toMatchObject({ status: 422, body: { code: 'level-unreadable' } });
  });
});

describe('a database that goes away', () => {
  it('at the very beginning of a transaction keeps no connection for ever', async () => {
    const { pool, db } = connect(s.url, () => {}, 2);
    for (let i = 0; i < 5; i++) {
      pool.once('acquire', (client) => {
        (client as unknown as { connection: { stream: { destroy(): void } } }).connection.stream.destroy();
      });
      await expect(db.transaction(async () => 1)).rejects.toThrow();
    }
    expect(await db.transaction(async () => 1)).toBe(1);
    await pool.end();
  });

  it('inside a transaction ends that request with 503 and nothing else; what was answered is kept, once', async () => {
    const id = await made();
    const errors = s.errors.length;
    let version = 0;
    let away = 0;
    const answered = new Set<string>();
    for (let i = 0; i < 40; i++) {
      const e = addBlock(`k${i}`);
      // Killed at its `begin` too, which has a moment of its own.
      const atOnce = i % 5 === 0;
      for (let tries = 0; tries < 20; tries++) {
        const wait = atOnce ? 0 : Math.floor((i % 8) * 1.5);
        const killing =
          tries === 0
            ? new Promise<void>((done) => {
                setTimeout(() => {
                  void s.pool
                    .query('select pg_terminate_backend(pid) from pg_stat_activity where pid <> pg_backend_pid() and datname = current_database()')
                    .then(
                      () => done(),
                      () => done(),
                    );
                }, wait);
              })
            : Promise.resolve();
        const answer = await send(id, [e], version);
        await killing;
        if (answer.status === 200) {
          version = answer.body.version;
          answered.add(`k${i}`);
          break;
        }
        expect(answer).toMatchObject({ status: 503, body: { code: 'database-away' } });
        away++;
      }
    }
    const there = (await objectsOf(id)).filter((o) => /^k\d/.test(o.id)).map((o) => o.id);
    expect(new Set(there)).toEqual(answered);
    expect([there.length, version]).toEqual([40, 40]);
    expect(away).toBeGreaterThan(0);
    expect(s.errors.slice(errors)).toEqual([]);
    // No connection is lost to the pool: eight such would end it. What is under way still (a job asked for, a
    // connection being made) comes to its end; what is lost never does.
    await expect.poll(() => [s.pool.totalCount - s.pool.idleCount, s.pool.waitingCount], { timeout: 30_000 }).toEqual([0, 0]);
  });
});
