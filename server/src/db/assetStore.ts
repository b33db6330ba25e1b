import { asc, eq, inArray, sql } from 'drizzle-orm';
import { readAsset } from '@rammer/core/io/assetGlb';
import type { Outcome } from '@rammer/core/io/fault';
import { summaryOf, type AssetSummary } from '@rammer/core/kit/summary';
import { sha256 } from '@rammer/core/num/sha256';
import type { Database, Transaction } from './open';
import { assets, objects } from './schema';

export async function listAssets(db: Database): Promise<AssetSummary[]> {
  const rows = await db.select({ summary: assets.summary }).from(assets).orderBy(asc(assets.addedAt), asc(assets.hash));
  // Those kept before these were asked say nothing of them.
  const plain = { closed: true, hollow: [], textureBytes: 0, authored: false };
  return rows.map((r) => ({ ...plain, ...(r.summary as AssetSummary) })).filter((s) => !s.source);
}

export async function readAssetFile(db: Database, hash: string): Promise<Uint8Array | undefined> {
  const [row] = await db.select({ data: assets.data }).from(assets).where(eq(assets.hash, hash));
  return row?.data;
}

/** Checks a GLB and keeps it under its hash. The same file twice is one asset. @param source it is what another came from, and in no library */
export async function addAsset(
  db: Database | Transaction,
  bytes: Uint8Array,
  name: string,
  { source = false }: { source?: boolean } = {},
): Promise<Outcome<AssetSummary>> {
  const read = await readAsset(bytes, name);
  if (!read.ok) return read;
  const summary = { ...summaryOf(sha256(bytes), read.value), ...(source ? { source } : {}) };
  await keepAsset(db, bytes, summary);
  return { ok: true, value: summary };
}

/** Keeps a file that has been checked. */
export async function keepAsset(db: Database | Transaction, bytes: Uint8Array, summary: AssetSummary): Promise<void> {
  // What was only a source may be kept as an asset later: then it is in the library.
  const insert = db.insert(assets).values({ hash: summary.hash, data: bytes, summary });
  if (summary.source) await insert.onConflictDoNothing();
  else await insert.onConflictDoUpdate({ target: assets.hash, set: { summary }, setWhere: sql`${assets.summary} ->> 'source' = 'true'` });
}

/** The files of some hashes; those that are not there are left out. */
export async function assetFiles(db: Database | Transaction, hashes: string[]): Promise<Map<string, Uint8Array>> {
  if (hashes.length === 0) return new Map();
  const rows = await db.select({ hash: assets.hash, data: assets.data }).from(assets).where(inArray(assets.hash, hashes));
  return new Map(rows.map((r) => [r.hash, r.data]));
}

/** Of the hashes given, those nobody has sent yet. */
export async function missingAssets(tx: Database | Transaction, hashes: string[]): Promise<string[]> {
  if (hashes.length === 0) return [];
  // Held until the edit that names them is in: meanwhile nobody deletes them.
  const rows = await tx.select({ hash: assets.hash }).from(assets).where(inArray(assets.hash, hashes)).for('key share');
  const there = new Set(rows.map((r) => r.hash));
  return hashes.filter((h) => !there.has(h));
}

/**
 * Deletes an asset that no level uses.
 *
 * @returns what became of it, and the ids of the levels that use it
 */
export async function deleteAsset(db: Database, hash: string): Promise<{ done: 'deleted' | 'missing' } | { done: 'used'; by: string[] }> {
  return db.transaction(async (tx) => {
    // Waits for edits that are about to name it; what they did is seen by the look that follows.
    const [row] = await tx.select({ hash: assets.hash }).from(assets).where(eq(assets.hash, hash)).for('update');
    if (!row) return { done: 'missing' };
    const users = await tx
      .selectDistinct({ id: objects.levelId })
      .from(objects)
      .where(sql`${objects.body} ->> 'hash' = ${hash} or ${objects.body} #>> '{source,hash}' = ${hash}`);
    if (users.length > 0) return { done: 'used', by: users.map((u) => u.id) };
    await tx.delete(assets).where(eq(assets.hash, hash));
    return { done: 'deleted' };
  });
}
