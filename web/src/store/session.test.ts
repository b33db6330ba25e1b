import 'fake-indexeddb/auto';
import { IDBFactory } from 'fake-indexeddb';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { makeEdit, type AnyEditBody } from '@rammer/core/level/edits/index';
import { packRaster, toBase64 } from '@rammer/core/num/fixed';
import { TILE_SAMPLES } from '@rammer/core/level/tiles';
import { testBlock } from '../../../core/src/testing/levels';
import { FakeServer, fakeLocks } from '../testing/fakeServer';
import type { Session as SessionOf } from './session';

vi.mock('../workers/pool', () => ({
  blockWorker: () => ({ build: () => Promise.resolve({ made: [], keys: [] }) }),
  replaceBlockWorker: () => {},
  growthWorker: () => ({ grow: () => Promise.resolve([]) }),
  earthWorker: () => {
    throw new Error('a level this small has its waters filled at once');
  },
}));

vi.mock('../workers/slabs', async () => {
  const { composeSlab, joinSlabs, slabJobs } = await import('@rammer/core/earth/slab');
  const { makeGround } = await import('@rammer/core/surface/ground');
  return {
    composeInSlabs: (source: any) => Promise.resolve(joinSlabs(source.grid, source.noise, slabJobs(source, 2).map(composeSlab))),
    groundInSlabs: (surfaces: never[], { terrain }: any) => Promise.resolve(makeGround(terrain.grid, surfaces)),
  };
});

let server: FakeServer;
let Session: typeof SessionOf;
let disk: typeof import('../outbox/disk');
const sessions: SessionOf[] = [];
beforeEach(async () => {
  vi.stubGlobal('indexedDB', new IDBFactory());
  vi.stubGlobal('addEventListener', () => {});
  vi.stubGlobal('removeEventListener', () => {});
  vi.stubGlobal('navigator', { locks: fakeLocks() });
  const kept = new Map<string, string>();
  vi.stubGlobal('localStorage', {
    getItem: (k: string) => kept.get(k) ?? null,
    setItem: (k: string, v: string) => {
      kept.set(k, v);
    },
  });
  vi.resetModules();
  server = new FakeServer();
  server.install();
  ({ Session } = await import('./session'));
  disk = await import('../outbox/disk');
});
afterEach(() => {
  for (const s of sessions.splice(0)) s.close();
});

const open = async () => {
  const s = await Session.open('l');
  sessions.push(s);
  return s;
};
const until = (state: () => boolean) =>
  vi.waitFor(
    () => {
      if (!state()) throw new Error('not yet');
    },
    { timeout: 5000, interval: 10 },
  );
const saved = (s: SessionOf) => until(() => s.save.kind === 'saved' && s.kept);
const block = (id: string): AnyEditBody => ({ kind: 'add', objects: [testBlock('box', [1, 1, 1], [0, 0, 0], 0, { id })] });
const stroke = (by: number): AnyEditBody => {
  const delta = new Int32Array(TILE_SAMPLES);
  delta[900] = by;
  return { kind: 'stroke', tiles: [{ key: 'hand/delta/0,0', delta: toBase64(packRaster(delta)) }] };
};
const refuseThat = (label: string) => (_m: string, path: string, body: any) => {
  const bad = path.endsWith('/edits') ? body.edits.find((e: { label: string }) => e.label === label) : undefined;
  return bad ? { status: 422, body: { code: 'edit-invalid', title: 'no', id: bad.id } } : undefined;
};

describe('a session', () => {
  it('saves what is made, and undo and redo of it', async () => {
    const s = await open();
    expect(s.commit(block('a'), 'a')).toBe(true);
    s.undoLast();
    s.redoNext();
    await saved(s);
    expect(server.level.object('a')).toBeDefined();
    expect(server.log.map((l) => l.edit.label)).toEqual(['a', 'undo a', 'a']);
  });

  it('after a refusal shows the level as it is kept, and undoes only what is', async () => {
    const s = await open();
    server.hook = refuseThat('two');
    s.commit(stroke(1000), 'one');
    s.commit(stroke(500), 'two');
    s.commit(block('three'), 'three');
    await until(() => s.aside.length === 1);
    await saved(s);
    expect(s.level.tiles.get('hand/delta/0,0')![900]).toBe(1000);
    expect(s.level.object('three')).toBeDefined();
    expect([s.undo.undoCount, s.undo.nextUndo!.label]).toEqual([2, 'three']);
    s.undoLast();
    s.undoLast();
    await saved(s);
    expect([s.undo.undoCount, server.level.tiles.get('hand/delta/0,0'), server.level.object('three')]).toEqual([0, undefined, undefined]);
    // And a page that is loaded again has the same list.
    const { entries } = await disk.readUndo('l');
    expect(entries.map((e) => e.label)).toEqual(['one', 'three']);
  });

  it('never sends the undo of what was refused: the ground would sink below what is kept', async () => {
    const s = await open();
    server.hook = () => 'no answer';
    s.commit(stroke(700), 'bad');
    s.undoLast();
    s.redoNext();
    s.undoLast();
    await until(() => s.save.kind === 'offline');
    server.hook = refuseThat('bad');
    await until(() => s.aside.length === 1);
    await saved(s);
    expect(server.level.tiles.size).toBe(0);
    expect([s.undo.undoCount, s.undo.redoCount, server.log.length]).toEqual([0, 0, 0]);
  });

  it('nor where it is undone just while the answer is on its way', async () => {
    const s = await open();
    const refuse = refuseThat('bad');
    let undone = false;
    server.hook = (m, path, body) => {
      const answer = refuse(m, path, body);
      if (answer && !undone) {
        undone = true;
        // So many writes are under way that the undo is not on the disk yet when the answer comes.
        s.commit(block('x'), 'x');
        s.commit(block('y'), 'y');
        for (let i = 0; i < 3; i++) s.undoLast();
      }
      return answer;
    };
    s.commit(stroke(700), 'bad');
    await until(() => s.aside.length === 1);
    await saved(s);
    expect([undone, server.log.map((l) => l.edit.label), server.level.tiles.size, s.level.tiles.size, s.undo.undoCount, s.undo.redoCount]).toEqual([
      true,
      ['x', 'y', 'undo y', 'undo x'],
      0,
      0,
      0,
      2,
    ]);
  });

  it('what was set aside can be sent again, or given up', async () => {
    const s = await open();
    server.hook = refuseThat('two');
    s.commit(block('a'), 'two');
    await until(() => s.aside.length === 1);
    server.hook = () => undefined;
    await s.decide(s.aside, true);
    await saved(s);
    expect([s.aside, server.level.object('a') !== undefined, s.undo.undoCount]).toEqual([[], true, 1]);
    server.hook = refuseThat('three');
    s.commit(block('b'), 'three');
    await until(() => s.aside.length === 1);
    // One that can be made no more stays where it is.
    const [kept] = s.aside;
    s.commit(block('b'), 'another of that name');
    await saved(s);
    await s.decide([kept], true);
    expect([s.aside.length, s.message]).toMatchObject([1, { bad: true, text: expect.stringContaining('already an object b') }]);
    s.undoLast();
    await s.decide(s.aside, false);
    expect([s.aside, await disk.readAside('l'), s.level.object('b')]).toEqual([[], [], undefined]);
  });

  it('after keeping theirs undoes only what is kept', async () => {
    const s = await open();
    s.commit(block('mine'), 'mine');
    await saved(s);
    server.hook = () => 'no answer';
    s.commit({ kind: 'set', patches: [{ id: 'mine', set: { turn: 10 } }] }, 'turn');
    s.commit(stroke(300), 'raise');
    await until(() => s.save.kind === 'offline');
    server.other(makeEdit({ kind: 'set', patches: [{ id: 'mine', set: { turn: 99 } }] }, crypto.randomUUID(), 'theirs'));
    server.hook = () => undefined;
    await until(() => s.save.kind === 'conflict');
    expect(s.commit(block('b'), 'b')).toBe(false);
    await s.settle(false);
    expect([s.save.kind, (s.level.object('mine') as { turn: number }).turn, s.level.tiles.size]).toEqual(['saved', 99, 0]);
    expect([s.undo.undoCount, s.undo.nextUndo!.label]).toEqual([1, 'mine']);
  });

  it('keeping mine sends what waits over theirs', async () => {
    const s = await open();
    server.hook = () => 'no answer';
    s.commit({ kind: 'set', patches: [{ id: 'settings', set: { name: 'mine' } }] }, 'rename');
    await until(() => s.save.kind === 'offline');
    server.other(makeEdit({ kind: 'set', patches: [{ id: 'settings', set: { name: 'theirs' } }] }, crypto.randomUUID(), 'theirs'));
    server.hook = () => undefined;
    await until(() => s.save.kind === 'conflict');
    await s.settle(true);
    await saved(s);
    expect([s.name, server.level.object('settings')!.name, s.undo.undoCount]).toEqual(['mine', 'mine', 1]);
  });

  it('opens with what waits on top, and not twice what the server has though its answer was lost', async () => {
    const s = await open();
    server.hook = (_m, path) => (path.endsWith('/edits') ? 'answer lost' : undefined);
    s.commit(stroke(400), 'raise');
    await until(() => s.save.kind === 'offline');
    server.hook = (_m, path) => (path.endsWith('/edits') ? 'no answer' : undefined);
    s.commit(stroke(50), 'more');
    await until(() => s.kept);
    s.close();
    const again = await open();
    expect(again.level.tiles.get('hand/delta/0,0')![900]).toBe(450);
    expect([again.save.kind, again.undo.undoCount]).toEqual([again.save.kind, 2]);
    server.hook = () => undefined;
    await saved(again);
    expect(server.level.tiles.get('hand/delta/0,0')![900]).toBe(450);
  });

  it('opens a level with things that cannot be read, without them, and says which', async () => {
    server.level.objects.set('odd', { id: 'odd', version: 1, kind: 'balloon', name: 'odd' } as never);
    const s = await open();
    expect([s.level.object('odd'), s.message]).toMatchObject([undefined, { bad: true, text: expect.stringContaining('balloon') }]);
    expect(s.commit(block('a'), 'a')).toBe(true);
    await saved(s);
    server.level.objects.set('settings', { id: 'settings', kind: 'settings' } as never);
    s.close();
    await expect(Session.open('l')).rejects.toThrow(/cannot be shown/);
  });

  it('refuses an edit that is larger than can be saved, before it is made', async () => {
    const s = await open();
    const { MOST_EDIT_BYTES } = await import('../outbox/outbox');
    const delta = 'A'.repeat(60_000);
    const huge: AnyEditBody = {
      kind: 'stroke',
      tiles: Array.from({ length: Math.ceil(MOST_EDIT_BYTES / 60_000) + 1 }, (_, i) => ({ key: `hand/delta/${i % 2},${(i >> 1) % 2}`, delta })),
    };
    expect([s.commit(huge, 'huge'), s.undo.undoCount]).toEqual([false, 0]);
  });

  it('reads only while another tab writes, and is told when one takes over', async () => {
    const s = await open();
    const other = await Session.open('l');
    sessions.push(other);
    expect([s.writable, other.writable, other.commit(block('x'), 'x')]).toEqual([true, false, false]);
    await other.takeOver();
    await until(() => s.save.kind === 'read-only');
    expect([s.writable, other.writable, other.commit(block('x'), 'x')]).toEqual([false, true, true]);
    await saved(other);
  });
});
