import type { Level } from '@rammer/core/level/level';

/** What a command says of a level: for machines, for people, and the exit code. */
export interface Said {
  report: unknown;
  text: string;
  exit: 0 | 1;
}

export type Command = (level: Level) => Said | Promise<Said>;
