import { and, asc, eq, gt, inArray, lte, ne, sql } from 'drizzle-orm';
import type { Edit } from '@rammer/core/level/edits/index';
import type { Database, Transaction } from './open';
import { edits, folded, levels } from './schema';

/**
 * The log of a level's edits. The newest are kept whole; older ones are folded: their bodies are in the state
 * they made, and what remains is which they were (an answer that was lost is still found), whose, and what they
 * touched all together (an edit made on an old version is still held against them).
 */
export const LOG_KEPT = { rows: 1000, bytes: 16 << 20, foldAtRows: 1500, foldAtBytes: 32 << 20 };
/** Bodies of one page of the log, bytes. */
const PAGE_BYTES = 4 << 20;
const PAGE_ROWS = 2000;

/** What an edit touches, for `disjoint`. */
export interface LogKeys {
  id: string;
  label: string;
  reads: string[];
  writes: string[];
}

/** A page of the log after a version. `next` is where the following page begins; versions up to `folded` have no bodies any more. */
export interface LogPage {
  edits: { version: number; edit: Edit }[];
  next?: number;
  folded: number;
}

/** @returns `undefined` where there is no such level */
export async function readLog(db: Database, levelId: string, after: number): Promise<LogPage | undefined> {
  return db.transaction(
    async (tx) => {
      const [level] = await tx.select({ version: levels.version }).from(levels).where(eq(levels.id, levelId));
      if (!level) return undefined;
      const [fold] = await tx
        .select({ last: sql<number>`coalesce(max(${folded.last}), 0)::int` })
        .from(folded)
        .where(eq(folded.levelId, levelId));
      const sizes = await tx
        .select({ version: edits.version, bytes: edits.bytes })
        .from(edits)
        .where(and(eq(edits.levelId, levelId), gt(edits.version, after)))
        .orderBy(asc(edits.version))
        .limit(PAGE_ROWS);
      let total = 0;
      let taken = 0;
      for (const { bytes } of sizes) {
        total += bytes;
        if (taken > 0 && total > PAGE_BYTES) break;
        taken++;
      }
      if (taken === 0) return { edits: [], folded: fold.last };
      const upTo = sizes[taken - 1].version;
      const rows = await tx
        .select({ version: edits.version, body: edits.body })
        .from(edits)
        .where(and(eq(edits.levelId, levelId), gt(edits.version, after), lte(edits.version, upTo)))
        .orderBy(asc(edits.version));
      return { edits: rows.map((r) => ({ version: r.version, edit: r.body as Edit })), ...(upTo < level.version ? { next: upTo } : {}), folded: fold.last };
    },
    { isolationLevel: 'repeatable read', accessMode: 'read only' },
  );
}

/** Of some edits, those that are in the log, and the version each made. */
export async function knownEdits(db: Database | Transaction, levelId: string, ids: readonly string[]): Promise<Map<string, number>> {
  if (ids.length === 0) return new Map();
  const rows = await db
    .select({ id: edits.id, version: edits.version })
    .from(edits)
    .where(and(eq(edits.levelId, levelId), inArray(edits.id, [...ids])));
  const found = new Map(rows.map((r) => [r.id, r.version]));
  const left = ids.filter((id) => !found.has(id));
  if (left.length > 0) {
    const old = await db.execute<{ id: string; version: number }>(sql`select e.id, e.version from ${folded} f, unnest(f.ids, f.versions) as e(id, version)
      where f.level_id = ${levelId} and f.ids && ${sql.param(left)}::uuid[] and e.id = any(${sql.param(left)}::uuid[])`);
    for (const { id, version } of old.rows) found.set(id, version);
  }
  return found;
}

/** Of some edits, those that another level's log has. */
export async function elsewhere(tx: Transaction, levelId: string, ids: readonly string[]): Promise<Set<string>> {
  const rows = await tx
    .select({ id: edits.id })
    .from(edits)
    .where(and(inArray(edits.id, [...ids]), ne(edits.levelId, levelId)));
  return new Set(rows.map((r) => r.id));
}

/** Keys of what others than `client` did after a version. Folded edits come as one, by what they touched all together. */
export async function othersSince(tx: Transaction, levelId: string, base: number, client: string): Promise<LogKeys[]> {
  const recent = await tx
    .select({ id: edits.id, label: edits.label, reads: edits.reads, writes: edits.writes })
    .from(edits)
    .where(and(eq(edits.levelId, levelId), gt(edits.version, base), ne(edits.client, client)));
  const old = await tx
    .select({ ids: folded.ids, reads: folded.reads, writes: folded.writes })
    .from(folded)
    .where(and(eq(folded.levelId, levelId), gt(folded.last, base), ne(folded.client, client)));
  return [...old.map((f) => ({ id: f.ids[0], label: `${f.ids.length} earlier edits`, reads: f.reads, writes: f.writes })), ...recent];
}

export async function appendToLog(tx: Transaction, levelId: string, client: string, list: readonly { version: number; edit: Edit }[]): Promise<void> {
  // A body of many megabytes has a statement of its own.
  for (let i = 0; i < list.length;) {
    let bytes = 0;
    const part: (typeof edits.$inferInsert)[] = [];
    for (; i < list.length && part.length < 500 && (part.length === 0 || bytes < PAGE_BYTES); i++) {
      const { version, edit } = list[i];
      const size = JSON.stringify(edit).length;
      bytes += size;
      part.push({ id: edit.id, levelId, version, client, body: edit, label: edit.label, reads: edit.reads, writes: edit.writes, bytes: size });
    }
    await tx.insert(edits).values(part);
  }
}

/** Folds the oldest edits of a log that has grown too long. */
export async function foldLog(tx: Transaction, levelId: string): Promise<void> {
  const [{ rows, bytes }] = await tx
    .select({ rows: sql<number>`count(*)::int`, bytes: sql<number>`coalesce(sum(${edits.bytes}), 0)::float8` })
    .from(edits)
    .where(eq(edits.levelId, levelId));
  if (rows <= LOG_KEPT.foldAtRows && bytes <= LOG_KEPT.foldAtBytes) return;
  const all = await tx
    .select({ id: edits.id, version: edits.version, client: edits.client, bytes: edits.bytes })
    .from(edits)
    .where(eq(edits.levelId, levelId))
    .orderBy(asc(edits.version));
  let from = Math.max(0, all.length - LOG_KEPT.rows);
  let kept = all.slice(from).reduce((s, e) => s + e.bytes, 0);
  while (from < all.length - 1 && kept > LOG_KEPT.bytes) kept -= all[from++].bytes;
  if (from === 0) return;
  const last = all[from - 1].version;
  await tx.execute(sql`insert into ${folded} (level_id, first, last, client, ids, versions, reads, writes)
    select e.level_id, min(e.version), max(e.version), e.client, array_agg(e.id order by e.version), array_agg(e.version order by e.version),
      array(select distinct k from ${edits} r, unnest(r.reads) k where r.level_id = e.level_id and r.version <= ${last} and r.client = e.client),
      array(select distinct k from ${edits} w, unnest(w.writes) k where w.level_id = e.level_id and w.version <= ${last} and w.client = e.client)
    from ${edits} e where e.level_id = ${levelId} and e.version <= ${last} group by e.level_id, e.client`);
  await tx.delete(edits).where(and(eq(edits.levelId, levelId), lte(edits.version, last)));
}
