import { openDB, type IDBPDatabase } from 'idb';
import type { AnyEditBody, Edit } from '@rammer/core/level/edits/index';
import { upgradeEdit } from '@rammer/core/level/upgrade';

/**
 * What must outlive the tab, in IndexedDB: the outbox (edits on their way to the server, in order), the undo list
 * of each level, and edits that the server would not take. Outbox and undo list change in one transaction with
 * strict durability.
 */
export interface OutboxEntry {
  seq?: number;
  level: string;
  edit: Edit;
  base: number;
  /** uuid of the act it belongs to: its own, or where it undoes or redoes an act, that act's */
  root?: string;
}

/** Entry `n` of a level's undo list; those up to the level's `done` are done, the rest undone. `root` is the act's first edit. */
export interface UndoEntry {
  level: string;
  n: number;
  label: string;
  undo: AnyEditBody;
  redo: AnyEditBody;
  bytes: number;
  root?: string;
}

/** An edit that the server would not take, kept for the person to decide about. */
export interface AsideEntry {
  seq?: number;
  level: string;
  edit: Edit;
  why: string;
  at: number;
}

interface Schema {
  outbox: { key: number; value: OutboxEntry; indexes: { level: string } };
  undo: { key: [string, number]; value: UndoEntry };
  done: { key: string; value: { level: string; done: number } };
  aside: { key: number; value: AsideEntry; indexes: { level: string } };
}

let opened: Promise<IDBPDatabase<Schema>> | undefined;

function disk(): Promise<IDBPDatabase<Schema>> {
  opened ??= new Promise<IDBPDatabase<Schema>>((done, failed) =>
    openDB<Schema>('rammer', 2, {
      upgrade(db, from) {
        if (from < 1) {
          db.createObjectStore('outbox', { keyPath: 'seq', autoIncrement: true }).createIndex('level', 'level');
          db.createObjectStore('undo', { keyPath: ['level', 'n'] });
          db.createObjectStore('done', { keyPath: 'level' });
        }
        db.createObjectStore('aside', { keyPath: 'seq', autoIncrement: true }).createIndex('level', 'level');
      },
      blocked() {
        failed(new Error('another tab has an older Rammer open, which keeps what waits in this browser: reload or close it, then load this page again'));
      },
      // Where a newer Rammer opens in another tab this page lets go of it.
      blocking() {
        void opened?.then((db) => db.close());
        opened = undefined;
      },
      terminated() {
        opened = undefined;
      },
    }).then(done, failed),
  );
  opened.catch(() => {
    opened = undefined;
  });
  return opened;
}

/** What an older Rammer left here, in the words of today; the rest as it is. */
const ofToday = <E extends OutboxEntry | AsideEntry>(entry: E): E => ({ ...entry, edit: upgradeEdit(entry.edit) as Edit });
const undoOfToday = (entry: UndoEntry): UndoEntry => ({ ...entry, undo: upgradeEdit(entry.undo) as AnyEditBody, redo: upgradeEdit(entry.redo) as AnyEditBody });

const undoRange = (level: string, from = 0, to = Number.MAX_SAFE_INTEGER) => IDBKeyRange.bound([level, from], [level, to]);

export interface Step {
  entry?: OutboxEntry;
  /** undo entries to write, how many are done then, and which to forget: a range, or some */
  put: UndoEntry[];
  done: number;
  forgetFrom?: number;
  forgetBelow?: number;
  forget?: number[];
}

/** Writes one step of a level; returns when it is on the disk. */
export async function writeStep(level: string, step: Step): Promise<void> {
  const db = await disk();
  const tx = db.transaction(['outbox', 'undo', 'done'], 'readwrite', { durability: 'strict' });
  if (step.forgetFrom !== undefined) void tx.objectStore('undo').delete(undoRange(level, step.forgetFrom));
  if (step.forgetBelow !== undefined) void tx.objectStore('undo').delete(undoRange(level, 0, step.forgetBelow));
  for (const n of step.forget ?? []) void tx.objectStore('undo').delete([level, n]);
  if (step.entry) void tx.objectStore('outbox').add(step.entry);
  for (const u of step.put) void tx.objectStore('undo').put(u);
  void tx.objectStore('done').put({ level, done: step.done });
  await tx.done;
}

export async function readOutbox(level: string): Promise<OutboxEntry[]> {
  return (await (await disk()).getAllFromIndex('outbox', 'level', level)).map(ofToday);
}

export async function countOutbox(level: string): Promise<number> {
  return (await disk()).countFromIndex('outbox', 'level', level);
}

/**
 * The first entries of a level's outbox, no more than one message may hold; at least one where there is any.
 *
 * @param bytes of their edits as JSON, about
 */
export async function readBatch(level: string, most: { entries: number; bytes: number }): Promise<OutboxEntry[]> {
  const batch: OutboxEntry[] = [];
  let bytes = 0;
  const { store } = (await disk()).transaction('outbox');
  for (let at = await store.index('level').openCursor(level); at && batch.length < most.entries; at = await at.continue()) {
    bytes += sizeOfEdit(at.value.edit);
    if (batch.length > 0 && bytes > most.bytes) break;
    batch.push(ofToday(at.value));
  }
  return batch;
}

/** About how long an edit is as JSON. */
export function sizeOfEdit(edit: AnyEditBody): number {
  if (edit.kind === 'stroke') return edit.tiles.reduce((sum, t) => sum + t.delta.length + 2 * t.key.length + 40, 300);
  if (edit.kind === 'together') return edit.parts.reduce((sum, p) => sum + sizeOfEdit(p), 300);
  return JSON.stringify(edit).length;
}

/**
 * Removes answered entries. Those left were made on top of them, so that their base moves up to
 * `base`, the version the server answered.
 *
 * @param aside those among them that were not taken, to be kept beside, in the same transaction
 */
export async function removeFromOutbox(level: string, seqs: number[], base?: number, aside: AsideEntry[] = []): Promise<void> {
  const tx = (await disk()).transaction(['outbox', 'aside'], 'readwrite', { durability: 'strict' });
  const outbox = tx.objectStore('outbox');
  for (const s of seqs) void outbox.delete(s);
  for (const a of aside) void tx.objectStore('aside').add(a);
  if (base !== undefined) {
    for (let at = await outbox.index('level').openCursor(level); at; at = await at.continue()) {
      if (!seqs.includes(at.primaryKey as number) && at.value.base < base) void at.update({ ...at.value, base });
    }
  }
  await tx.done;
}

export async function readAside(level: string): Promise<AsideEntry[]> {
  return (await (await disk()).getAllFromIndex('aside', 'level', level)).map(ofToday);
}

export async function removeAside(seqs: number[]): Promise<void> {
  const tx = (await disk()).transaction('aside', 'readwrite', { durability: 'strict' });
  for (const s of seqs) void tx.store.delete(s);
  await tx.done;
}

export async function readUndo(level: string): Promise<{ entries: UndoEntry[]; done: number }> {
  const db = await disk();
  const entries = (await db.getAll('undo', undoRange(level))).map(undoOfToday);
  const row = await db.get('done', level);
  return { entries, done: row?.done ?? 0 };
}

export async function forgetLevel(level: string): Promise<void> {
  const db = await disk();
  const tx = db.transaction(['outbox', 'undo', 'done', 'aside'], 'readwrite');
  void tx.objectStore('undo').delete(undoRange(level));
  void tx.objectStore('done').delete(level);
  for (const name of ['outbox', 'aside'] as const)
    for (const key of await tx.objectStore(name).index('level').getAllKeys(level)) void tx.objectStore(name).delete(key);
  await tx.done;
}
