import 'fake-indexeddb/auto';
import { expect, it, vi } from 'vitest';
import { SHIPPED_BODIES } from '@rammer/core/body/bodies';
import { gridOf } from '@rammer/core/level/tiles';
import { makeWalkArea } from '@rammer/core/play/walkArea';
import { keepArea, keptArea } from './keptAreas';

const grid = gridOf({ tilesX: 2, tilesZ: 2, spacing: 1 });
const standing = { terrain: { grid, heights: new Float32Array(grid.nx * grid.nz), noise: new Map() }, blocks: [], meshes: [] };
function baked() {
  const area = makeWalkArea(SHIPPED_BODIES.adult, grid);
  area.update(standing);
  return area;
}

it('a walk area comes back as it was to the build that found it, and to no other', async () => {
  const area = baked();
  await keepArea('yard', 'build 1', area.keep()!);
  const kept = (await keptArea('yard', 'build 1'))!;
  expect(kept).toEqual(area.keep());
  expect(makeWalkArea(SHIPPED_BODIES.adult, grid, { kept }).update(standing)).toBe(0);
  expect([await keptArea('yard', 'build 2'), await keptArea('garden', 'build 1')]).toEqual([undefined, undefined]);
});

it('the oldest go, one that is too large is not kept, and a browser that keeps nothing has none', async () => {
  const found = baked().keep()!;
  vi.useFakeTimers({ toFake: ['Date'] });
  for (let i = 0; i < 8; i++) {
    vi.setSystemTime(9e12 + 1000 * i);
    await keepArea(`level ${i}`, 'b', found);
  }
  vi.useRealTimers();
  const there = await Promise.all(Array.from({ length: 8 }, async (_, i) => (await keptArea(`level ${i}`, 'b')) !== undefined));
  expect(there.filter(Boolean)).toHaveLength(4);
  expect(there.slice(4)).toEqual([true, true, true, true]);
  await keepArea('huge', 'b', { ...found, links: new Uint8Array((80 << 20) + 1) });
  expect(await keptArea('huge', 'b')).toBeUndefined();
});

it('a browser without a database bakes as ever', async () => {
  vi.resetModules();
  vi.stubGlobal('indexedDB', {
    open() {
      throw new Error('no room');
    },
  });
  const fresh = await import('./keptAreas');
  await fresh.keepArea('yard', 'b', baked().keep()!);
  expect(await fresh.keptArea('yard', 'b')).toBeUndefined();
  vi.unstubAllGlobals();
});
