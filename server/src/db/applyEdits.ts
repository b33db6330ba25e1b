import { and, eq, inArray, or, sql } from 'drizzle-orm';
import { unpackRaster } from '@rammer/core/num/fixed';
import { assetHashes } from '@rammer/core/level/kinds/asset';
import { applyEdit, disjoint, mergeChanges, type Changes, type Edit } from '@rammer/core/level/edits/index';
import { LEASE_MS } from '@rammer/core/level/lease';
import { usersOf, type LevelReader } from '@rammer/core/level/level';
import type { LevelObject } from '@rammer/core/level/objects';
import { NEEDED_FIELDS, NEEDED_KINDS } from '@rammer/core/level/references';
import { TILE_SAMPLES } from '@rammer/core/level/tiles';
import { missingAssets } from './assetStore';
import { appendToLog, elsewhere, foldLog, knownEdits, othersSince } from './editLog';
import type { Database, Transaction } from './open';
import { objectsOf, writeObjects, writeTiles } from './rows';
import { levels, objects, tiles } from './schema';

export type EditResult = { id: string; version: number } | { id: string; code: string; message: string };

export type ApplyOutcome =
  | { kind: 'missing' }
  | { kind: 'not-writer'; until: Date }
  | { kind: 'conflict'; version: number; conflicts: { id: string; label: string }[] }
  | { kind: 'done'; version: number; results: EditResult[]; rebased: boolean };

/** A batch as a client sends it. */
interface Asked {
  client: string;
  /** the version it has seen */
  base: number;
  list: readonly Edit[];
  /** over what others wrote since */
  force: boolean;
}

/**
 * Applies edits in order in one transaction, touching only the rows they touch and writing each of them once.
 *
 * An edit whose uuid is in the log is not applied again: its stored version is the answer. Edits made
 * on an older version are rebased when they are disjoint from all that came since, unless `force`.
 * A refused edit ends the batch; those before it stay.
 */
export async function applyEdits(db: Database, levelId: string, { client, base, list, force }: Asked): Promise<ApplyOutcome> {
  return db.transaction(async (tx): Promise<ApplyOutcome> => {
    const [row] = await tx
      .select({ version: levels.version, writer: levels.writer, writerUntil: levels.writerUntil })
      .from(levels)
      .where(eq(levels.id, levelId))
      .for('update');
    if (!row) return { kind: 'missing' };
    const now = new Date();
    if (row.writer && row.writer !== client && row.writerUntil && row.writerUntil > now) return { kind: 'not-writer', until: row.writerUntil };
    const ids = list.map((e) => e.id);
    const stored = await knownEdits(tx, levelId, ids);
    const fresh = list.filter((e) => !stored.has(e.id));
    let rebased = false;
    if (fresh.length > 0 && base < row.version && !force) {
      // A client knows its own edits whatever base it states.
      const others = (await othersSince(tx, levelId, base, client)).filter((s) => !stored.has(s.id));
      rebased = others.length > 0;
      const clash = others.filter((o) => fresh.some((e) => !disjoint(o, e)));
      if (clash.length > 0) return { kind: 'conflict', version: row.version, conflicts: clash.map((c) => ({ id: c.id, label: c.label })) };
    }
    const foreign = await elsewhere(
      tx,
      levelId,
      fresh.map((e) => e.id),
    );
    const level = await openRows(tx, levelId, fresh);
    const log: { version: number; edit: Edit }[] = [];
    const results: EditResult[] = [];
    for (const edit of list) {
      const before = stored.get(edit.id);
      if (before !== undefined) {
        results.push({ id: edit.id, version: before });
        continue;
      }
      const refused = foreign.has(edit.id)
        ? { code: 'edit-elsewhere', message: 'another level has an edit of this uuid: make a new one' }
        : await level.apply(edit);
      if (refused) {
        results.push({ id: edit.id, code: refused.code, message: refused.message });
        break;
      }
      log.push({ version: row.version + log.length + 1, edit });
      results.push({ id: edit.id, version: row.version + log.length });
    }
    await level.write();
    await appendToLog(tx, levelId, client, log);
    const version = row.version + log.length;
    await tx
      .update(levels)
      .set({ version, writer: client, writerUntil: new Date(now.getTime() + LEASE_MS), ...(log.length > 0 ? { savedAt: now } : {}) })
      .where(eq(levels.id, levelId));
    if (log.length > 0) await foldLog(tx, levelId);
    return { kind: 'done', version, results, rebased };
  });
}

/** The rows that some edits touch, as a level: edits are applied over them one after the other, and written all at once. */
async function openRows(tx: Transaction, levelId: string, list: readonly Edit[]) {
  const ids = new Set<string>(['settings']);
  const keys = new Set<string>();
  const whole = new Set<string>();
  for (const edit of list) {
    for (const key of [...edit.reads, ...edit.writes]) {
      const [owner, field] = key.slice(2).split('/');
      ids.add(owner);
      if (key.startsWith('t:')) keys.add(key.slice(2));
      else if (field === undefined) whole.add(owner);
    }
  }
  const rows = await tx
    .select({ id: objects.id, body: objects.body })
    .from(objects)
    .where(and(eq(objects.levelId, levelId), inArray(objects.id, [...ids])));
  const found = new Map(objectsOf(rows).list.map((o) => [o.id, o]));
  const packed = new Map(
    keys.size === 0
      ? []
      : (
          await tx
            .select({ key: tiles.key, data: tiles.data })
            .from(tiles)
            .where(and(eq(tiles.levelId, levelId), sql`${tiles.key} = any(${sql.param([...keys])}::text[])`))
        ).map((t) => [t.key, t.data]),
  );
  // What may go and is needed by others: only then are those looked for.
  const needed = [...whole].filter((id) => {
    const o = found.get(id);
    return o && NEEDED_KINDS.includes(o.kind);
  });
  const users =
    needed.length === 0
      ? []
      : objectsOf(
          await tx
            .select({ id: objects.id, body: objects.body })
            .from(objects)
            .where(and(eq(objects.levelId, levelId), or(...NEEDED_FIELDS.map((f) => inArray(sql`${objects.body}->>${f}`, needed))))),
        ).list;
  const changed: Changes = { objects: new Map(), tiles: new Map() };
  const object = (id: string): LevelObject | undefined => (changed.objects.has(id) ? changed.objects.get(id) : found.get(id));
  const reader: LevelReader = {
    object,
    tile(key) {
      if (changed.tiles.has(key)) return changed.tiles.get(key);
      const bytes = packed.get(key);
      return bytes && unpackRaster(bytes, TILE_SAMPLES);
    },
    *users(id) {
      const seen = new Set(users.map((u) => u.id));
      for (const u of users) {
        const now = changed.objects.has(u.id) ? changed.objects.get(u.id) : u;
        if (now) yield* usersOf([now], id);
      }
      for (const [other, now] of changed.objects) if (now && !seen.has(other)) yield* usersOf([now], id);
    },
  };
  return {
    /** @returns why it is refused; then nothing of it is done */
    async apply(edit: Edit): Promise<{ code: string; message: string } | undefined> {
      const applied = applyEdit(reader, edit);
      if (!applied.ok) return applied;
      const hashes = [...applied.changes.objects.values()].flatMap((o) => (o?.kind === 'asset' ? assetHashes(o) : []));
      if ((await missingAssets(tx, hashes)).length > 0)
        return { code: 'asset-missing', message: 'the mesh of this asset is not on the server: add its file first' };
      mergeChanges(changed, applied.changes);
      return undefined;
    },
    async write(): Promise<void> {
      const gone = [...changed.objects].flatMap(([id, o]) => (o ? [] : [id]));
      if (gone.length > 0) await tx.delete(objects).where(and(eq(objects.levelId, levelId), inArray(objects.id, gone)));
      await writeObjects(
        tx,
        levelId,
        [...changed.objects.values()].filter((o): o is LevelObject => o !== undefined),
      );
      await writeTiles(tx, levelId, changed.tiles, changed.given);
    },
  };
}
