import 'fake-indexeddb/auto';
import { IDBFactory } from 'fake-indexeddb';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { makeEdit, type AnyEditBody } from '@rammer/core/level/edits/index';
import { testBlock } from '../../../core/src/testing/levels';
import { FakeServer } from '../testing/fakeServer';

let server: FakeServer;
let disk: typeof import('./disk');
let outbox: typeof import('./outbox');
beforeEach(async () => {
  vi.stubGlobal('indexedDB', new IDBFactory());
  vi.resetModules();
  disk = await import('./disk');
  outbox = await import('./outbox');
  server = new FakeServer();
  server.install();
});

const ME = 'me-me-me-1';
const put = async (body: AnyEditBody, label: string = body.kind, root?: string) => {
  const edit = makeEdit(body, crypto.randomUUID(), label);
  await disk.writeStep('l', { entry: { level: 'l', edit, base: server.level.version, root: root ?? edit.id }, put: [], done: 0 });
  return edit;
};
const add = (id: string, label?: string) => put({ kind: 'add', objects: [testBlock('box', [1, 1, 1], [0, 0, 0], 0, { id })] }, label);
const flush = () => outbox.flushOutbox('l', ME, false);
const waiting = async () => (await disk.readOutbox('l')).map((e) => e.edit.label);
/** An edit of about so many bytes. */
const large = (id: string, bytes: number) =>
  put({ kind: 'add', objects: [{ ...testBlock('box', [1, 1, 1], [0, 0, 0], 0, { id }), name: id, note: 'x'.repeat(bytes) } as never] }, id);

describe('the outbox', () => {
  it('is sent in order, in messages that are bounded in number and in bytes', async () => {
    for (let i = 0; i < 60; i++) await add(`b${i}`);
    expect(await flush()).toMatchObject({ version: 60, waiting: 0, reload: false });
    expect(server.batches.map((b) => b.length)).toEqual([50, 10]);
    server.batches = [];
    for (let i = 0; i < 10; i++) await large(`s${i}`, 3_900_000);
    expect(await flush()).toMatchObject({ version: 70, waiting: 0 });
    expect(server.batches.map((b) => b.length)).toEqual(Array(10).fill(1));
    expect([...server.level.objects.keys()].filter((k) => /^[bs]\d/.test(k))).toHaveLength(70);
  });

  it('drops nothing when a message is too large for the server: it sends smaller ones', async () => {
    server.hook = (_m, path, body) =>
      path.endsWith('/edits') && body.edits.length > 3 ? { status: 413, body: { code: 'body-too-large', title: 'too large' } } : undefined;
    for (let i = 0; i < 10; i++) await add(`b${i}`);
    expect(await flush()).toMatchObject({ version: 10, waiting: 0, lost: new Set() });
    expect(await disk.readAside('l')).toEqual([]);
  });

  it('keeps everything waiting, and says why, at any answer that names no edit', async () => {
    for (const [status, code] of [
      [400, 'body-invalid'],
      [403, 'origin-not-allowed'],
      [404, 'not-found'],
      [503, 'disk-full'],
      [502, 'x'],
      [418, 'x'],
    ] as const) {
      await add(`b${status}`);
      server.hook = (_m, path) => (path.endsWith('/edits') ? { status, body: { code, title: `because ${code}` } } : undefined);
      expect(await flush()).toMatchObject({ stopped: 'offline', why: `because ${code}`, lost: new Set() });
    }
    server.hook = (_m, path) => (path.endsWith('/edits') ? { status: 200, body: { version: 9, results: [], rebased: false } } : undefined);
    expect(await flush()).toMatchObject({ stopped: 'offline', waiting: 6 });
    server.hook = () => 'no answer';
    expect(await flush()).toMatchObject({ stopped: 'offline', waiting: 6 });
    server.hook = () => undefined;
    expect(await flush()).toMatchObject({ version: 6, waiting: 0 });
  });

  it('finds an edit whose answer was lost in the log, and applies it once', async () => {
    await add('a');
    server.hook = (_m, path) => (path.endsWith('/edits') ? 'answer lost' : undefined);
    expect(await flush()).toMatchObject({ stopped: 'offline', waiting: 1 });
    server.hook = () => undefined;
    expect(await flush()).toMatchObject({ version: 1, waiting: 0 });
    expect(server.log).toHaveLength(1);
  });

  it('sets an edit aside that is refused by name, with what undid it since; the others go on', async () => {
    await add('a');
    const bad = await put({ kind: 'remove', ids: ['nobody'] }, 'bad');
    await put({ kind: 'add', objects: [testBlock('box', [1, 1, 1], [0, 0, 0], 0, { id: 'nobody' })] }, 'undo bad', bad.id);
    await add('c');
    const done = await flush();
    expect(done).toMatchObject({ version: 2, waiting: 0, reload: true, lost: new Set([bad.id]), refused: expect.stringContaining('nobody') });
    expect([server.level.object('a'), server.level.object('nobody'), server.level.object('c')].map((o) => o !== undefined)).toEqual([true, false, true]);
    expect(await disk.readAside('l')).toMatchObject([{ edit: { id: bad.id, label: 'bad' }, why: expect.stringContaining('nobody') }]);
  });

  it('finds the one edit of a message whose form is refused', async () => {
    await add('a');
    const odd = await put({ kind: 'set', patches: [{ id: 'a', set: { name: 'half \ud83d' } }] }, 'odd');
    await add('c');
    expect(await flush()).toMatchObject({ version: 2, waiting: 0, lost: new Set([odd.id]) });
  });

  it('tells a server that fails at one edit from one that is away: after three tries that edit is set aside', async () => {
    await add('a');
    const sick = await add('sick', 'sick');
    await add('c');
    const fails = (_m: string, path: string, body: any) =>
      path.endsWith('/edits') && body.edits.some((e: { id: string }) => e.id === sick.id)
        ? { status: 500, body: { code: 'internal', title: 'failed' } }
        : undefined;
    server.hook = fails;
    expect(await flush()).toMatchObject({ version: 1, stopped: 'offline', waiting: 2 });
    expect(await flush()).toMatchObject({ stopped: 'offline', waiting: 2 });
    // While nothing answers it is not the edit's fault.
    server.hook = (m, path, body) => (path === '/api/health' ? 'no answer' : fails(m, path, body));
    expect(await flush()).toMatchObject({ stopped: 'offline', waiting: 2 });
    server.hook = fails;
    expect(await flush()).toMatchObject({ version: 2, waiting: 0, lost: new Set([sick.id]) });
    expect((await disk.readAside('l')).map((a) => a.edit.label)).toEqual(['sick']);
    expect(await waiting()).toEqual([]);
  });

  it('stops at a conflict and at another writer with everything still waiting', async () => {
    await put({ kind: 'set', patches: [{ id: 'settings', set: { name: 'mine' } }] });
    server.other(makeEdit({ kind: 'set', patches: [{ id: 'settings', set: { name: 'theirs' } }] }, crypto.randomUUID(), 'theirs'));
    expect(await flush()).toMatchObject({ stopped: 'conflict', waiting: 1, conflicts: [{ label: 'theirs' }] });
    server.writer = 'somebody-else';
    expect(await flush()).toMatchObject({ stopped: 'not-writer', waiting: 1 });
    server.writer = undefined;
    expect(await outbox.flushOutbox('l', ME, true)).toMatchObject({ version: 2, waiting: 0 });
  });
});

describe('the disk', () => {
  it('writes an edit and its undo entry together, and moves the bases of what is left when some are answered', async () => {
    const [a, b] = [await add('a'), await add('b')];
    await disk.writeStep('l', {
      put: [
        { level: 'l', n: 1, label: 'a', undo: { kind: 'remove', ids: ['a'] }, redo: a, bytes: 9, root: a.id },
        { level: 'l', n: 2, label: 'b', undo: { kind: 'remove', ids: ['b'] }, redo: b, bytes: 9 },
      ],
      done: 2,
    });
    await disk.writeStep('other', { put: [], done: 5 });
    const [first] = await disk.readOutbox('l');
    await disk.removeFromOutbox('l', [first.seq!], 7);
    expect((await disk.readOutbox('l')).map((e) => [e.edit.id, e.base])).toEqual([[b.id, 7]]);
    await disk.writeStep('l', { put: [], done: 1, forget: [1] });
    expect(await disk.readUndo('l')).toMatchObject({ entries: [{ n: 2 }], done: 1 });
    expect(await disk.countOutbox('l')).toBe(1);
    await disk.forgetLevel('l');
    expect([await disk.readOutbox('l'), (await disk.readUndo('l')).entries, (await disk.readUndo('other')).done]).toEqual([[], [], 5]);
  });

  it('of an older Rammer keeps its outbox when it is brought up to date', async () => {
    const { openDB } = await import('idb');
    const old = await openDB('rammer', 1, {
      upgrade(db) {
        db.createObjectStore('outbox', { keyPath: 'seq', autoIncrement: true }).createIndex('level', 'level');
        db.createObjectStore('undo', { keyPath: ['level', 'n'] });
        db.createObjectStore('done', { keyPath: 'level' });
      },
    });
    const edit = makeEdit({ kind: 'remove', ids: ['x'] }, crypto.randomUUID(), 'old');
    await old.add('outbox', { level: 'l', edit, base: 0 });
    old.close();
    expect((await disk.readBatch('l', outbox.BATCH)).map((e) => e.edit.label)).toEqual(['old']);
    expect(await disk.readAside('l')).toEqual([]);
  });

  it('sends what an older Rammer left in it in the words of today', async () => {
    const outline = [
      [0, 0],
      [4, 0],
      [4, 4],
    ];
    await put({ kind: 'add', objects: [{ id: 'r', version: 1, kind: 'rim', name: 'rim', outline } as never] });
    expect(await flush()).toMatchObject({ version: 1, waiting: 0 });
    expect(server.level.object('r')).toMatchObject({ kind: 'playBounds', outline });
  });
});
