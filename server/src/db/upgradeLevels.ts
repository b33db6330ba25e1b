import { and, asc, eq, inArray, lt } from 'drizzle-orm';
import { DOCUMENT_VERSION } from '@rammer/core/level/level';
import { parseObject, type LevelObject } from '@rammer/core/level/objects';
import { upgradeObject } from '@rammer/core/level/upgrade';
import type { Database } from './open';
import { writeObjects } from './rows';
import { levels, objects } from './schema';

/**
 * Brings levels kept by an older Rammer into today's form, with the code that opens old packages. Each level
 * is one transaction; a second server that starts meanwhile waits for it and finds it done.
 */
export async function upgradeLevels(db: Database): Promise<void> {
  const old = await db.select({ id: levels.id }).from(levels).where(lt(levels.document, DOCUMENT_VERSION));
  for (const { id } of old) {
    await db.transaction(async (tx) => {
      const [row] = await tx.select({ document: levels.document }).from(levels).where(eq(levels.id, id)).for('update');
      if (!row || row.document >= DOCUMENT_VERSION) return;
      const rows = await tx.select({ id: objects.id, body: objects.body }).from(objects).where(eq(objects.levelId, id)).orderBy(asc(objects.seq));
      const known = new Set(rows.map((r) => r.id));
      const changed: LevelObject[] = [];
      for (const { body } of rows) {
        const next = upgradeObject(body);
        if (next.length === 1 && next[0] === body) continue;
        for (const object of next) {
          const parsed = parseObject(object);
          const isNew = parsed.ok && parsed.object.id !== (body as { id?: unknown }).id;
          if (parsed.ok && !(isNew && known.has(parsed.object.id))) changed.push(parsed.object);
        }
      }
      await writeObjects(tx, id, changed);
      await tx
        .update(levels)
        .set({ document: DOCUMENT_VERSION })
        .where(and(eq(levels.id, id), inArray(levels.document, [row.document])));
    });
  }
}
