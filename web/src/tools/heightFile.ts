import { wrap } from 'comlink';
import { fault, type Outcome } from '@rammer/core/io/fault';
import { heightFileFault, isRaw } from '@rammer/core/io/heightFile';
import type { Heightmap } from '@rammer/core/io/heightmap';
import type { HeightsWorker } from '../workers/heights.worker';

/** A file of heights that was chosen: read, but for a RAW, whose size has to be asked for. */
export interface HeightFile {
  name: string;
  bytes: Uint8Array;
  read?: Outcome<Heightmap>;
}

/**
 * Reads a chosen file in a worker of its own, after a look at its size and its first bytes.
 *
 * @param stop ends the loading
 * @returns `undefined` where it was stopped
 */
export async function openHeightFile(file: File, stop?: AbortSignal): Promise<HeightFile | undefined> {
  const { name } = file;
  const none = new Uint8Array(0);
  let worker: Worker | undefined;
  try {
    const wrong = heightFileFault(name, file.size, new Uint8Array(await file.slice(0, 33).arrayBuffer()));
    if (wrong) return { name, bytes: none, read: wrong };
    if (isRaw(name)) return { name, bytes: new Uint8Array(await file.arrayBuffer()) };
    const stopped = new Promise<undefined>((end) => {
      if (stop?.aborted) end(undefined);
      else stop?.addEventListener('abort', () => end(undefined));
    });
    worker = new Worker(new URL('../workers/heights.worker.ts', import.meta.url), { type: 'module', name: 'heights' });
    const read = await Promise.race([wrap<HeightsWorker>(worker).read(file), stopped]);
    return read && { name, bytes: none, read };
  } catch (error) {
    // The browser tells so where a file was moved or changed since it was chosen, or too large for its memory.
    return { name, bytes: none, read: fault('file-unreadable', `${name} cannot be read: ${(error as Error).message}. Choose it again.`) };
  } finally {
    // One that was stopped, or fell over a file, is of no more use; one that is done gives its memory back.
    worker?.terminate();
  }
}
