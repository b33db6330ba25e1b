import { randomUUID } from 'node:crypto';
import { and, asc, desc, eq, sql } from 'drizzle-orm';
import { unpackRaster } from '@rammer/core/num/fixed';
import { assetHashes } from '@rammer/core/level/kinds/asset';
import { DOCUMENT_VERSION, makeLevel, type Level } from '@rammer/core/level/level';
import { parseObject, type Settings } from '@rammer/core/level/objects';
import type { LevelSummary } from '@rammer/core/level/summary';
import { gridOf, TILE_SAMPLES } from '@rammer/core/level/tiles';
import { addAsset, assetFiles } from './assetStore';
import type { Database, Transaction } from './open';
import { objectsOf, writeObjects, writeTiles, type SetAside } from './rows';
import { levels, objects, tiles } from './schema';

const SNAPSHOT = { isolationLevel: 'repeatable read', accessMode: 'read only' } as const;

/** The levels, those whose settings cannot be read left out. */
export async function listLevels(db: Database): Promise<LevelSummary[]> {
  const rows = await db
    .select({
      id: levels.id,
      version: levels.version,
      savedAt: levels.savedAt,
      check: levels.check,
      checkVersion: levels.checkVersion,
      settings: objects.body,
      blocks: sql<number>`(select count(*)::int from objects b where b.level_id = ${levels.id} and b.kind = 'block')`,
    })
    .from(levels)
    .innerJoin(objects, and(eq(objects.levelId, levels.id), eq(objects.id, 'settings')))
    .orderBy(desc(levels.savedAt));
  return rows.flatMap((r) => {
    const parsed = parseObject(r.settings);
    if (!parsed.ok || parsed.object.kind !== 'settings') return [];
    const s: Settings = parsed.object;
    const grid = gridOf(s);
    const check = r.check as LevelSummary['check'];
    return [
      {
        id: r.id,
        name: s.name,
        version: r.version,
        width: grid.width,
        depth: grid.depth,
        tilesX: s.tilesX,
        tilesZ: s.tilesZ,
        spacing: s.spacing,
        blocks: r.blocks,
        savedAt: r.savedAt.toISOString(),
        check: check ? { ...check, stale: r.checkVersion !== r.version } : null,
      },
    ];
  });
}

export async function createLevel(db: Database | Transaction, level: Level): Promise<string> {
  const id = randomUUID();
  await db.transaction(async (tx) => {
    await tx.insert(levels).values({ id, version: 0, document: DOCUMENT_VERSION });
    await writeObjects(tx, id, [...level.objects.values()]);
    const kept = new Set<string>();
    for (const o of level.objects.values()) {
      if (o.kind !== 'asset') continue;
      for (const hash of assetHashes(o)) {
        const bytes = level.assets.get(hash);
        if (!bytes || kept.has(hash)) continue;
        kept.add(hash);
        const added = await addAsset(tx, bytes, o.name, { source: hash !== o.hash });
        if (!added.ok) throw new Error(added.message);
      }
    }
    await writeTiles(tx, id, level.tiles);
  });
  return id;
}

/**
 * Reads a whole level as it stands at one moment. Rows that cannot be read are set aside by name.
 *
 * @param meshes whether the files of its assets are wanted too, and `whole` those they came from
 */
export async function readLevel(db: Database, id: string, meshes: boolean | 'whole' = false): Promise<(Level & { setAside: SetAside[] }) | undefined> {
  return db.transaction(async (tx) => {
    const [row] = await tx.select({ version: levels.version }).from(levels).where(eq(levels.id, id));
    if (!row) return undefined;
    const objectRows = await tx.select({ id: objects.id, body: objects.body }).from(objects).where(eq(objects.levelId, id)).orderBy(asc(objects.seq));
    const tileRows = await tx.select({ key: tiles.key, data: tiles.data }).from(tiles).where(eq(tiles.levelId, id)).orderBy(asc(tiles.key));
    const { list, setAside } = objectsOf(objectRows);
    const rasters: [string, Int32Array][] = [];
    for (const t of tileRows) {
      try {
        rasters.push([t.key, unpackRaster(t.data, TILE_SAMPLES)]);
      } catch (error) {
        setAside.push({ id: t.key, message: (error as Error).message });
      }
    }
    const files = meshes
      ? await assetFiles(
          tx,
          list.flatMap((o) => (o.kind !== 'asset' ? [] : meshes === 'whole' ? assetHashes(o) : [o.hash])),
        )
      : [];
    return Object.assign(makeLevel(list, rasters, row.version, files), { setAside });
  }, SNAPSHOT);
}

/**
 * A level's rows as the JSON text of an answer, all of one version. The database puts the text together: nothing
 * of a large level is parsed here only to be written again, and whoever reads it checks it.
 *
 * @param what objects, tiles (in base64), or both
 */
export async function levelText(db: Database, id: string, what: { objects: boolean; tiles: boolean }): Promise<string[] | undefined> {
  return db.transaction(async (tx) => {
    const [row] = await tx.select({ version: levels.version }).from(levels).where(eq(levels.id, id));
    if (!row) return undefined;
    const out = [`{"id":${JSON.stringify(id)},"version":${row.version}`];
    if (what.objects) {
      const { rows } = await tx.execute<{ t: string | null }>(sql`select string_agg(body::text, ',' order by seq) as t from ${objects} where level_id = ${id}`);
      out.push(',"objects":[', rows[0].t ?? '', ']');
    }
    if (what.tiles) {
      const { rows } = await tx.execute<{ t: string | null }>(
        sql`select string_agg('{"key":' || to_json(key) || ',"data":"' || translate(encode(data, 'base64'), E'\n', '') || '"}', ',' order by key) as t
          from ${tiles} where level_id = ${id}`,
      );
      out.push(',"tiles":[', rows[0].t ?? '', ']');
    }
    out.push('}');
    return out;
  }, SNAPSHOT);
}

export async function levelVersion(db: Database, id: string): Promise<number | undefined> {
  const [row] = await db.select({ version: levels.version }).from(levels).where(eq(levels.id, id));
  return row?.version;
}

export async function deleteLevel(db: Database, id: string): Promise<boolean> {
  return (await db.delete(levels).where(eq(levels.id, id)).returning({ id: levels.id })).length > 0;
}

export async function storeCheck(
  db: Database | Transaction,
  levelId: string,
  version: number,
  check: Omit<NonNullable<LevelSummary['check']>, 'stale'>,
): Promise<void> {
  await db.update(levels).set({ check, checkVersion: version }).where(eq(levels.id, levelId));
}
