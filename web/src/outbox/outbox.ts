import { ApiProblem, sendEdits } from '../store/api';
import { readOutbox, removeFromOutbox, type OutboxEntry } from './disk';

export type SaveState =
  | { kind: 'saved'; at: Date }
  | { kind: 'saving'; waiting: number }
  | { kind: 'offline'; waiting: number }
  | { kind: 'read-only'; waiting: number }
  | { kind: 'conflict'; waiting: number; conflicts: { id: string; label: string }[] }
  | { kind: 'storage-full' };

export interface Flushed {
  /** the server's version, where anything was sent */
  version?: number;
  /** edits of others were rebased over, or an edit was refused: the level must be read again */
  reload: boolean;
  refused?: string;
  stopped?: 'offline' | 'not-writer' | 'conflict' | 'missing';
  conflicts?: { id: string; label: string }[];
  waiting: number;
}

const BATCH = 50;

/**
 * Sends what waits in a level's outbox, in order, until it is empty or something stops it. An entry
 * leaves the outbox only when the server has answered for its uuid, so a lost answer means that it is
 * sent again and found in the server's log.
 */
export async function flushOutbox(level: string, client: string, force: boolean): Promise<Flushed> {
  let version: number | undefined;
  let reload = false;
  let refused: string | undefined;
  for (;;) {
    const waiting = await readOutbox(level);
    if (waiting.length === 0) return { version, reload, refused, waiting: 0 };
    const batch = waiting.slice(0, BATCH);
    try {
      const answer = await sendEdits(level, client, batch[0].base, batch.map((e) => e.edit), force);
      const gone: OutboxEntry[] = [];
      for (const result of answer.results) {
        const entry = batch.find((e) => e.edit.id === result.id);
        if (entry) gone.push(entry);
        if ('code' in result) {
          // What the server refuses now it would refuse for ever: the edit is dropped and said so.
          refused = `${entry?.edit.label ?? 'an edit'}: ${result.message}`;
          reload = true;
        }
      }
      // After a rebase the others' edits are not known here yet: what is left must still be held against them.
      await removeFromOutbox(level, gone.map((e) => e.seq!), answer.rebased ? undefined : answer.version);
      version = answer.version;
      if (answer.rebased) reload = true;
    } catch (error) {
      if (!(error instanceof ApiProblem)) throw error;
      const left = { version, reload, refused, waiting: waiting.length };
      if (error.away) return { ...left, stopped: 'offline' };
      if (error.code === 'not-writer') return { ...left, stopped: 'not-writer' };
      if (error.code === 'conflict') return { ...left, stopped: 'conflict', conflicts: error.extra.conflicts as { id: string; label: string }[] };
      if (error.code === 'level-missing') return { ...left, stopped: 'missing' };
      // A malformed edit at the head can never be sent; it goes, the rest follow.
      await removeFromOutbox(level, [batch[0].seq!]);
      refused = `${batch[0].edit.label}: ${error.message}`;
      reload = true;
    }
  }
}
