import type * as Core from 'recast-navigation';
import type * as Generators from 'recast-navigation/generators';

/**
 * The recast kernel, injected: core never loads WebAssembly by itself. `loadRecast` in the web's
 * workers and in the CLI imports both packages, awaits `init()` and hands them over.
 */
export type Recast = typeof Core & typeof Generators;

/** Runs `work` and releases every handle it registered, newest first, also when it throws. */
export function withHandles<T>(work: (keep: <H extends { destroy(): void }>(handle: H) => H, release: (free: () => void) => void) => T): T {
  const frees: (() => void)[] = [];
  try {
    return work(
      (handle) => { frees.push(() => handle.destroy()); return handle; },
      (free) => { frees.push(free); },
    );
  } finally {
    for (const free of frees.reverse()) free();
  }
}

/** Whether an error came from a WebAssembly trap: the kernel's memory can no longer be trusted. */
export const isTrap = (error: unknown): boolean =>
  error instanceof Error && (error.name === 'RuntimeError' || /memory access out of bounds|unreachable executed|null function|Aborted\(/.test(error.message));
