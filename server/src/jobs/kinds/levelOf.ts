import { readAssets } from '@rammer/core/io/readAssets';
import type { Assets } from '@rammer/core/kit/placement';
import type { Level } from '@rammer/core/level/level';
import { readLevel } from '../../db/levelStore';
import type { Database } from '../../db/open';
import { JobFault, type JobAsked } from '../kind';

/** The level a job is about. @throws JobFault where it is gone, or its settings cannot be read */
export async function levelOf(asked: JobAsked, db: Database, meshes: boolean | 'whole'): Promise<NonNullable<Awaited<ReturnType<typeof readLevel>>>> {
  const level = asked.levelId === undefined ? undefined : await readLevel(db, asked.levelId, meshes);
  if (!level) throw new JobFault('level-missing', 'there is no such level; it may have been deleted');
  const settings = level.setAside.find((s) => s.id === 'settings');
  if (settings) throw new JobFault('level-unreadable', `the settings of this level cannot be read: ${settings.message}`);
  return level;
}

export async function meshesOf(level: Level): Promise<Assets> {
  const meshes = await readAssets(level);
  if (!meshes.ok) throw new JobFault(meshes.code, meshes.message);
  return meshes.value;
}
