import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { testObjects } from '../testing/levels';
import { applyEdit, commitChanges } from './edits/index';
import { liftStack, makeLevel, type Level } from './level';
import type { Lift } from './objects';
import { insertInOrder, moveInOrder } from './ordered';

const lift = (id: string, order = 0): Lift => ({ id, version: 1, kind: 'lift', lift: 'hand', name: id, order, visible: true }) as Lift;
/** A level whose stack is just these, whatever orders they came with. */
function levelOf(orders: readonly number[]): Level {
  const level = makeLevel(testObjects(1, 1).filter((o) => o.kind !== 'lift'));
  orders.forEach((order, i) => level.objects.set(`l${i}`, lift(`l${i}`, order)));
  return level;
}
const names = (level: Level) => liftStack(level).map((l) => l.id);
const apply = (level: Level, body: Parameters<typeof applyEdit>[1]) => {
  const applied = applyEdit(level, body);
  if (!applied.ok) throw new Error(applied.message);
  commitChanges(level, applied.changes);
  return applied.inverse;
};

describe('a list in order', () => {
  it('has an object where it was put in or moved to, the others as they were, and undo takes it back', () => {
    fc.assert(
      fc.property(fc.uniqueArray(fc.nat(200), { minLength: 1, maxLength: 9 }), fc.nat(9), fc.nat(8), fc.nat(9), (orders, put, which, to) => {
        const level = levelOf([...orders].sort((a, b) => a - b));
        const before = names(level);
        const at = Math.min(put, before.length);
        const undo = apply(level, insertInOrder(liftStack(level), lift('new'), at));
        const wanted = [...before.slice(0, at), 'new', ...before.slice(at)];
        expect(names(level)).toEqual(wanted);

        const id = wanted[which % wanted.length];
        const place = Math.min(to, wanted.length - 1);
        const edit = moveInOrder(liftStack(level), id, place);
        const rest = wanted.filter((n) => n !== id);
        const moved = [...rest.slice(0, place), id, ...rest.slice(place)];
        if (!edit) expect(moved).toEqual(wanted);
        else {
          const back = apply(level, edit);
          expect(names(level)).toEqual(moved);
          apply(level, back);
          expect(names(level)).toEqual(wanted);
        }
        apply(level, undo);
        expect(names(level)).toEqual(before);
      }),
      { numRuns: 80 },
    );
  });

  it('changes no more than it must: a list that is evenly apart is left alone at the end', () => {
    const level = levelOf([0, 10, 20]);
    expect(insertInOrder(liftStack(level), lift('new'), 3)).toEqual({ kind: 'add', objects: [{ ...lift('new'), order: 30 }] });
    expect(moveInOrder(liftStack(level), 'l1', 1)).toBeUndefined();
    expect(moveInOrder(liftStack(level), 'nobody', 0)).toBeUndefined();
    expect(moveInOrder(liftStack(level), 'l2', 1)).toEqual({
      kind: 'set',
      patches: [
        { id: 'l2', set: { order: 10 } },
        { id: 'l1', set: { order: 20 } },
      ],
    });
  });
});
