import { ApiProblem, call, sendEdits } from './api';
import { countOutbox, readBatch, readOutbox, removeFromOutbox, type OutboxEntry } from './disk';

export type SaveState =
  | { kind: 'saved'; at: Date }
  | { kind: 'saving'; waiting: number }
  | { kind: 'offline'; waiting: number; why?: string }
  | { kind: 'read-only'; waiting: number }
  | { kind: 'conflict'; waiting: number; conflicts: { id: string; label: string }[] }
  | { kind: 'storage-full' };

export interface Flushed {
  /** the server's version, where anything was sent */
  version?: number;
  /** edits of others were rebased over, or an edit was set aside: the level must be read again */
  reload: boolean;
  /** acts that were set aside or that undid one of those: no part of the undo list any more */
  lost: Set<string>;
  refused?: string;
  stopped?: 'offline' | 'not-writer' | 'conflict' | 'missing';
  /** why nothing goes on, where the server said more than nothing */
  why?: string;
  conflicts?: { id: string; label: string }[];
  waiting: number;
}

/** What one message holds at most. One edit may be larger than that: it goes alone. */
export const BATCH = Object.freeze({ entries: 50, bytes: 4 << 20 });
/** The largest edit the server takes, as JSON; one that is larger is refused before it is made. */
export const MOST_EDIT_BYTES = 90 << 20;
/** After so many failures of the server at one and the same edit, that edit is set aside. */
const TRIES = 3;

/** How often the server has failed at an edit, by its uuid; a page that is loaded again begins anew. */
const failures = new Map<string, number>();

/**
 * Sends what waits in a level's outbox, in order, until it is empty or something stops it. An entry leaves the
 * outbox only when the server has answered for its uuid: taken, or refused by name, or it failed at that edit again
 * and again while it is well otherwise. What is refused is set aside and not thrown away; any other answer leaves
 * everything waiting. A lost answer means that an edit is sent again and found in the server's log.
 */
export async function flushOutbox(level: string, client: string, force: boolean): Promise<Flushed> {
  const out: Flushed = { reload: false, lost: new Set(), waiting: 0 };
  let most: { entries: number; bytes: number } = BATCH;
  for (;;) {
    const batch = await readBatch(level, most);
    if (batch.length === 0) return out;
    // What undid an act that was set aside may have come in since: it goes with it, unsent.
    const orphans = batch.filter((e) => e.root !== undefined && out.lost.has(e.root));
    if (orphans.length > 0) {
      await removeFromOutbox(
        level,
        orphans.map((e) => e.seq!),
      );
      continue;
    }
    try {
      const answer = await sendEdits(
        level,
        client,
        batch[0].base,
        batch.map((e) => e.edit),
        force,
      );
      const byId = new Map(batch.map((e) => [e.edit.id, e]));
      const taken: OutboxEntry[] = [];
      let refused: { entry: OutboxEntry; message: string } | undefined;
      for (const result of answer.results) {
        const entry = byId.get(result.id);
        if (!entry) continue;
        failures.delete(result.id);
        if ('code' in result) refused = { entry, message: result.message };
        else taken.push(entry);
      }
      // After a rebase the others' edits are not known here yet: what is left must still be held against them.
      await removeFromOutbox(
        level,
        taken.map((e) => e.seq!),
        answer.rebased ? undefined : answer.version,
      );
      out.version = answer.version;
      if (answer.rebased) out.reload = true;
      if (refused) await setAside(level, refused.entry, refused.message, out);
      // An answer for none of them is no answer.
      else if (taken.length === 0)
        return { ...out, stopped: 'offline', why: 'the server answered for none of the edits it was sent', waiting: await countOutbox(level) };
      most = BATCH;
    } catch (error) {
      if (!(error instanceof ApiProblem)) throw error;
      const named = batch.find((e) => e.edit.id === error.extra.id);
      if (error.code === 'level-missing' || error.code === 'not-writer')
        return { ...out, stopped: error.code === 'not-writer' ? 'not-writer' : 'missing', waiting: await countOutbox(level) };
      if (error.code === 'conflict')
        return { ...out, stopped: 'conflict', conflicts: error.extra.conflicts as { id: string; label: string }[], waiting: await countOutbox(level) };
      if (named && error.status === 422) await setAside(level, named, error.message, out);
      // Smaller messages, down to one edit: then it is known which it is that cannot be taken.
      else if (batch.length > 1 && (error.status === 413 || error.status === 422 || error.status === 500))
        most = { entries: error.status === 413 ? Math.ceil(batch.length / 2) : 1, bytes: BATCH.bytes };
      else if (batch.length === 1 && (error.status === 413 || error.status === 422 || error.status === 500) && (await failed(batch[0])))
        await setAside(level, batch[0], error.status === 500 ? 'the server failed at it again and again' : error.message, out);
      else return { ...out, stopped: 'offline', ...(error.status === 0 ? {} : { why: error.message }), waiting: await countOutbox(level) };
    }
  }
}

/** Counts a failure at an edit. @returns whether it is the edit: it failed often enough, and the server is well */
async function failed({ edit }: OutboxEntry): Promise<boolean> {
  const n = (failures.get(edit.id) ?? 0) + 1;
  failures.set(edit.id, n);
  if (n < TRIES) return false;
  try {
    await call('GET', '/api/health');
  } catch {
    return false;
  }
  failures.delete(edit.id);
  return true;
}

/** Takes an edit out of the way of the others, with what undid or redid it since: nothing of that has a ground any more. */
async function setAside(level: string, entry: OutboxEntry, why: string, out: Flushed): Promise<void> {
  const root = entry.root ?? entry.edit.id;
  const after = (await readOutbox(level)).filter((e) => e.seq! > entry.seq! && e.root === root);
  await removeFromOutbox(
    level,
    [entry, ...after].map((e) => e.seq!),
    undefined,
    [{ level, edit: entry.edit, why, at: Date.now() }],
  );
  out.lost.add(root);
  out.refused = `${entry.edit.label}: ${why}`;
  out.reload = true;
}
