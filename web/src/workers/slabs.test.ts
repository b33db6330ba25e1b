import { beforeEach, describe, expect, it, vi } from 'vitest';
import { composeTerrain } from '@rammer/core/earth/compose';
import { composeSlab, type SlabJob } from '@rammer/core/earth/slab';
import { liftStack, settingsOf } from '@rammer/core/level/level';
import { gridOf } from '@rammer/core/level/tiles';
import { expectBits } from '../../../core/src/testing/bits';
import { testLevel } from '../../../core/src/testing/levels';

/** Workers that compose in this thread, a moment later; which one did what, and how many are left. */
const pool = vi.hoisted(() => {
  const state = { started: 0, ended: 0, jobs: [] as { worker: number; z0: number }[], failAt: -1, busy: 0, most: 0 };
  class FakeWorker {
    id = state.started++;
    terminate() {
      state.ended++;
    }
  }
  (globalThis as { Worker?: unknown }).Worker = FakeWorker;
  Object.defineProperty(globalThis, 'navigator', { value: { hardwareConcurrency: 2 }, configurable: true });
  return state;
});
vi.mock('comlink', () => ({
  transfer: <T>(value: T) => value,
  wrap: (worker: { id: number }) => ({
    heights: async (job: SlabJob) => {
      pool.busy++;
      pool.most = Math.max(pool.most, pool.busy);
      pool.jobs.push({ worker: worker.id, z0: job.rect.z0 });
      await new Promise((later) => setTimeout(later, 2));
      pool.busy--;
      if (pool.failAt === pool.jobs.length) throw new Error('out of memory');
      return composeSlab(structuredClone(job));
    },
  }),
}));
const { composeInSlabs } = await import('./slabs');

const level = testLevel(4, 0.5, { seed: 5, height: 3, scale: 30, octaves: 2 });
const source = () => ({ grid: gridOf(settingsOf(level)), noise: new Map<string, Float32Array>(), stack: liftStack(level), tiles: level.tiles });

beforeEach(() => Object.assign(pool, { jobs: [], failAt: -1, busy: 0, most: 0 }));

describe('a pool of workers', () => {
  it('composes a level with as many as there are cores, each slab once, and puts it together', async () => {
    const given = source();
    const terrain = await composeInSlabs(given);
    expectBits(terrain.heights, composeTerrain(level).heights);
    expect(given.noise.size).toBe(1);
    expect([pool.started, pool.ended, pool.most]).toEqual([2, 0, 2]);
    expect(pool.jobs.map((j) => j.z0).sort((a, b) => a - b)).toEqual([0, 129]);
  });

  it('keeps its workers, and several calls at once share them', async () => {
    const all = await Promise.all([composeInSlabs(source()), composeInSlabs(source()), composeInSlabs(source())]);
    for (const terrain of all) expectBits(terrain.heights, composeTerrain(level).heights);
    expect(pool.started).toBe(2);
  });

  it('ends them all where one fails, says why, and starts others the next time', async () => {
    pool.failAt = 2;
    await expect(composeInSlabs(source())).rejects.toThrow('out of memory');
    expect(pool.ended).toBe(2);
    expectBits((await composeInSlabs(source())).heights, composeTerrain(level).heights);
    expect([pool.started, pool.ended]).toEqual([4, 2]);
  });
});
