import { fromBase64, unpackRaster } from '@rammer/core/num/fixed';
import { makeLevel, type Level } from '@rammer/core/level/level';
import { parseObject, type LevelObject } from '@rammer/core/level/objects';
import { missingNeed } from '@rammer/core/level/references';
import { TILE_SAMPLES } from '@rammer/core/level/tiles';
import type { Edit } from '@rammer/core/level/edits/index';
import type { Check } from '@rammer/core/scene/checkLevel';

/** An answer that is a problem, with the door's stable code; `status` 0 where there was no answer. */
export class ApiProblem extends Error {
  constructor(
    readonly status: number,
    readonly code: string,
    message: string,
    readonly extra: Record<string, unknown> = {},
  ) {
    super(message);
  }
  /** no answer, or the server or its database is away: worth trying again. A 500 may be, and may be what was sent */
  get away(): boolean {
    return this.status === 0 || this.status === 502 || this.status === 503 || this.status === 504;
  }
}

/** Work that the server may have to queue: it is given longer to answer, seconds. */
export const LONG = { seconds: 600 };

/** @param options `seconds` until an answer is given up, 60 where absent */
export async function call<T>(
  method: string,
  path: string,
  body?: unknown,
  options: { signal?: AbortSignal; keepalive?: boolean; type?: string; seconds?: number } = {},
): Promise<T> {
  let response: Response;
  try {
    response = await fetch(path, {
      method,
      headers: body === undefined ? undefined : { 'Content-Type': options.type ?? 'application/json' },
      body: body === undefined ? undefined : options.type ? (body as BodyInit) : JSON.stringify(body),
      signal: options.signal ?? (options.keepalive ? undefined : AbortSignal.timeout((options.seconds ?? 60) * 1000)),
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

export interface Job {
  id: string;
  state: 'running' | 'done' | 'failed' | 'cancelled';
  /** no worker has taken it yet */ waiting?: boolean;
  progress: number;
  result?: Check;
  error?: string;
}

/** What of a level could not be read, by name. */
export interface SetAside {
  id: string;
  message: string;
}

/**
 * Loads a level, all of it as of one version. What cannot be read is set aside by name, and what hangs on it;
 * the level opens without.
 */
export async function loadLevel(id: string): Promise<{ level: Level; setAside: SetAside[] }> {
  const { version, objects, tiles } = await call<{ version: number; objects: unknown[]; tiles: { key: string; data: string }[] }>(
    'GET',
    `/api/levels/${id}?tiles=1`,
  );
  const setAside: SetAside[] = [];
  const list: LevelObject[] = [];
  for (const o of objects) {
    const parsed = parseObject(o);
    if (parsed.ok) list.push(parsed.object);
    else setAside.push({ id: String((o as { id?: unknown } | null)?.id ?? '?'), message: parsed.message });
  }
  const rasters: [string, Int32Array][] = [];
  for (const t of tiles) {
    try {
      rasters.push([t.key, unpackRaster(fromBase64(t.data), TILE_SAMPLES)]);
    } catch (error) {
      setAside.push({ id: t.key, message: (error as Error).message });
    }
  }
  const level = makeLevel(list, rasters, version);
  const settings = level.object('settings');
  if (settings?.kind !== 'settings' || level.object(settings.player)?.kind !== 'body')
    throw new ApiProblem(
      422,
      'level-unreadable',
      `this level cannot be shown: ${setAside.find((s) => s.id === 'settings')?.message ?? 'it has no settings, or no body to play it'}`,
    );
  for (const o of list) {
    const missing = setAside.length > 0 ? missingNeed(o, (other) => level.object(other)) : undefined;
    if (!missing) continue;
    level.objects.delete(o.id);
    setAside.push({ id: o.id, message: missing });
  }
  return { level, setAside };
}

/** Of some edits, those the server has, and the version each made. */
export async function knownEdits(id: string, ids: string[]): Promise<Map<string, number>> {
  const known = new Map<string, number>();
  for (let i = 0; i < ids.length; i += KNOWN_AT_ONCE) {
    const answer = await call<{ known: Record<string, number> }>('POST', `/api/levels/${id}/edits/known`, { ids: ids.slice(i, i + KNOWN_AT_ONCE) });
    for (const [edit, version] of Object.entries(answer.known)) known.set(edit, version);
  }
  return known;
}

const KNOWN_AT_ONCE = 1000;

export interface EditsAnswer {
  version: number;
  rebased: boolean;
  results: ({ id: string; version: number } | { id: string; code: string; message: string })[];
}

export const sendEdits = (id: string, client: string, base: number, edits: Edit[], force: boolean) =>
  call<EditsAnswer>('POST', `/api/levels/${id}/edits`, { client, base, edits, force });
export const sendLease = (id: string, client: string, take: boolean) =>
  call<{ held: boolean; version: number }>('POST', `/api/levels/${id}/lease`, { client, take });
