import { vi } from 'vitest';
import { applyEdit, commitChanges, disjoint, parseEdit, type Edit } from '@rammer/core/level/edits/index';
import type { Level } from '@rammer/core/level/level';
import { packRaster, toBase64 } from '@rammer/core/num/fixed';
import { testLevel } from '../../../core/src/testing/levels';

/** What a test makes of a request before the server sees it: an answer of its own, or nothing. */
type Hook = (method: string, path: string, body: any) => { status: number; body: unknown } | 'no answer' | 'answer lost' | undefined;

const problem = (status: number, code: string, more: object = {}) => ({ status, body: { title: code, status, code, ...more } });

/**
 * The server's doors for one level, in memory: applies edits with the same code, keeps a log, holds a lease. Put
 * in the place of `fetch`.
 */
export class FakeServer {
  level: Level = testLevel(2);
  log: { version: number; client: string; edit: Edit }[] = [];
  writer?: string;
  hook: Hook = () => undefined;
  /** batches as they came: uuids */
  batches: string[][] = [];

  install(): void {
    vi.stubGlobal('fetch', async (path: string, init: { method: string; body?: string; signal?: AbortSignal } = { method: 'GET' }) => {
      const body = init.body === undefined ? undefined : JSON.parse(init.body);
      const hooked = this.hook(init.method, path, body);
      if (hooked === 'no answer') throw new TypeError('fetch failed');
      const { status, body: answer } = typeof hooked === 'object' ? hooked : this.answer(init.method, path, body);
      if (hooked === 'answer lost') throw new TypeError('fetch failed');
      return new Response(JSON.stringify(answer), { status, headers: { 'Content-Type': 'application/json' } });
    });
  }

  /** Somebody else's edit. */
  other(edit: Edit): void {
    this.apply('somebody-else', edit);
  }

  private apply(client: string, edit: Edit): { code: string; message: string } | undefined {
    const applied = applyEdit(this.level, edit);
    if (!applied.ok) return applied;
    commitChanges(this.level, applied.changes);
    this.log.push({ version: this.level.version, client, edit });
    return undefined;
  }

  private answer(method: string, path: string, body: any): { status: number; body: unknown } {
    if (path === '/api/health') return { status: 200, body: { ok: true } };
    if (path.endsWith('/lease')) {
      if (body.release) {
        if (this.writer === body.client) this.writer = undefined;
        return { status: 200, body: { held: false } };
      }
      if (this.writer && this.writer !== body.client && !body.take) return { status: 200, body: { held: false, version: this.level.version } };
      this.writer = body.client;
      return { status: 200, body: { held: true, version: this.level.version } };
    }
    if (path.endsWith('/version')) return { status: 200, body: { version: this.level.version } };
    if (path.endsWith('/edits/known'))
      return { status: 200, body: { known: Object.fromEntries(this.log.filter((l) => body.ids.includes(l.edit.id)).map((l) => [l.edit.id, l.version])) } };
    if (path.endsWith('/edits') && method === 'POST') return this.edits(body);
    return {
      status: 200,
      body: {
        id: 'l',
        version: this.level.version,
        objects: structuredClone([...this.level.objects.values()]),
        tiles: [...this.level.tiles].map(([key, t]) => ({ key, data: toBase64(packRaster(t)) })),
      },
    };
  }

  private edits({ client, base, edits, force }: { client: string; base: number; edits: unknown[]; force: boolean }): { status: number; body: unknown } {
    this.batches.push(edits.map((e) => (e as Edit).id));
    if (this.writer && this.writer !== client) return problem(423, 'not-writer');
    const list: Edit[] = [];
    for (const given of edits) {
      const read = parseEdit(given);
      if (!read.ok) return problem(422, read.code, { id: (given as Edit).id });
      list.push(read.edit);
    }
    const others = this.log.filter((l) => l.version > base && l.client !== client);
    const clash = force ? [] : others.filter((o) => list.some((e) => !disjoint(o.edit, e)));
    if (clash.length > 0) return problem(409, 'conflict', { conflicts: clash.map((c) => ({ id: c.edit.id, label: c.edit.label })) });
    const results: unknown[] = [];
    for (const edit of list) {
      const known = this.log.find((l) => l.edit.id === edit.id);
      const refused = known ? undefined : this.apply(client, edit);
      if (refused) {
        results.push({ id: edit.id, ...refused });
        break;
      }
      results.push({ id: edit.id, version: known?.version ?? this.level.version });
    }
    return { status: 200, body: { version: this.level.version, results, rebased: others.length > 0 } };
  }
}

/** Web Locks among the "tabs" of a test. */
export function fakeLocks() {
  const held = new Map<string, { steal(): void }>();
  return {
    request(name: string, options: { steal?: boolean; ifAvailable?: boolean }, work: (lock: object | null) => Promise<void> | undefined): Promise<unknown> {
      const holder = held.get(name);
      if (holder && !options.steal) return Promise.resolve(work(null));
      holder?.steal();
      return new Promise((done, stolen) => {
        const mine = { steal: () => stolen(new DOMException('stolen', 'AbortError')) };
        held.set(name, mine);
        const free = () => {
          if (held.get(name) === mine) held.delete(name);
        };
        Promise.resolve(work({})).then(() => {
          free();
          done(undefined);
        });
      });
    },
    get count() {
      return held.size;
    },
  };
}
