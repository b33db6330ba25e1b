import { describe, expect, it } from 'vitest';
import { SHIPPED_BODIES } from '../body/bodies';
import { gridOf } from '../level/tiles';
import { loadKernels } from '../testing/kernels';
import { terrainOf, testBlock, testLevel } from '../testing/levels';
import { parseObject } from '../level/objects';
import { acceptanceOf, withAcceptance } from './accept';
import { blockOutside } from './blockOutside';
import { buriedBlock } from './buriedBlock';
import { checkLevel } from './checkLevel';
import { findSnags } from './findSnags';
import { floatingBlock } from './floatingBlock';
import { levelTooLarge } from './levelTooLarge';
import { objectiveUnreachable } from './objectiveUnreachable';
import { overBudget } from './overBudget';

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

describe('buried blocks', () => {
  it('are those wholly under the ground', () => {
    const deep = testBlock('box', [1, 1, 1], [20, 0.5, 20], 0, { name: 'plinth' });
    const peeping = testBlock('box', [1, 1.6, 1], [30, 0.5, 20]);
    const ramp = testBlock('ramp', [4, 1, 2], [40, 0.4, 20]);
    expect(buriedBlock(flat, [deep, peeping, ramp]).map((s) => [s.object, s.message])).toEqual([[deep.id, 'plinth lies 0.50 m under the ground'], [ramp.id, `${ramp.name} lies 0.60 m under the ground`]]);
  });
});

describe('the budget', () => {
  it('is a snag where the estimate stands over its line', () => {
    expect(overBudget('Den 60', 13.2, 13.28)).toEqual([]);
    expect(overBudget('Den 60', 14, 13.28)).toMatchObject([{ code: 'over-budget', message: expect.stringContaining('14.0 ms on Den 60, estimate') }]);
  });
});

describe('accepting a snag', () => {
  const level = testLevel();
  const crate = testBlock('box', [1, 1, 1], [20, 5, 20], 0, { name: 'crate' });
  level.objects.set(crate.id, crate);
  const [snag] = floatingBlock(terrainOf(() => 0), [crate]);

  it('keeps the reason, and lapses when the thing changes', () => {
    expect(withAcceptance(level, snag).accepted).toBeUndefined();
    level.objects.set('a1', acceptanceOf(level, snag, 'it hangs on a rope that comes later', 'a1'));
    expect(withAcceptance(level, snag).accepted).toBe('it hangs on a rope that comes later');
    expect(withAcceptance(level, { ...snag, code: 'block-outside' }).accepted).toBeUndefined();
    expect(withAcceptance(level, { ...snag, object: 'another' }).accepted).toBeUndefined();
    level.objects.set(crate.id, { ...crate, version: 2 });
    expect(withAcceptance(level, snag).accepted).toBeUndefined();
  });

  it('is an object that a level may hold', () => {
    expect(parseObject(acceptanceOf(level, snag, 'because', 'a2')).ok).toBe(true);
    expect(parseObject({ ...acceptanceOf(level, snag, 'because', 'a2'), reason: ' ' }).ok).toBe(false);
    expect(parseObject({ id: 'n', version: 1, kind: 'note', name: 'look', text: 'look here', at: [1, 2, 3] }).ok).toBe(true);
  });
});

describe('all checks', () => {
  it('put the blocking ones first', () => {
    const reach = { reached: false, path: [], length: 0, walkTime: 0, runTime: 0, stop: { code: 'slope' as const, message: 'too steep' } };
    const found = findSnags(flat, [testBlock('box', [1, 1, 1], [20, 9, 20]), testBlock('box', [1, 1, 1], [30, 0, 20])], SHIPPED_BODIES.adult, reach);
    expect(found.map((s) => s.code)).toEqual(['objective-unreachable', 'block-floating', 'block-buried']);
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
