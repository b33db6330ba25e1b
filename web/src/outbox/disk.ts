import { openDB, type IDBPDatabase } from 'idb';
import type { AnyEditBody, Edit } from '@rammer/core/level/edits/index';

/**
 * What must outlive the tab, in IndexedDB: the outbox (edits on their way to the server, in order)
 * and the undo list of each level. Both change in one transaction with strict durability.
 */
export interface OutboxEntry { seq?: number; level: string; edit: Edit; base: number }

/** Entry `n` of a level's undo list; those up to the level's `done` are done, the rest undone. */
export interface UndoEntry { level: string; n: number; label: string; undo: AnyEditBody; redo: AnyEditBody; bytes: number }

interface Schema {
  outbox: { key: number; value: OutboxEntry; indexes: { level: string } };
  undo: { key: [string, number]; value: UndoEntry };
  done: { key: string; value: { level: string; done: number } };
}

let opened: Promise<IDBPDatabase<Schema>> | undefined;

function disk(): Promise<IDBPDatabase<Schema>> {
  opened ??= openDB<Schema>('rammer', 1, {
    upgrade(db) {
      db.createObjectStore('outbox', { keyPath: 'seq', autoIncrement: true }).createIndex('level', 'level');
      db.createObjectStore('undo', { keyPath: ['level', 'n'] });
      db.createObjectStore('done', { keyPath: 'level' });
    },
    terminated() { opened = undefined; },
  });
  return opened;
}

const undoRange = (level: string, from = 0, to = Number.MAX_SAFE_INTEGER) => IDBKeyRange.bound([level, from], [level, to]);

export interface Step {
  entry?: OutboxEntry;
  /** undo entries to write, how many are done then, and which range to forget */
  put: UndoEntry[];
  done: number;
  forgetFrom?: number;
  forgetBelow?: number;
}

/** Writes one step of a level; returns when it is on the disk. */
export async function writeStep(level: string, step: Step): Promise<void> {
  const db = await disk();
  const tx = db.transaction(['outbox', 'undo', 'done'], 'readwrite', { durability: 'strict' });
  if (step.forgetFrom !== undefined) void tx.objectStore('undo').delete(undoRange(level, step.forgetFrom));
  if (step.forgetBelow !== undefined) void tx.objectStore('undo').delete(undoRange(level, 0, step.forgetBelow));
  if (step.entry) void tx.objectStore('outbox').add(step.entry);
  for (const u of step.put) void tx.objectStore('undo').put(u);
  void tx.objectStore('done').put({ level, done: step.done });
  await tx.done;
}

export async function readOutbox(level: string): Promise<OutboxEntry[]> {
  return (await disk()).getAllFromIndex('outbox', 'level', level);
}

/**
 * Removes answered entries. Those left were made on top of them, so that their base moves up to
 * `base`, the version the server answered.
 */
export async function removeFromOutbox(level: string, seqs: number[], base?: number): Promise<void> {
  const tx = (await disk()).transaction('outbox', 'readwrite', { durability: 'strict' });
  for (const s of seqs) void tx.store.delete(s);
  if (base !== undefined) {
    for (let at = await tx.store.index('level').openCursor(level); at; at = await at.continue()) {
      if (!seqs.includes(at.primaryKey as number) && at.value.base < base) void at.update({ ...at.value, base });
    }
  }
  await tx.done;
}

export async function readUndo(level: string): Promise<{ entries: UndoEntry[]; done: number }> {
  const db = await disk();
  const entries = await db.getAll('undo', undoRange(level));
  const row = await db.get('done', level);
  return { entries, done: row?.done ?? 0 };
}

export async function forgetLevel(level: string): Promise<void> {
  const db = await disk();
  const tx = db.transaction(['outbox', 'undo', 'done'], 'readwrite');
  void tx.objectStore('undo').delete(undoRange(level));
  void tx.objectStore('done').delete(level);
  for (const key of await tx.objectStore('outbox').index('level').getAllKeys(level)) void tx.objectStore('outbox').delete(key);
  await tx.done;
}
