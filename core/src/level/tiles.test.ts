import { describe, expect, it } from 'vitest';
import { gridOf, ownedRange, ownerTile, parseTileKey, tileKey } from './tiles';
import { liftStack, newLevel, playerBody, presentBlocks } from './level';
import { SHIPPED_BODIES } from '../body/bodies';
import { testBlock } from '../testing/levels';

describe('raster tiles', () => {
  it('own every sample once, shared edges by the lower neighbour', () => {
    const grid = gridOf({ tilesX: 3, tilesZ: 2, spacing: 0.5 });
    expect([grid.nx, grid.nz, grid.width, grid.depth]).toEqual([193, 129, 96, 64]);
    for (let s = 0; s < grid.nx; s++) {
      const owners = [0, 1, 2].filter((t) => s >= ownedRange(t).first && s <= ownedRange(t).last);
      expect(owners).toEqual([ownerTile(s)]);
    }
    expect([ownerTile(0), ownerTile(64), ownerTile(65), ownerTile(128)]).toEqual([0, 0, 1, 1]);
  });

  it('have keys that are read back, and nothing else is', () => {
    expect(parseTileKey(tileKey('hand-1', 'held', 3, 12))).toEqual({ lift: 'hand-1', channel: 'held', tx: 3, tz: 12 });
    for (const bad of ['hand/delta/1', 'hand/delta/-1,0', '../delta/0,0', 'hand/delta/0,0/x', 'hand/delta/100,0']) expect(parseTileKey(bad)).toBeUndefined();
  });
});

describe('a level', () => {
  it('starts with the player, noise under hand work, and no blocks', () => {
    const level = newLevel({ name: 'yard', tilesX: 5, tilesZ: 4, spacing: 0.5, body: { name: 'adult', figures: SHIPPED_BODIES.adult }, seed: 9 });
    expect(playerBody(level).name).toBe('adult');
    expect(liftStack(level).map((l) => l.lift)).toEqual(['noise', 'hand']);
    expect(presentBlocks(level)).toEqual([]);
  });

  it('gives blocks that are in it sorted by id, hidden ones too', () => {
    const level = newLevel({ name: 'yard', tilesX: 2, tilesZ: 2, spacing: 0.5, body: { name: 'adult', figures: SHIPPED_BODIES.adult }, seed: 9 });
    for (const [id, more] of [
      ['c', {}],
      ['a', { hidden: true }],
      ['b', { out: true }],
    ] as const)
      level.objects.set(id, { ...testBlock('box', [1, 1, 1], [0, 0, 0], 0, more), id });
    expect(presentBlocks(level).map((b) => b.id)).toEqual(['a', 'c']);
  });
});
