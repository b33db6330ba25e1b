import { and, eq } from 'drizzle-orm';
import { LEASE_MS } from '@rammer/core/level/lease';
import type { Database } from './open';
import { levels } from './schema';

/** Takes or renews the lease to write. `take` takes it from a live holder. */
export async function takeLease(db: Database, levelId: string, client: string, take: boolean): Promise<{ held: boolean; version: number } | undefined> {
  return db.transaction(async (tx) => {
    const [row] = await tx
      .select({ version: levels.version, writer: levels.writer, writerUntil: levels.writerUntil })
      .from(levels)
      .where(eq(levels.id, levelId))
      .for('update');
    if (!row) return undefined;
    const now = new Date();
    const other = row.writer && row.writer !== client && row.writerUntil && row.writerUntil > now;
    if (other && !take) return { held: false, version: row.version };
    await tx
      .update(levels)
      .set({ writer: client, writerUntil: new Date(now.getTime() + LEASE_MS) })
      .where(eq(levels.id, levelId));
    return { held: true, version: row.version };
  });
}

export async function dropLease(db: Database, levelId: string, client: string): Promise<void> {
  await db
    .update(levels)
    .set({ writer: null, writerUntil: null })
    .where(and(eq(levels.id, levelId), eq(levels.writer, client)));
}
