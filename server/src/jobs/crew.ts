import { fork, type ChildProcess } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import type { EditsAsked } from './desk';

/** What a child is told to do: a job by its row, or edits that are too many for the server's own loop. */
export type Task = { job: string; attempt: number } | { edits: EditsAsked };

export type ChildMessage = { ready: true } | { progress: number } | { done: unknown } | { failed: string; code?: string; trap?: boolean; away?: boolean };

/** How a piece of work ended. `code` is of a fault of what was given; the others are ours to try again or not. */
export type Ended =
  | { kind: 'done'; value: unknown }
  | { kind: 'fault'; code: string; message: string }
  | { kind: 'failed'; message: string }
  | { kind: 'again'; why: 'trap' | 'away' | 'died' | 'room' }
  | { kind: 'stopped' };

export interface CrewOptions {
  /** the database children connect to */
  url: string;
  /** most children at a time */
  most: number;
  /** memory of one child, and of all together, bytes */
  childBytes?: number;
  allBytes?: number;
  /** how long a child without work is kept, ms */
  idle?: number;
  boot?: string;
  /** a child waits for work before any comes, this long after the start and after the last one went, ms: to begin one takes as long as much of the work does */
  warm?: number;
}

export interface Work {
  ended: Promise<Ended>;
  stop(): void;
}

const LOOK_MS = 100;
const MB = 1 << 20;

interface Hand {
  process: ChildProcess;
  ready: boolean;
  bytes: number;
  idleSince: number;
  task?: { task: Task; started: number; until: number; progress: (share: number) => void; end: (how: Ended) => void };
}

/**
 * Child processes that work, each bounded in memory and time: one that grows too large or takes too long is killed,
 * and its work ends with a message that says so. Where all together grow too large the newest work is given
 * back to be done later, alone.
 */
export class Crew {
  private readonly hands = new Set<Hand>();
  private readonly watch: ReturnType<typeof setInterval>;
  /** while work that needs all the room runs, no other is begun */
  private crowded = false;
  private closed = false;
  private emptySince = Date.now();
  private readonly childBytes: number;
  private readonly allBytes: number;

  constructor(private readonly options: CrewOptions) {
    this.childBytes = options.childBytes ?? Number(process.env.RAMMER_WORKER_MB ?? 900) * MB;
    this.allBytes = options.allBytes ?? this.childBytes * 1.1;
    this.watch = setInterval(() => this.look(), LOOK_MS);
    this.watch.unref();
  }

  get busy(): number {
    return [...this.hands].filter((h) => h.task).length;
  }
  get free(): number {
    return this.closed || (this.crowded && this.busy > 0) ? 0 : this.options.most - this.busy;
  }
  /** process ids of the children, for who measures them */
  get pids(): number[] {
    return [...this.hands].flatMap((h) => h.process.pid ?? []);
  }

  /** Begins a piece of work in a child that is free, or in a new one. Ask `free` first. */
  begin(task: Task, seconds: number, progress: (share: number) => void = () => {}): Work {
    const hand = [...this.hands].find((h) => !h.task && h.process.connected) ?? this.hire();
    let finish!: (how: Ended) => void;
    const ended = new Promise<Ended>((done) => {
      finish = done;
    });
    const now = Date.now();
    hand.task = { task, started: now, until: now + seconds * 1000, progress, end: finish };
    if (hand.ready) hand.process.send(task);
    return {
      ended,
      stop: () => {
        if (hand.task?.task === task) this.dismiss(hand, { kind: 'stopped' });
      },
    };
  }

  close(): void {
    this.closed = true;
    clearInterval(this.watch);
    for (const hand of this.hands) this.dismiss(hand, { kind: 'stopped' });
  }

  private hire(): Hand {
    const child = fork(this.options.boot ?? fileURLToPath(new URL('./child.boot.mjs', import.meta.url)), [], {
      serialization: 'advanced',
      stdio: ['ignore', 'inherit', 'inherit', 'ipc'],
      execArgv: [`--max-old-space-size=${Math.ceil(this.childBytes / MB)}`],
      env: { ...process.env, RAMMER_JOB_DATABASE: this.options.url },
    });
    const hand: Hand = { process: child, ready: false, bytes: 0, idleSince: Date.now() };
    this.hands.add(hand);
    child.on('message', (message: ChildMessage) => {
      if ('ready' in message) {
        hand.ready = true;
        if (hand.task) child.send(hand.task.task);
      } else if ('progress' in message) hand.task?.progress(message.progress);
      else if ('done' in message) this.end(hand, { kind: 'done', value: message.done });
      else if (message.code) this.end(hand, { kind: 'fault', code: message.code, message: message.failed });
      else if (message.away) this.end(hand, { kind: 'again', why: 'away' });
      // After a trap the kernel's memory is not to be trusted.
      else if (message.trap) this.dismiss(hand, { kind: 'again', why: 'trap' });
      else this.end(hand, { kind: 'failed', message: message.failed });
    });
    const gone = () => {
      this.hands.delete(hand);
      this.end(hand, { kind: 'again', why: 'died' });
    };
    child.on('exit', gone);
    child.on('error', gone);
    return hand;
  }

  private end(hand: Hand, how: Ended): void {
    const { task } = hand;
    hand.task = undefined;
    hand.idleSince = Date.now();
    if (this.busy === 0) this.crowded = false;
    task?.end(how);
  }

  private dismiss(hand: Hand, how: Ended): void {
    this.hands.delete(hand);
    hand.process.removeAllListeners();
    hand.process.on('error', () => {});
    hand.process.kill('SIGKILL');
    this.end(hand, how);
  }

  private look(): void {
    const now = Date.now();
    if (this.hands.size > 0) this.emptySince = now;
    else if (this.options.warm !== undefined && now - this.emptySince > this.options.warm && !this.closed) this.hire();
    const working: Hand[] = [];
    let all = 0;
    for (const hand of this.hands) {
      hand.bytes = residentBytes(hand.process.pid);
      all += hand.bytes;
      if (!hand.task) {
        // One stays for the next that comes; what has grown in its work starts afresh.
        if ((this.hands.size > 1 && now - hand.idleSince > (this.options.idle ?? 30_000)) || hand.bytes > this.childBytes / 2)
          this.dismiss(hand, { kind: 'stopped' });
      } else if (hand.bytes > this.childBytes)
        this.dismiss(hand, {
          kind: 'fault',
          code: 'work-too-large',
          message:
            `this needs more than ${Math.round(this.childBytes / MB)} MB of memory, the ` +
            `most a piece of work may have here: make the level smaller or plainer, or raise RAMMER_WORKER_MB`,
        });
      else if (now > hand.task.until)
        this.dismiss(hand, {
          kind: 'fault',
          code: 'work-too-long',
          message: `this took longer than ${Math.round((hand.task.until - hand.task.started) / 1000)} s and was ended: make the level smaller or plainer`,
        });
      else working.push(hand);
    }
    if (all <= this.allBytes || working.length < 2) return;
    const newest = working.reduce((a, b) => (b.task!.started > a.task!.started ? b : a));
    this.dismiss(newest, { kind: 'again', why: 'room' });
    this.crowded = true;
  }
}

/** Memory of a process that is really there, bytes; 0 where the system does not tell. */
function residentBytes(pid: number | undefined): number {
  try {
    return Number(readFileSync(`/proc/${pid}/statm`, 'utf8').split(' ')[1]) * 4096;
  } catch {
    return 0;
  }
}
