import type { AnyEditBody } from '@rammer/core/level/edits/index';
import { sizeOfEdit, type Step, type UndoEntry } from './disk';

/** The undo list keeps at most this many edits and bytes; the oldest go first. At least 200 stay. */
export const UNDO_LIMIT = { entries: 1000, bytes: 64 << 20, keep: 200 };

/**
 * A level's undo list: entries in order, the first `done` of them done. Each change returns the step
 * that makes it last.
 */
export class UndoList {
  constructor(
    readonly level: string,
    private entries: UndoEntry[] = [],
    private doneN = 0,
  ) {}

  /** entries up to this one are done */
  get doneCount(): number {
    return this.doneN;
  }
  get undoCount(): number {
    return this.entries.filter((e) => e.n <= this.doneN).length;
  }
  get redoCount(): number {
    return this.entries.filter((e) => e.n > this.doneN).length;
  }
  get nextUndo(): UndoEntry | undefined {
    return this.entries.findLast((e) => e.n <= this.doneN);
  }
  get nextRedo(): UndoEntry | undefined {
    return this.entries.find((e) => e.n > this.doneN);
  }

  /** A new edit: what was undone before it is forgotten. @param root its uuid */
  record(label: string, redo: AnyEditBody, undo: AnyEditBody, root?: string): Omit<Step, 'entry'> {
    const n = this.doneN + 1;
    this.entries = this.entries.filter((e) => e.n <= this.doneN);
    const entry: UndoEntry = { level: this.level, n, label, undo, redo, bytes: sizeOfEdit(undo) + sizeOfEdit(redo), ...(root ? { root } : {}) };
    this.entries.push(entry);
    this.doneN = n;
    let total = this.entries.reduce((sum, e) => sum + e.bytes, 0);
    let forgetBelow: number | undefined;
    while (this.entries.length > UNDO_LIMIT.keep && (this.entries.length > UNDO_LIMIT.entries || total > UNDO_LIMIT.bytes)) {
      const gone = this.entries.shift()!;
      total -= gone.bytes;
      forgetBelow = gone.n;
    }
    return { put: [entry], done: n, forgetFrom: n, forgetBelow };
  }

  /** The newest done entry is undone; `redo` is the inverse of what undid it. */
  undone(redo: AnyEditBody): Omit<Step, 'entry'> {
    const entry = this.nextUndo!;
    entry.redo = redo;
    this.doneN = entry.n - 1;
    return { put: [entry], done: this.doneN };
  }

  redone(undo: AnyEditBody): Omit<Step, 'entry'> {
    const entry = this.nextRedo!;
    entry.undo = undo;
    this.doneN = entry.n;
    return { put: [entry], done: this.doneN };
  }

  /** Discards the newest done (or oldest undone) entry that can no longer be applied. */
  discard(entry: UndoEntry): Omit<Step, 'entry'> {
    if (entry.n <= this.doneN) this.doneN = entry.n - 1;
    this.entries = this.entries.filter((e) => e.n < entry.n);
    return { put: [], done: this.doneN, forgetFrom: entry.n };
  }

  /** Takes out the acts that are no part of the level any more, wherever they stand in the list. */
  forgetActs(roots: ReadonlySet<string>): Omit<Step, 'entry'> {
    const gone = this.entries.filter((e) => e.root !== undefined && roots.has(e.root)).map((e) => e.n);
    this.entries = this.entries.filter((e) => !gone.includes(e.n));
    return { put: [], done: this.doneN, forget: gone };
  }
}
