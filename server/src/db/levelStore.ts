import { randomUUID } from 'node:crypto';
import { and, asc, desc, eq, gt, inArray, ne, sql } from 'drizzle-orm';
import { packRaster, unpackRaster } from '@rammer/core/num/fixed';
import { applyEdit, disjoint, type Edit } from '@rammer/core/level/edits/index';
import { makeLevel, type Level, type LevelReader } from '@rammer/core/level/level';
import { parseObject, type LevelObject, type Settings } from '@rammer/core/level/objects';
import type { LevelSummary } from '@rammer/core/level/summary';
import { gridOf, TILE_SAMPLES } from '@rammer/core/level/tiles';
import { addAsset, assetFiles, missingAssets } from './assetStore';
import type { Database, Transaction } from './open';
import { edits, levels, objects, tiles } from './schema';

export async function listLevels(db: Database): Promise<LevelSummary[]> {
  const rows = await db.select({
    id: levels.id, version: levels.version, savedAt: levels.savedAt, check: levels.check, checkVersion: levels.checkVersion,
    settings: objects.body,
    blocks: sql<number>`(select count(*)::int from objects b where b.level_id = ${levels.id} and b.kind = 'block')`,
  }).from(levels).innerJoin(objects, and(eq(objects.levelId, levels.id), eq(objects.id, 'settings'))).orderBy(desc(levels.savedAt));
  return rows.map((r) => {
    const s = r.settings as Settings;
    const grid = gridOf(s);
    const check = r.check as LevelSummary['check'];
    return {
      id: r.id, name: s.name, version: r.version, width: grid.width, depth: grid.depth, tilesX: s.tilesX, tilesZ: s.tilesZ, spacing: s.spacing, blocks: r.blocks,
      savedAt: r.savedAt.toISOString(), check: check ? { ...check, stale: r.checkVersion !== r.version } : null,
    };
  });
}

export async function createLevel(db: Database, level: Level): Promise<string> {
  const id = randomUUID();
  await db.transaction(async (tx) => {
    await tx.insert(levels).values({ id, version: 0 });
    await insertObjects(tx, id, [...level.objects.values()]);
    for (const o of level.objects.values()) {
      const bytes = o.kind === 'asset' ? level.assets.get(o.hash) : undefined;
      if (bytes) await addAsset(tx, bytes, o.name);
    }
    for (const [key, tile] of level.tiles) await tx.insert(tiles).values({ levelId: id, key, data: packRaster(tile) });
  });
  return id;
}

async function insertObjects(tx: Transaction, levelId: string, list: LevelObject[]): Promise<void> {
  for (let i = 0; i < list.length; i += 1000) {
    await tx.insert(objects).values(list.slice(i, i + 1000).map((o) => ({ levelId, id: o.id, kind: o.kind, version: o.version, body: o })));
  }
}

/** Reads a whole level as it stands at one moment. @param meshes whether the files of its assets are wanted too */
export async function readLevel(db: Database, id: string, meshes = false): Promise<Level | undefined> {
  return db.transaction(async (tx) => {
    const [row] = await tx.select({ version: levels.version }).from(levels).where(eq(levels.id, id));
    if (!row) return undefined;
    const objectRows = await tx.select({ body: objects.body }).from(objects).where(eq(objects.levelId, id)).orderBy(asc(objects.seq));
    const tileRows = await tx.select({ key: tiles.key, data: tiles.data }).from(tiles).where(eq(tiles.levelId, id)).orderBy(asc(tiles.key));
    const list = objectRows.map((r) => fromRow(r.body));
    const files = meshes ? await assetFiles(tx, list.flatMap((o) => (o.kind === 'asset' ? [o.hash] : []))) : [];
    return makeLevel(list, tileRows.map((t) => [t.key, unpackRaster(t.data, TILE_SAMPLES)]), row.version, files);
  }, { isolationLevel: 'repeatable read', accessMode: 'read only' });
}

function fromRow(body: unknown): LevelObject {
  const parsed = parseObject(body);
  if (!parsed.ok) throw new Error(`stored object cannot be read: ${parsed.message}`);
  return parsed.object;
}

export async function readTiles(db: Database, id: string): Promise<{ version: number; tiles: { key: string; data: string }[] } | undefined> {
  return db.transaction(async (tx) => {
    const [row] = await tx.select({ version: levels.version }).from(levels).where(eq(levels.id, id));
    if (!row) return undefined;
    const list = await tx.select({ key: tiles.key, data: tiles.data }).from(tiles).where(eq(tiles.levelId, id)).orderBy(asc(tiles.key));
    return { version: row.version, tiles: list.map((t) => ({ key: t.key, data: Buffer.from(t.data).toString('base64') })) };
  }, { isolationLevel: 'repeatable read', accessMode: 'read only' });
}

export async function levelVersion(db: Database, id: string): Promise<number | undefined> {
  const [row] = await db.select({ version: levels.version }).from(levels).where(eq(levels.id, id));
  return row?.version;
}

export async function deleteLevel(db: Database, id: string): Promise<boolean> {
  return (await db.delete(levels).where(eq(levels.id, id)).returning({ id: levels.id })).length > 0;
}

export async function readEdits(db: Database, id: string, after: number): Promise<{ version: number; edit: Edit }[]> {
  const rows = await db.select({ version: edits.version, body: edits.body }).from(edits).where(and(eq(edits.levelId, id), gt(edits.version, after))).orderBy(asc(edits.version)).limit(5000);
  return rows.map((r) => ({ version: r.version, edit: r.body as Edit }));
}

export type EditResult = { id: string; version: number } | { id: string; code: string; message: string };

export type ApplyOutcome =
  | { kind: 'missing' }
  | { kind: 'not-writer'; until: Date }
  | { kind: 'conflict'; version: number; conflicts: { id: string; label: string }[] }
  | { kind: 'done'; version: number; results: EditResult[]; rebased: boolean };

/** How long a writer may be silent before another may take its place without asking, ms. */
export const LEASE_MS = 20_000;

/**
 * Applies edits in order in one transaction, touching only the rows they touch.
 *
 * An edit whose uuid is in the log is not applied again: its stored version is the answer. Edits made
 * on an older version are rebased when they are disjoint from all that came since, unless `force`.
 * A refused edit ends the batch; those before it stay.
 */
export async function applyEdits(db: Database, levelId: string, client: string, base: number, list: Edit[], force: boolean): Promise<ApplyOutcome> {
  return db.transaction(async (tx): Promise<ApplyOutcome> => {
    const [row] = await tx.select().from(levels).where(eq(levels.id, levelId)).for('update');
    if (!row) return { kind: 'missing' };
    const now = new Date();
    if (row.writer && row.writer !== client && row.writerUntil && row.writerUntil > now) return { kind: 'not-writer', until: row.writerUntil };
    const known = await tx.select({ id: edits.id, version: edits.version }).from(edits).where(and(eq(edits.levelId, levelId), inArray(edits.id, list.map((e) => e.id))));
    const stored = new Map(known.map((k) => [k.id, k.version]));
    const fresh = list.filter((e) => !stored.has(e.id));
    let rebased = false;
    if (fresh.length > 0 && base < row.version && !force) {
      // A client knows its own edits whatever base it states.
      const since = await tx.select({ id: edits.id, body: edits.body }).from(edits).where(and(eq(edits.levelId, levelId), gt(edits.version, base), ne(edits.client, client)));
      const others = since.filter((s) => !stored.has(s.id)).map((s) => s.body as Edit);
      rebased = others.length > 0;
      const clash = others.filter((o) => fresh.some((e) => !disjoint(o, e)));
      if (clash.length > 0) return { kind: 'conflict', version: row.version, conflicts: clash.map((c) => ({ id: c.id, label: c.label })) };
    }
    let version = row.version;
    const results: EditResult[] = [];
    for (const edit of list) {
      const before = stored.get(edit.id);
      if (before !== undefined) {
        results.push({ id: edit.id, version: before });
        continue;
      }
      const applied = applyEdit(await readerFor(tx, levelId, edit), edit);
      if (!applied.ok) {
        results.push({ id: edit.id, code: applied.code, message: applied.message });
        break;
      }
      const hashes = [...applied.changes.objects.values()].flatMap((o) => (o?.kind === 'asset' ? [o.hash] : []));
      if ((await missingAssets(tx, hashes)).length > 0) {
        results.push({ id: edit.id, code: 'asset-missing', message: 'the mesh of this asset is not on the server: add its file first' });
        break;
      }
      await writeChanges(tx, levelId, applied.changes);
      version += 1;
      await tx.insert(edits).values({ id: edit.id, levelId, version, client, body: edit });
      results.push({ id: edit.id, version });
    }
    await tx.update(levels).set({ version, writer: client, writerUntil: new Date(now.getTime() + LEASE_MS), ...(version !== row.version ? { savedAt: now } : {}) }).where(eq(levels.id, levelId));
    return { kind: 'done', version, results, rebased };
  });
}

/** Loads just the objects and tiles an edit's keys name. */
async function readerFor(tx: Transaction, levelId: string, edit: Edit): Promise<LevelReader> {
  const ids = new Set<string>(['settings']);
  const keys: string[] = [];
  for (const key of [...edit.reads, ...edit.writes]) {
    if (key.startsWith('o:')) ids.add(key.slice(2).split('/')[0]);
    else {
      keys.push(key.slice(2));
      ids.add(key.slice(2).split('/')[0]);
    }
  }
  const objectRows = await tx.select({ id: objects.id, body: objects.body }).from(objects).where(and(eq(objects.levelId, levelId), inArray(objects.id, [...ids])));
  const tileRows = keys.length === 0 ? [] : await tx.select({ key: tiles.key, data: tiles.data }).from(tiles).where(and(eq(tiles.levelId, levelId), inArray(tiles.key, keys)));
  const objectMap = new Map(objectRows.map((r) => [r.id, fromRow(r.body)]));
  const tileMap = new Map(tileRows.map((t) => [t.key, unpackRaster(t.data, TILE_SAMPLES)]));
  return { object: (id) => objectMap.get(id), tile: (key) => tileMap.get(key) };
}

async function writeChanges(tx: Transaction, levelId: string, changes: { objects: Map<string, LevelObject | undefined>; tiles: Map<string, Int32Array | undefined> }): Promise<void> {
  const gone = [...changes.objects].filter(([, o]) => !o).map(([id]) => id);
  if (gone.length > 0) await tx.delete(objects).where(and(eq(objects.levelId, levelId), inArray(objects.id, gone)));
  const kept = [...changes.objects.values()].filter((o): o is LevelObject => o !== undefined);
  for (let i = 0; i < kept.length; i += 1000) {
    await tx.insert(objects).values(kept.slice(i, i + 1000).map((o) => ({ levelId, id: o.id, kind: o.kind, version: o.version, body: o })))
      .onConflictDoUpdate({ target: [objects.levelId, objects.id], set: { version: sql`excluded.version`, body: sql`excluded.body` } });
  }
  for (const [key, tile] of changes.tiles) {
    if (!tile) await tx.delete(tiles).where(and(eq(tiles.levelId, levelId), eq(tiles.key, key)));
    else {
      const data = packRaster(tile);
      await tx.insert(tiles).values({ levelId, key, data }).onConflictDoUpdate({ target: [tiles.levelId, tiles.key], set: { data } });
    }
  }
}

/** Takes or renews the lease to write. `take` takes it from a live holder. */
export async function takeLease(db: Database, levelId: string, client: string, take: boolean): Promise<{ held: boolean; version: number } | undefined> {
  return db.transaction(async (tx) => {
    const [row] = await tx.select().from(levels).where(eq(levels.id, levelId)).for('update');
    if (!row) return undefined;
    const now = new Date();
    const other = row.writer && row.writer !== client && row.writerUntil && row.writerUntil > now;
    if (other && !take) return { held: false, version: row.version };
    await tx.update(levels).set({ writer: client, writerUntil: new Date(now.getTime() + LEASE_MS) }).where(eq(levels.id, levelId));
    return { held: true, version: row.version };
  });
}

export async function dropLease(db: Database, levelId: string, client: string): Promise<void> {
  await db.update(levels).set({ writer: null, writerUntil: null }).where(and(eq(levels.id, levelId), eq(levels.writer, client)));
}

export async function storeCheck(db: Database, levelId: string, version: number, check: Omit<NonNullable<LevelSummary['check']>, 'stale'>): Promise<void> {
  await db.update(levels).set({ check, checkVersion: version }).where(eq(levels.id, levelId));
}
