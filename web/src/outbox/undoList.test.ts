import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { AnyEditBody } from '@rammer/core/level/edits/index';
import type { Step, UndoEntry } from './disk';
import { UNDO_LIMIT, UndoList } from './undoList';

const body = (n: number): AnyEditBody => ({ kind: 'remove', ids: [`o${n}`] });

/** The disk as `writeStep` would have it. */
class Disk {
  rows = new Map<number, UndoEntry>();
  done = 0;
  write(step: Omit<Step, 'entry'>): void {
    for (const n of this.rows.keys())
      if ((step.forgetFrom !== undefined && n >= step.forgetFrom) || (step.forgetBelow !== undefined && n <= step.forgetBelow)) this.rows.delete(n);
    for (const u of step.put) this.rows.set(u.n, structuredClone(u));
    this.done = step.done;
  }
  reload = (): UndoList =>
    new UndoList(
      'l',
      [...this.rows.values()].sort((a, b) => a.n - b.n),
      this.done,
    );
}

describe('the undo list', () => {
  it('read back from the disk at any moment is the list in memory', () => {
    fc.assert(
      fc.property(fc.array(fc.constantFrom('record', 'undo', 'redo', 'discard'), { maxLength: 80 }), (ops) => {
        const list = new UndoList('l');
        const disk = new Disk();
        let n = 0;
        for (const op of ops) {
          if (op === 'record') {
            disk.write(list.record(`edit ${n}`, body(n), body(n + 1000)));
            n++;
          } else if (op === 'undo' && list.nextUndo) disk.write(list.undone(list.nextUndo.redo));
          else if (op === 'redo' && list.nextRedo) disk.write(list.redone(list.nextRedo.undo));
          else if (op === 'discard' && list.nextUndo) disk.write(list.discard(list.nextUndo));
          const read = disk.reload();
          expect([read.undoCount, read.redoCount, read.nextUndo?.label, read.nextRedo?.label]).toEqual([
            list.undoCount,
            list.redoCount,
            list.nextUndo?.label,
            list.nextRedo?.label,
          ]);
        }
      }),
    );
  });

  it('forgets what was undone when something new is done', () => {
    const list = new UndoList('l');
    list.record('a', body(1), body(2));
    list.record('b', body(3), body(4));
    list.undone(body(3));
    expect([list.undoCount, list.redoCount, list.nextRedo!.label]).toEqual([1, 1, 'b']);
    expect(list.record('c', body(5), body(6)).forgetFrom).toBe(2);
    expect([list.undoCount, list.redoCount, list.nextUndo!.label]).toEqual([2, 0, 'c']);
  });

  it('is bounded by bytes but keeps at least 200 edits', () => {
    const list = new UndoList('l');
    const disk = new Disk();
    const big: AnyEditBody = { kind: 'stroke', tiles: [{ key: 'hand/delta/0,0', delta: 'x'.repeat(400_000) }] };
    for (let i = 0; i < 230; i++) disk.write(list.record(`s${i}`, big, big));
    expect(list.undoCount).toBe(UNDO_LIMIT.keep);
    expect(disk.rows.size).toBe(UNDO_LIMIT.keep);
    for (let i = 0; i < 1200; i++) disk.write(list.record(`e${i}`, body(i), body(i)));
    expect(list.undoCount).toBeLessThanOrEqual(UNDO_LIMIT.entries);
    expect(disk.rows.size).toBe(list.undoCount);
  });
});
