import { describe, expect, it } from 'vitest';
import { SHIPPED_BODIES } from '../body/bodies';
import { gridOf } from '../level/tiles';
import { loadKernels } from '../testing/kernels';
import { terrainOf, testBlock, testLevel } from '../testing/levels';
import { blockOutside } from './blockOutside';
import { checkLevel } from './checkLevel';
import { floatingBlock } from './floatingBlock';
import { levelTooLarge } from './levelTooLarge';
import { objectiveUnreachable } from './objectiveUnreachable';

const flat = terrainOf(() => 2);

describe('floating blocks', () => {
  it('are those that touch neither the ground nor something that does', () => {
    const post = testBlock('box', [0.5, 3, 0.5], [20, 2, 20]);
    const beam = testBlock('box', [4, 0.4, 0.5], [22, 5, 20]);
    const lamp = testBlock('box', [0.3, 0.3, 0.3], [23.5, 4.7, 20]);
    const hung = testBlock('box', [1, 1, 1], [40, 3.2, 40], 0, { name: 'crate' });
    const sunk = testBlock('box', [1, 1, 1], [50, 1, 50]);
    const found = floatingBlock(flat, [post, beam, lamp, hung, sunk]);
    expect(found.map((s) => s.object)).toEqual([hung.id]);
    expect(found[0].message).toBe('crate floats 1.20 m above the ground');
  });
});

describe('blocks outside', () => {
  it('are those wholly beside the ground', () => {
    const grid = gridOf({ tilesX: 2, tilesZ: 2, spacing: 0.5 });
    const out = testBlock('box', [2, 2, 2], [-1.5, 0, 20]);
    const edge = testBlock('box', [4, 2, 2], [-1.5, 0, 20]);
    expect(blockOutside(grid, [out, edge]).map((s) => s.object)).toEqual([out.id]);
  });
});

describe('the size of a level', () => {
  it('is a snag from ten minutes at a run: 3000 m for the adult', () => {
    expect(levelTooLarge(gridOf({ tilesX: 23, tilesZ: 2, spacing: 2 }), SHIPPED_BODIES.adult)).toEqual([]);
    expect(levelTooLarge(gridOf({ tilesX: 24, tilesZ: 2, spacing: 2 }), SHIPPED_BODIES.adult)).toMatchObject([{ code: 'level-large', severity: 'warning' }]);
  });
});

describe('the objective', () => {
  it('blocks where it cannot be reached, warns where a marker is missing', () => {
    const reach = { reached: false, path: [], length: 0, walkTime: 0, runTime: 0 };
    expect(objectiveUnreachable({ ...reach, reached: true })).toEqual([]);
    expect(objectiveUnreachable({ ...reach, stop: { code: 'slope', message: 'ground too steep', at: [1, 2, 3] } })).toMatchObject([{ code: 'objective-unreachable', severity: 'blocking', at: [1, 2, 3] }]);
    expect(objectiveUnreachable({ ...reach, stop: { code: 'no-entry', message: 'no entry' } })).toMatchObject([{ code: 'marker-missing', severity: 'warning' }]);
  });
});

describe('the whole check', () => {
  it('gives size, bodies, reach, cost and snags of a small level', async () => {
    const { recast } = await loadKernels();
    const level = testLevel();
    level.objects.set('entry', { id: 'entry', version: 1, kind: 'marker', marker: 'entry', name: 'entry', at: [10, 0, 32], turn: 0 });
    level.objects.set('objective', { id: 'objective', version: 1, kind: 'marker', marker: 'objective', name: 'objective', at: [50, 0, 32], turn: 0 });
    const wall = testBlock('box', [0.5, 3, 64], [30, 0, 32]);
    const open = checkLevel(level, recast)!;
    expect(open.size).toMatchObject({ width: 64, depth: 64, lowest: 0, highest: 0, blocks: 0 });
    expect(open.bodies).toMatchObject([{ name: 'adult', player: true }]);
    expect(open.reach).toMatchObject({ reached: true, body: 'adult' });
    expect(open.reach.length).toBeCloseTo(40, 0);
    expect(open.cost).toMatchObject({ device: 'Den 60', over: false, estimate: true });
    expect(open.cost.drawn.draws).toBe(4);
    expect(open.snags).toEqual([]);
    level.objects.set(wall.id, wall);
    expect(checkLevel(level, recast)!.snags).toMatchObject([{ code: 'objective-unreachable', severity: 'blocking', object: wall.id }]);
    expect(checkLevel(level, recast, () => false)).toBeUndefined();
  });
});
