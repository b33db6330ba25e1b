import type { Database, Transaction } from '../db/open';

/** A fault of what a job was given, told to who asked by its code. */
export class JobFault extends Error {
  constructor(
    readonly code: string,
    message: string,
  ) {
    super(message);
  }
}

/** What a job is asked for. */
export interface JobAsked {
  id: string;
  levelId?: string;
  /** the kind's own, checked by the door that took it */
  input: Record<string, unknown>;
  /** a file that came with it */
  file?: Uint8Array;
}

/** What a job leaves: an answer, a file, and what is to be written in the transaction that ends it. */
export interface JobDone {
  result?: unknown;
  output?: Uint8Array;
  /** its value is the answer */
  commit?(tx: Transaction): Promise<unknown>;
}

/** One kind of long work: a file in `kinds/` and a line in its index. It runs in a process of its own. */
export interface JobKind {
  /** seconds after which it is ended */
  seconds: number;
  run(asked: JobAsked, db: Database, progress: (share: number) => void): Promise<JobDone>;
}
