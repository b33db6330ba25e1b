import { beforeEach, describe, expect, it, vi } from 'vitest';
import { CuttingStopped, cutSolids, stopCutting, useCutting } from './cutting';

const worker = vi.hoisted(() => ({ build: vi.fn(), replaced: 0 }));
vi.mock('../workers/pool', () => ({
  blockWorker: () => worker,
  replaceBlockWorker: () => {
    worker.replaced++;
  },
}));
vi.mock('comlink', () => ({ proxy: (f: unknown) => f }));

beforeEach(() => {
  worker.replaced = 0;
  vi.useFakeTimers();
});

describe('cutting solids', () => {
  it('shows how far it is once it takes long, and nothing when it is done', async () => {
    let late: (share: number) => void = () => {};
    worker.build.mockImplementation(async (_blocks, _moving, onBuilt: (share: number) => void) => {
      late = onBuilt;
      onBuilt(0.1);
      expect(useCutting.getState().share).toBeUndefined();
      vi.advanceTimersByTime(2000);
      onBuilt(0.4);
      expect(useCutting.getState().share).toBe(0.4);
      return ['a'];
    });
    await expect(cutSolids([])).resolves.toEqual(['a']);
    expect(useCutting.getState().share).toBeUndefined();
    // What was told before the end and comes in after it shows nothing.
    late(1);
    expect(useCutting.getState().share).toBeUndefined();
    stopCutting();
    expect(worker.replaced).toBe(0);
  });

  it('ends with its worker when it is stopped, and can begin again', async () => {
    worker.build.mockReturnValueOnce(new Promise(() => {}));
    const cut = cutSolids([]);
    stopCutting();
    await expect(cut).rejects.toBeInstanceOf(CuttingStopped);
    expect(worker.replaced).toBe(1);
    worker.build.mockResolvedValueOnce([]);
    await expect(cutSolids([])).resolves.toEqual([]);
  });
});
