import { fromBase64, unpackRaster } from '@rammer/core/num/fixed';
import { makeLevel, type Level } from '@rammer/core/level/level';
import { parseObject } from '@rammer/core/level/objects';
import { TILE_SAMPLES } from '@rammer/core/level/tiles';
import type { Edit } from '@rammer/core/level/edits/index';
import type { Check } from '@rammer/core/snag/checkLevel';

/** An answer that is a problem, with the door's stable code; `status` 0 where there was no answer. */
export class ApiProblem extends Error {
  constructor(readonly status: number, readonly code: string, message: string, readonly extra: Record<string, unknown> = {}) {
    super(message);
  }
  /** no answer, or the server or its database is away: worth trying again */
  get away(): boolean { return this.status === 0 || this.status === 502 || this.status === 503 || this.status === 504 || this.status === 500; }
}

export async function call<T>(method: string, path: string, body?: unknown, options: { signal?: AbortSignal; keepalive?: boolean; type?: string } = {}): Promise<T> {
  let response: Response;
  try {
    response = await fetch(path, {
      method,
      headers: body === undefined ? undefined : { 'Content-Type': options.type ?? 'application/json' },
      body: body === undefined ? undefined : options.type ? (body as BodyInit) : JSON.stringify(body),
      signal: options.signal ?? (options.keepalive ? undefined : AbortSignal.timeout(60_000)),
      keepalive: options.keepalive,
    });
  } catch {
    throw new ApiProblem(0, 'no-answer', 'the server does not answer');
  }
  if (response.status === 204) return undefined as T;
  const type = response.headers.get('content-type') ?? '';
  let value: unknown;
  try {
    value = await response.json();
  } catch {
    throw new ApiProblem(0, 'no-answer', 'the answer was cut off');
  }
  if (response.ok && type.includes('json')) return value as T;
  const p = value as { title?: string; code?: string };
  throw new ApiProblem(response.status, p.code ?? 'unknown', p.title ?? `the server answered ${response.status}`, value as Record<string, unknown>);
}

export interface Job { id: string; state: 'running' | 'done' | 'failed' | 'cancelled'; progress: number; result?: Check; error?: string }

/** Loads a level: objects and tiles of one version, asked for again when an edit came between. */
export async function loadLevel(id: string): Promise<Level> {
  for (let tries = 0; ; tries++) {
    const [document, rasters] = await Promise.all([
      call<{ version: number; objects: unknown[] }>('GET', `/api/levels/${id}`),
      call<{ version: number; tiles: { key: string; data: string }[] }>('GET', `/api/levels/${id}/tiles`),
    ]);
    if (document.version !== rasters.version && tries < 5) continue;
    const objects = document.objects.map((o) => {
      const parsed = parseObject(o);
      if (!parsed.ok) throw new ApiProblem(422, 'object-invalid', `this level cannot be shown: ${parsed.message}`);
      return parsed.object;
    });
    return makeLevel(objects, rasters.tiles.map((t) => [t.key, unpackRaster(fromBase64(t.data), TILE_SAMPLES)]), document.version);
  }
}

/** Ids of the edits in the server's log with a version over `after` and up to `upTo`. */
export async function loggedEdits(id: string, after: number, upTo: number): Promise<Set<string>> {
  const ids = new Set<string>();
  for (let from = after; from < upTo;) {
    const { edits } = await call<{ edits: { version: number; edit: Edit }[] }>('GET', `/api/levels/${id}/edits?after=${from}`);
    if (edits.length === 0) break;
    for (const { version, edit } of edits) if (version <= upTo) ids.add(edit.id);
    from = edits[edits.length - 1].version;
  }
  return ids;
}

export interface EditsAnswer { version: number; rebased: boolean; results: ({ id: string; version: number } | { id: string; code: string; message: string })[] }

export const sendEdits = (id: string, client: string, base: number, edits: Edit[], force: boolean) => call<EditsAnswer>('POST', `/api/levels/${id}/edits`, { client, base, edits, force });
export const sendLease = (id: string, client: string, take: boolean) => call<{ held: boolean; version: number }>('POST', `/api/levels/${id}/lease`, { client, take });
