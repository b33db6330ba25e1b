import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { applyEdit, commitChanges, type AnyEditBody } from '../level/edits/index';
import { liftStack, type Level } from '../level/level';
import type { Lift } from '../level/objects';
import { TILE_SAMPLES, tileKey } from '../level/tiles';
import { testLevel } from '../testing/levels';
import { composeTerrain } from './compose';
import { duplicateLift, insertLift, mergeDown, moveLift } from './stack';
import { expectBits } from '../testing/bits';

const make = (level: Level, edit: AnyEditBody): AnyEditBody => {
  const applied = applyEdit(level, edit);
  if (!applied.ok) throw new Error(applied.message);
  commitChanges(level, applied.changes);
  return applied.inverse;
};
const names = (level: Level) => liftStack(level).map((l) => l.id);
const hand = (id: string): Lift => ({ id, version: 1, kind: 'lift', lift: 'hand', name: id, order: 0, visible: true });
const heap = (id: string, more: Partial<Lift> = {}): Lift =>
  ({
    id,
    version: 1,
    kind: 'lift',
    lift: 'landform',
    name: id,
    order: 0,
    visible: true,
    line: [[16, 16]],
    radius: 10,
    height: 3,
    foot: 4,
    cut: false,
    crown: 'flat',
    ragged: 0,
    seed: 1,
    ...more,
  }) as Lift;
const scribble = (level: Level, id: string, seed: number) => {
  let s = seed;
  const next = (n: number) => {
    s = (s * 16_807) % 2_147_483_647;
    return s % n;
  };
  level.tiles.set(
    tileKey(id, 'delta', 0, 0),
    Int32Array.from({ length: TILE_SAMPLES }, () => next(4096) - 2048),
  );
  level.tiles.set(
    tileKey(id, 'held', 0, 0),
    Int32Array.from({ length: TILE_SAMPLES }, () => next(9000) - 4500),
  );
  level.tiles.set(
    tileKey(id, 'weight', 0, 0),
    Int32Array.from({ length: TILE_SAMPLES }, (_, i) => (i % 3 === 0 ? 1024 : i % 3 === 1 ? 0 : next(1024))),
  );
};

describe('the stack', () => {
  it('takes a new lift where its kind belongs', () => {
    const level = testLevel();
    make(level, insertLift(liftStack(level), heap('heap')));
    make(level, insertLift(liftStack(level), { ...hand('fine'), id: 'fine' }));
    make(level, insertLift(liftStack(level), { ...heap('heap 2'), id: 'heap2' }));
    expect(names(level)).toEqual(['noise', 'heap', 'heap2', 'hand', 'fine']);
    expect(liftStack(level).map((l) => l.order)).toEqual([0, 10, 20, 30, 40]);
  });

  it('moves a lift to any place, and back by undo', () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 3 }), fc.integer({ min: 0, max: 3 }), (from, to) => {
        const level = testLevel();
        for (const id of ['a', 'b']) make(level, insertLift(liftStack(level), heap(id)));
        const before = names(level);
        const edit = moveLift(liftStack(level), before[from], to);
        expect(edit === undefined).toBe(from === to);
        if (!edit) return;
        const undo = make(level, edit);
        const wanted = before.filter((_, i) => i !== from);
        wanted.splice(to, 0, before[from]);
        expect(names(level)).toEqual(wanted);
        make(level, undo);
        expect(names(level)).toEqual(before);
      }),
    );
  });

  it('a copy of a hand lift has its rasters, and undo takes all of it away', () => {
    const level = testLevel();
    scribble(level, 'hand', 5);
    const before = composeTerrain(level).heights;
    const undo = make(level, duplicateLift(level, 'hand', { id: 'copy', name: 'copy' })!);
    expect(names(level)).toEqual(['noise', 'hand', 'copy']);
    expect(level.tiles.get(tileKey('copy', 'delta', 0, 0))).toEqual(level.tiles.get(tileKey('hand', 'delta', 0, 0)));
    make(level, undo);
    expect([...level.tiles.keys()].some((k) => k.startsWith('copy/'))).toBe(false);
    expectBits(composeTerrain(level).heights, before);
  });
});

describe('merging down', () => {
  it('two hand lifts give the same ground within 8 mm, now and when what lies below them changes', () => {
    const level = testLevel(2, 0.5, { seed: 3, height: 2, scale: 20, octaves: 3 });
    level.objects.set('upper', { ...hand('upper'), order: 200 });
    scribble(level, 'hand', 5);
    scribble(level, 'upper', 11);
    const under = (seed: number) => {
      level.objects.set('noise', { ...(level.object('noise') as Lift & { lift: 'noise' }), seed });
      return composeTerrain(level).heights;
    };
    const before = [99, 3].map(under);
    const made = mergeDown(level, composeTerrain(level), 'upper', { id: 'one', name: 'one' });
    if (!made.ok) throw new Error(made.message);
    make(level, made.edit);
    expect(names(level)).toEqual(['noise', 'one']);
    const apart = (a: Float32Array, b: Float32Array) => a.reduce((most, v, i) => Math.max(most, Math.abs(v - b[i])), 0);
    // A weight is kept to 1/1024, and heights here differ by up to 11 m from what is held.
    [99, 3].forEach((seed, i) => expect(apart(under(seed), before[i])).toBeLessThan(0.008));
  });

  it('a landform and what lies under it become one relative lift, to a 1/1024 m', () => {
    const level = testLevel();
    level.objects.set('low', heap('low', { order: 10 }));
    level.objects.set('high', heap('high', { order: 20, blend: 'max', base: 1 } as Partial<Lift>));
    const before = composeTerrain(level).heights;
    const made = mergeDown(level, composeTerrain(level), 'high', { id: 'one', name: 'one' });
    if (!made.ok) throw new Error(made.message);
    const undo = make(level, made.edit);
    const after = composeTerrain(level).heights;
    expect(after.every((v, i) => Math.abs(v - before[i]) <= 0.5 / 1024 + 1e-6)).toBe(true);
    make(level, undo);
    expectBits(composeTerrain(level).heights, before);
    expect(names(level)).toEqual(['noise', 'low', 'high', 'hand']);
  });

  it('says why it cannot', () => {
    const level = testLevel();
    const why = (id: string) => {
      const m = mergeDown(level, composeTerrain(level), id, { id: 'one', name: 'one' });
      return m.ok ? '' : m.message;
    };
    expect(why('noise')).toBe('there is no lift below it to merge with');
    level.objects.set('noise', { ...(level.object('noise') as Lift), locked: true });
    expect(why('hand')).toBe('noise is locked: unlock it first');
    level.objects.set('noise', { ...(level.object('noise') as Lift), visible: false });
    expect(why('hand')).toBe('noise is hidden: show it first');
  });
});
