import { beforeEach, describe, expect, it, vi } from 'vitest';
import { composeTerrain, wholeRect } from '@rammer/core/earth/compose';
import { applyEdit, commitChanges, type AnyEditBody } from '@rammer/core/level/edits/index';
import { liftStack } from '@rammer/core/level/level';
import type { GroundRule, LevelObject, Surface } from '@rammer/core/level/objects';
import { groundNameAt, makeGround } from '@rammer/core/surface/ground';
import { groundDefaults, surfacesOf } from '@rammer/core/surface/surfaces';
import { testBlock, testLevel } from '../../../core/src/testing/levels';
import { Derived } from './derived';

vi.mock('../workers/pool', () => ({
  blockWorker: () => ({ build: () => Promise.resolve({ made: [], keys: [] }) }),
  growthWorker: () => ({ grow: () => Promise.resolve([]) }),
  replaceBlockWorker: () => {},
  earthWorker: () => {
    throw new Error('a level this small has its waters filled at once');
  },
}));

/** A level of bare ground with a rule that lays moss on tops, and what is derived from it. */
function open(rule: Partial<GroundRule> = {}) {
  const level = testLevel(2);
  const terrain = composeTerrain(level);
  const tell = vi.fn();
  const derived = new Derived(
    { level, terrain, stack: liftStack(level) },
    tell,
    () => {},
    (text) => {
      throw new Error(text);
    },
  );
  const edit = (body: AnyEditBody) => {
    const applied = applyEdit(level, body);
    if (!applied.ok) throw new Error(applied.message);
    commitChanges(level, applied.changes);
    derived.refreshBlocks();
  };
  const moss: GroundRule = {
    id: 'moss-rule',
    version: 1,
    kind: 'groundRule',
    name: 'moss on tops',
    order: 90,
    surface: 'moss',
    share: 1,
    where: [],
    wins: false,
    on: true,
    lies: 'tops',
    ...rule,
  };
  edit({ kind: 'add', objects: [...(groundDefaults() as LevelObject[]).filter((o): o is Surface | GroundRule => !level.objects.has(o.id)), moss] });
  const { surfaces } = surfacesOf(level);
  derived.rebuild(makeGround(terrain.grid, surfaces), []);
  derived.updateGround(wholeRect(terrain.grid));
  return { level, derived, edit, top: (x: number, z: number) => groundNameAt(derived.ground, x, z, true) };
}
const shed = testBlock('box', [6, 3, 6], [20, 0, 20], 0, { id: 'shed' });

beforeEach(() => {
  vi.useFakeTimers();
});

describe('rules on tops of an open level', () => {
  it('follow a block that is set, moved and taken away', () => {
    const { derived, edit, top } = open();
    expect([derived.followTops(), top(20, 20)]).toEqual([undefined, 'blockout']);
    edit({ kind: 'add', objects: [shed] });
    expect(derived.followTops()).toBeDefined();
    expect([top(20, 20), top(27, 20)]).toEqual(['moss', 'blockout']);
    // Once followed there is nothing left to lay.
    expect(derived.followTops()).toBeUndefined();
    edit({ kind: 'set', patches: [{ id: 'shed', set: { at: [40, 0, 20] } }] });
    derived.followTops();
    expect([top(20, 20), top(40, 20)]).toEqual(['blockout', 'moss']);
    edit({ kind: 'remove', ids: ['shed'] });
    derived.followTops();
    expect(top(40, 20)).toBe('blockout');
  });

  it('are laid as a whole where the ground is made anew, and by what stands then', () => {
    const { level, derived, edit, top } = open();
    edit({ kind: 'add', objects: [shed] });
    derived.rebuild(makeGround(derived.ground.grid, surfacesOf(level).surfaces), []);
    expect([top(20, 20), derived.followTops()]).toEqual(['moss', undefined]);
    derived.refreshGround();
    expect(top(20, 20)).toBe('moss');
  });

  it('cost a level without such rules nothing', () => {
    const { derived, edit, top } = open({ lies: undefined });
    edit({ kind: 'add', objects: [shed] });
    expect([derived.followTops(), top(20, 20)]).toEqual([undefined, 'blockout']);
  });
});
