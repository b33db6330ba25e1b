import { and, eq, inArray, sql } from 'drizzle-orm';
import { packRaster } from '@rammer/core/num/fixed';
import { parseObject, type LevelObject } from '@rammer/core/level/objects';
import type { Transaction } from './open';
import { objects, tiles } from './schema';

/** Rows of objects and tiles to and from the level, many to a statement. */
const OBJECTS_AT_ONCE = 1000;
const TILES_AT_ONCE = 512;

/** A row that no longer reads as an object: which, and why. The rest of its level does. */
export interface SetAside {
  id: string;
  message: string;
}

/** The objects of some rows; those that cannot be read are set aside by name. */
export function objectsOf(rows: readonly { id: string; body: unknown }[]): { list: LevelObject[]; setAside: SetAside[] } {
  const list: LevelObject[] = [];
  const setAside: SetAside[] = [];
  for (const { id, body } of rows) {
    const parsed = parseObject(body);
    if (parsed.ok && parsed.object.id === id) list.push(parsed.object);
    else setAside.push({ id, message: parsed.ok ? `the row of ${id} holds ${parsed.object.id}` : parsed.message });
  }
  return { list, setAside };
}

/** Writes objects over those of the same ids. */
export async function writeObjects(tx: Transaction, levelId: string, list: readonly LevelObject[]): Promise<void> {
  for (let i = 0; i < list.length; i += OBJECTS_AT_ONCE) {
    await tx
      .insert(objects)
      .values(list.slice(i, i + OBJECTS_AT_ONCE).map((o) => ({ levelId, id: o.id, kind: o.kind, version: o.version, body: o })))
      .onConflictDoUpdate({
        target: [objects.levelId, objects.id],
        set: { kind: sql`excluded.kind`, version: sql`excluded.version`, body: sql`excluded.body` },
      });
  }
}

/**
 * Writes tiles over those of the same keys; `undefined` takes one away. Tiles that are one array are packed once.
 *
 * @param packed those that are known packed already, in base64
 */
export async function writeTiles(
  tx: Transaction,
  levelId: string,
  changed: Iterable<[string, Int32Array | undefined]>,
  packed: ReadonlyMap<string, string> = new Map(),
): Promise<void> {
  const all = [...changed];
  const gone = all.flatMap(([key, tile]) => (tile ? [] : [key]));
  for (let i = 0; i < gone.length; i += TILES_AT_ONCE)
    await tx.delete(tiles).where(and(eq(tiles.levelId, levelId), inArray(tiles.key, gone.slice(i, i + TILES_AT_ONCE))));
  const kept = all.filter((entry): entry is [string, Int32Array] => entry[1] !== undefined);
  const made = new Map<Int32Array, Uint8Array>();
  const pack = (key: string, tile: Int32Array): Uint8Array => {
    const given = packed.get(key);
    if (given !== undefined) return Buffer.from(given, 'base64');
    let bytes = made.get(tile);
    if (!bytes) made.set(tile, (bytes = packRaster(tile)));
    return bytes;
  };
  for (let i = 0; i < kept.length; i += TILES_AT_ONCE) {
    const part = kept.slice(i, i + TILES_AT_ONCE);
    // Two arrays, not three values a row: those took longer to word than to write.
    const keys = sql.param(part.map(([key]) => key));
    const data = sql.param(part.map(([key, tile]) => pack(key, tile)));
    await tx.execute(sql`insert into ${tiles} (level_id, key, data) select ${levelId}, k, d from unnest(${keys}::text[], ${data}::bytea[]) as t(k, d)
      on conflict (level_id, key) do update set data = excluded.data`);
  }
}
