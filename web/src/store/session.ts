import { applyEdit, commitChanges, makeEdit, type AnyEditBody, type Changes } from '@rammer/core/level/edits/index';
import { KINDS } from '@rammer/core/level/kinds/index';
import { HEARTBEAT_MS } from '@rammer/core/level/lease';
import { settingsOf, type Level } from '@rammer/core/level/level';
import type { Block, Lift } from '@rammer/core/level/objects';
import { NODES } from '@rammer/core/scene/node';
import { Scene, type SceneChange } from '@rammer/core/scene/scene';
import type { Terrain } from '@rammer/core/earth/compose';
import type { BlockGrid } from '@rammer/core/block/grid';
import { call, knownEdits, loadLevel } from '../outbox/api';
import { changeOf, type LevelChange } from './change';
import { inWorkers } from './inWorkers';
import { flushOutbox, MOST_EDIT_BYTES, type SaveState } from '../outbox/outbox';
import {
  countOutbox,
  readAside,
  readOutbox,
  readUndo,
  removeAside,
  removeFromOutbox,
  sizeOfEdit,
  writeStep,
  type AsideEntry,
  type Step,
  type UndoEntry,
} from '../outbox/disk';
import { UndoList } from '../outbox/undoList';
import { Writer } from '../outbox/writer';

type Listener = (change: LevelChange) => void;

const RETRY_MS = 1200;

/**
 * An open level: the document, its terrain, and the way of every edit from the hand to the server.
 * No React in here; components listen through `subscribe` and read plain fields.
 */
export class Session {
  level!: Level;
  /** all that is derived from the level */
  readonly scene: Scene;
  /** counts changes; a cheap key for what is derived */
  revision = 0;
  save: SaveState = { kind: 'saved', at: new Date() };
  undo: UndoList;
  message?: { text: string; bad: boolean };
  writable = false;
  /** edits the server would not take, kept for the person to decide about */
  aside: AsideEntry[] = [];

  private readonly writer: Writer;
  private readonly listeners = new Set<Listener>();
  private readonly watchers = new Set<() => void>();
  private serverVersion = 0;
  /** the server has changes that the level here does not show yet */
  private stale = false;
  private pendingWrites: Promise<unknown> = Promise.resolve();
  private unwritten = 0;
  /** edits committed in this tab so far: tells whether one came in during a wait */
  private commits = 0;
  /** sending and reloading take turns here */
  private turn: Promise<unknown> = Promise.resolve();
  private kicked = false;
  private timer?: ReturnType<typeof setTimeout>;
  private heartbeat?: ReturnType<typeof setInterval>;
  closed = false;

  private constructor(readonly id: string) {
    this.undo = new UndoList(id);
    this.writer = new Writer(id, () => this.lose());
    this.scene = new Scene({ runner: inWorkers(id), keepBefore: true, tell: (change) => this.follow(change), fail: (text) => this.say(text, true) });
  }

  static async open(id: string): Promise<Session> {
    const s = new Session(id);
    try {
      s.writable = await s.writer.acquire(false);
      await s.alone(() => s.reload(true));
    } catch (error) {
      // Its lock and lease go with it, or they would keep the next try from writing.
      s.close();
      throw error;
    }
    s.heartbeat = setInterval(() => void s.beat(), HEARTBEAT_MS);
    addEventListener('online', s.kick);
    addEventListener('pagehide', s.leave);
    addEventListener('beforeunload', s.holdBack);
    return s;
  }

  close(): void {
    this.closed = true;
    this.scene.close();
    clearInterval(this.heartbeat);
    clearTimeout(this.timer);
    removeEventListener('online', this.kick);
    removeEventListener('pagehide', this.leave);
    removeEventListener('beforeunload', this.holdBack);
    this.leave();
    this.writer.close();
  }

  subscribe(listener: Listener): () => void {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  }

  /** For useSyncExternalStore: called on every change a component may show. */
  watch = (watcher: () => void): (() => void) => {
    this.watchers.add(watcher);
    return () => this.watchers.delete(watcher);
  };

  private tell(change?: LevelChange): void {
    this.revision++;
    if (change) for (const l of this.listeners) l(change);
    for (const w of this.watchers) w();
  }

  say(text: string, bad = false): void {
    this.message = { text, bad };
    this.tell();
  }

  /** whether every edit is on this browser's disk: from then on no crash can lose it */
  get kept(): boolean {
    return this.unwritten === 0;
  }

  get terrain(): Terrain {
    return this.scene.terrain.value;
  }
  get stack(): readonly Lift[] {
    return this.scene.terrain.stack;
  }
  /** the ground is made as a whole: edits are in the level and not yet in the terrain */
  get composing(): boolean {
    return this.scene.whole.running;
  }
  get before(): Float32Array | undefined {
    return this.scene.terrain.before;
  }

  /** blocks whose solid is plain; those with voids and other shapes are meshes */
  get blocks(): readonly Block[] {
    return this.scene.solids.plain.list;
  }
  get grid(): BlockGrid {
    return this.scene.solids.plain.grid;
  }

  get name(): string {
    return settingsOf(this.level).name;
  }

  // ---- editing -------------------------------------------------------------------------------

  /** Makes an edit, in the level at once and on its way to the server. Says why when refused. */
  commit(body: AnyEditBody, label: string): boolean {
    if (!this.guard()) return false;
    const applied = applyEdit(this.level, body);
    if (!applied.ok) {
      this.say(applied.message, true);
      return false;
    }
    if (sizeOfEdit(body) > MOST_EDIT_BYTES) {
      this.say(`${label} is more than can be saved at once: do it in parts`, true);
      return false;
    }
    const edit = makeEdit(body, crypto.randomUUID(), label);
    const step = this.undo.record(label, body, applied.inverse, edit.id);
    this.put(applied.changes);
    this.store({ ...step, entry: { level: this.id, edit, base: this.serverVersion, root: edit.id } });
    return true;
  }

  undoLast(): void {
    const entry = this.undo.nextUndo;
    if (entry)
      this.replay(
        entry,
        entry.undo,
        `undo ${entry.label}`,
        (inverse) => this.undo.undone(inverse),
        () => this.undo.discard(entry),
      );
  }

  redoNext(): void {
    const entry = this.undo.nextRedo;
    if (entry)
      this.replay(
        entry,
        entry.redo,
        entry.label,
        (inverse) => this.undo.redone(inverse),
        () => this.undo.discard(entry),
      );
  }

  private replay(
    { root }: UndoEntry,
    body: AnyEditBody,
    label: string,
    record: (inverse: AnyEditBody) => Omit<Step, 'entry'>,
    drop: () => Omit<Step, 'entry'>,
  ): void {
    if (!this.guard()) return;
    const applied = applyEdit(this.level, body);
    if (!applied.ok) {
      this.store(drop());
      this.say(`${label} is no longer possible: ${applied.message}`, true);
      return;
    }
    const edit = makeEdit(body, crypto.randomUUID(), label);
    const step = record(applied.inverse);
    this.put(applied.changes);
    this.message = { text: label, bad: false };
    this.store({ ...step, entry: { level: this.id, edit, base: this.serverVersion, ...(root ? { root } : {}) } });
  }

  private guard(): boolean {
    if (this.save.kind === 'storage-full') this.say('the browser has no room left to keep edits: free some space, then reload', true);
    else if (this.save.kind === 'conflict') this.say('settle the conflict first: keep or discard what waits here', true);
    else if (!this.writable) this.say('this level is read only here: take over to edit it', true);
    else return true;
    return false;
  }

  private put(changes: Changes): void {
    const kinds = new Set<string>([...changes.objects].map(([id, o]) => (o ?? this.level.object(id))?.kind ?? ''));
    commitChanges(this.level, changes);
    // What a node has to say about it comes after what was said before.
    this.message = undefined;
    this.follow(this.scene.changed(changes, kinds));
  }

  private follow(change: SceneChange): void {
    this.tell(changeOf(change, this.terrain.grid));
  }

  // ---- saving --------------------------------------------------------------------------------

  private store(step: Step): void {
    this.unwritten++;
    this.commits++;
    if (this.save.kind === 'saved') this.save = { kind: 'saving', waiting: 1 };
    this.pendingWrites = this.pendingWrites
      .then(() => writeStep(this.id, step))
      .then(
        () => {
          this.unwritten--;
          this.kick();
          this.tell();
        },
        (error: unknown) => {
          this.unwritten--;
          this.save = { kind: 'storage-full' };
          this.say(`edits can no longer be kept in this browser (${error instanceof Error ? error.name : 'unknown'}): editing stops here`, true);
        },
      );
    this.tell();
  }

  private alone<T>(work: () => Promise<T>): Promise<T> {
    const next = this.turn.then(work);
    this.turn = next.catch(() => {});
    return next;
  }

  private kick = (): void => {
    clearTimeout(this.timer);
    if (this.kicked) return;
    this.kicked = true;
    this.alone(async () => {
      this.kicked = false;
      if (!this.closed) await this.flush(false);
    }).catch((error: Error) => this.say(`saving stopped: ${error.message}. Reload to go on; nothing that was made is lost.`, true));
  };

  private async flush(force: boolean): Promise<void> {
    if (!this.writable || this.save.kind === 'storage-full' || (this.save.kind === 'conflict' && !force)) return;
    const result = await flushOutbox(this.id, this.writer.client, force);
    if (this.closed) return;
    if (result.version !== undefined) this.serverVersion = result.version;
    if (result.lost.size > 0) {
      await this.forget(result.lost);
      this.aside = await readAside(this.id);
      this.message = { text: `set aside, not saved: ${result.refused}`, bad: true };
    }
    if (result.stopped === 'offline') {
      this.save = { kind: 'offline', waiting: result.waiting, ...(result.why ? { why: result.why } : {}) };
      this.timer = setTimeout(this.kick, RETRY_MS);
    } else if (result.stopped === 'not-writer') {
      this.writable = false;
      this.save = { kind: 'read-only', waiting: result.waiting };
    } else if (result.stopped === 'conflict') {
      this.save = { kind: 'conflict', waiting: result.waiting, conflicts: result.conflicts ?? [] };
    } else if (result.stopped === 'missing') {
      this.writable = false;
      this.save = { kind: 'read-only', waiting: result.waiting };
      this.message = { text: 'this level was deleted elsewhere', bad: true };
    } else {
      this.save = this.unwritten > 0 ? { kind: 'saving', waiting: this.unwritten } : { kind: 'saved', at: new Date() };
    }
    this.stale ||= result.reload;
    if (this.stale && this.unwritten === 0 && (this.save.kind === 'saved' || this.save.kind === 'offline'))
      await this.reload(false).catch((error: unknown) => {
        if (!(error as { away?: boolean }).away) throw error;
      });
    this.tell();
  }

  /** Takes acts that are no part of the level any more out of the undo list, and what undoes or redoes them out of the outbox. */
  private async forget(roots: ReadonlySet<string>): Promise<void> {
    const step = this.undo.forgetActs(roots);
    // An undo that was made while its act was on its way comes in with the writes that are under way.
    await this.pendingWrites;
    const late = (await readOutbox(this.id)).filter((e) => e.root !== undefined && roots.has(e.root));
    if (late.length > 0)
      await removeFromOutbox(
        this.id,
        late.map((e) => e.seq!),
      );
    await writeStep(this.id, { ...step, done: this.undo.doneCount });
  }

  /** What was set aside is sent once more, as new edits over what is there now, or given up. */
  async decide(entries: readonly AsideEntry[], again: boolean): Promise<void> {
    if (again && !this.guard()) return;
    const gone: AsideEntry[] = [];
    for (const entry of entries) {
      const { id: _, version: __, label, reads: ___, writes: ____, ...body } = entry.edit;
      // One that cannot be made any more stays, and the message says why.
      if (again && !this.commit(body as AnyEditBody, label)) break;
      gone.push(entry);
    }
    await removeAside(gone.map((e) => e.seq!));
    this.aside = await readAside(this.id);
    this.tell();
  }

  /** Reads the level from the server and puts what still waits in the outbox on top. */
  private async reload(first: boolean): Promise<void> {
    if (first) {
      if (this.writable) await this.flush(false);
      const { entries, done } = await readUndo(this.id);
      this.undo = new UndoList(this.id, entries, done);
      this.aside = await readAside(this.id);
    }
    const { level, setAside } = await loadLevel(this.id);
    if (first && setAside.length > 0)
      this.message = {
        text: `${setAside.length === 1 ? 'one thing' : `${setAside.length} things`} of this level cannot be read and are left out: ${setAside[0].message}`,
        bad: true,
      };
    this.serverVersion = level.version;
    this.stale = false;
    const waiting = await this.addWaiting(level);
    this.level = level;
    await this.scene.open(level);
    if (!this.writable) this.save = { kind: 'read-only', waiting };
    else if (this.save.kind !== 'conflict') {
      if (waiting === 0 && this.unwritten === 0) this.save = { kind: 'saved', at: new Date() };
      else this.kick();
    }
    this.follow({ kinds: new Set(Object.keys(KINDS)), dirt: new Map(NODES.map((node) => [node, true])) });
  }

  /**
   * Applies to a level just read what waits in the outbox, except edits whose answer was lost: those are
   * in the server's log, and in the level, already.
   */
  private async addWaiting(level: Level): Promise<number> {
    for (;;) {
      const commits = this.commits;
      await this.pendingWrites;
      const waiting = await readOutbox(this.id);
      const known =
        waiting.length === 0
          ? new Map<string, number>()
          : await knownEdits(
              this.id,
              waiting.map((w) => w.edit.id),
            );
      // An edit made meanwhile is not in `waiting`; look again.
      if (commits !== this.commits) continue;
      for (const { edit } of waiting) {
        if ((known.get(edit.id) ?? Infinity) <= level.version) continue;
        const applied = applyEdit(level, edit);
        if (applied.ok) commitChanges(level, applied.changes);
      }
      return waiting.length;
    }
  }

  /** A conflict: keep mine (sent as they are, over the others) or discard mine. */
  async settle(keep: boolean): Promise<void> {
    await this.alone(async () => {
      if (this.save.kind !== 'conflict') return;
      if (!keep) {
        // What is given up is no part of the undo list: an undo of it would take away what is not there.
        const mine = await readOutbox(this.id);
        await removeFromOutbox(
          this.id,
          mine.map((e) => e.seq!),
        );
        await this.forget(new Set(mine.map((e) => e.root ?? e.edit.id)));
      } else await this.flush(true);
      if (this.save.kind === 'conflict') this.save = { kind: 'saving', waiting: 0 };
      await this.reload(false);
    });
  }

  // ---- one writer ----------------------------------------------------------------------------

  private lose(): void {
    this.writable = false;
    void this.pendingWrites.then(async () => {
      this.save = { kind: 'read-only', waiting: await countOutbox(this.id) };
      this.tell();
    });
  }

  async takeOver(): Promise<void> {
    await this.pendingWrites;
    this.writable = await this.writer.acquire(true);
    if (!this.writable) return;
    this.save = { kind: 'saving', waiting: 0 };
    await this.alone(() => this.reload(true));
  }

  /** Renews the lease; a reader looks for news. Edits another tab left in the outbox are sent too. */
  private async beat(): Promise<void> {
    if (this.closed) return;
    try {
      if (this.writable) {
        const version = await this.writer.renew();
        if (version === undefined) this.lose();
        else if ((await countOutbox(this.id)) > 0) this.kick();
        else
          await this.alone(async () => {
            if (!this.closed && version > this.serverVersion && this.save.kind === 'saved') await this.reload(false);
          });
      } else {
        const { version } = await call<{ version: number }>('GET', `/api/levels/${this.id}/version`);
        if (version > this.serverVersion) await this.alone(() => this.reload(true));
      }
    } catch {
      // The server is away; the next beat or the outbox's own retry finds it again.
    }
  }

  /** The few milliseconds until an edit is on the disk: the browser asks before it leaves the page. */
  private holdBack = (e: BeforeUnloadEvent): void => {
    if (!this.kept) e.preventDefault();
  };

  private leave = (): void => {
    if (this.writable) this.writer.leave();
  };
}
