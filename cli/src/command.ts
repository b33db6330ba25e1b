import type { SolidKernel } from '@rammer/core/block/kernel';
import type { Assets } from '@rammer/core/kit/placement';
import type { Level } from '@rammer/core/level/level';

/** What a command says of a level: for machines, for people, and the exit code. */
export interface Said {
  report: unknown;
  text: string;
  exit: 0 | 1;
}

/** What beside the level a command may want. */
export interface Asked {
  /** the level's meshes */
  assets: Assets;
  /** loaded where the level has voids or shapes that need it */
  kernel?: SolidKernel;
  /** folder to write to */
  out?: string;
  /** a device other than the level's own */
  device?: string;
  body?: string;
  /** told now and then with the share done */
  progress(share: number, what?: string): void;
}

export type Command = (level: Level, asked: Asked) => Said | Promise<Said>;
