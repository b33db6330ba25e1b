import { randomUUID } from 'node:crypto';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { SHIPPED_BODIES } from '@rammer/core/body/bodies';
import { makeEdit } from '@rammer/core/level/edits/index';
import { newLevel } from '@rammer/core/level/level';
import { openCluster } from '../../server/src/db/cluster';
import { applyEdits } from '../../server/src/db/applyEdits';
import { createLevel } from '../../server/src/db/levelStore';
import { connect, migrateDatabase } from '../../server/src/db/open';
import type { Pair } from './measure';

const EDITS = 10;

/** One edit on a level of many objects against one of few, on a real PostgreSQL with fsync on. */
export async function savePairs(): Promise<{ pairs: (() => Promise<Pair>)[]; close(): Promise<void> }> {
  const data = mkdtempSync(join(tmpdir(), 'rammer-bench-'));
  const cluster = await openCluster(data);
  await migrateDatabase(cluster.url);
  const { db, pool } = connect(cluster.url);
  const withObjects = async (count: number): Promise<string> => {
    const level = newLevel({ name: 'bench', tilesX: 2, tilesZ: 2, spacing: 0.5, body: { name: 'adult', figures: SHIPPED_BODIES.adult }, seed: 1 });
    for (let i = 0; i < count; i++)
      level.objects.set(`b${i}`, {
        id: `b${i}`,
        version: 1,
        kind: 'block',
        name: `box ${i}`,
        shape: 'box',
        size: [1, 1, 1],
        at: [i % 60, 0, 1],
        turn: 0,
        hidden: false,
        out: false,
      });
    return createLevel(db, level);
  };
  let turn = 0;
  const edit = async (id: string) => {
    for (let i = 0; i < EDITS; i++) {
      const outcome = await applyEdits(db, id, {
        client: 'bench-client',
        base: 0,
        list: [makeEdit({ kind: 'set', patches: [{ id: `b${i}`, set: { turn: (turn += 1) % 360 } }] }, randomUUID(), 'turn')],
        force: false,
      });
      if (outcome.kind !== 'done') throw new Error(outcome.kind);
    }
  };
  return {
    pairs: [
      async () => {
        const large = await withObjects(20_000);
        const small = await withObjects(20);
        await pool.query('vacuum analyze');
        return {
          name: 'save/edit',
          target: 0.5,
          pairs: 15,
          note: `${EDITS} edits one by one, each in its own transaction with fsync, on a level of 20,000 objects against one of 20: the time ratio 20 / 20,000`,
          ours: () => edit(large),
          baseline: () => edit(small),
        };
      },
    ],
    async close() {
      await pool.end();
      await cluster.stop();
      rmSync(cluster.home, { recursive: true, force: true });
      rmSync(data, { recursive: true, force: true });
    },
  };
}
