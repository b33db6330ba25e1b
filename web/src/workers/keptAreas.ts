import { openDB, type IDBPDatabase } from 'idb';
import type { WalkAreaKept } from '@rammer/core/play/walkArea';

/** A walk area larger than this is not kept: the browser's room is for what waits to be saved. */
const MOST_BYTES = 80 << 20;
/** Walk areas kept, of all levels and bodies; the oldest go. */
const MOST_AREAS = 4;

/** `made`: which build of Rammer found it. Another may find otherwise. */
interface Row {
  key: string;
  made: string;
  at: number;
  area: WalkAreaKept;
}
interface Schema {
  areas: { key: string; value: Row; indexes: { at: number } };
}

let opened: Promise<IDBPDatabase<Schema>> | undefined;

function disk(): Promise<IDBPDatabase<Schema>> {
  opened ??= openDB<Schema>('rammer-walk', 1, {
    upgrade(db) {
      db.createObjectStore('areas', { keyPath: 'key' }).createIndex('at', 'at');
    },
    blocking() {
      void opened?.then((db) => db.close());
      opened = undefined;
    },
    terminated() {
      opened = undefined;
    },
  });
  opened.catch(() => {
    opened = undefined;
  });
  return opened;
}

/** The walk area that was kept under a key by the same build, if there is one. A browser that keeps nothing has none. */
export async function keptArea(key: string, made: string): Promise<WalkAreaKept | undefined> {
  try {
    const row = await (await disk()).get('areas', key);
    return row?.made === made ? row.area : undefined;
  } catch {
    return undefined;
  }
}

/** Keeps a walk area under a key, and no more than a few. What cannot be kept is found again another day. */
export async function keepArea(key: string, made: string, area: WalkAreaKept): Promise<void> {
  const bytes = area.links.length + area.tiles.reduce((sum, t) => sum + Object.values(t).reduce((s: number, a: ArrayBufferView) => s + a.byteLength, 0), 0);
  if (bytes > MOST_BYTES) return;
  try {
    const db = await disk();
    await db.put('areas', { key, made, at: Date.now(), area });
    const oldestFirst = await db.getAllKeysFromIndex('areas', 'at');
    for (const old of oldestFirst.slice(0, -MOST_AREAS)) await db.delete('areas', old);
  } catch {
    /* no room: it is only kept to be quick */
  }
}
