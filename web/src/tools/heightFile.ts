import { fault, type Outcome } from '@rammer/core/io/fault';
import { heightFileFault, isRaw, readHeightFile } from '@rammer/core/io/heightFile';
import type { Heightmap } from '@rammer/core/io/heightmap';

/** A file of heights that was chosen: read, but for a RAW, whose size has to be asked for. */
export interface HeightFile {
  name: string;
  bytes: Uint8Array;
  read?: Outcome<Heightmap>;
}

/** Reads a chosen file, after a look at its size and its first bytes. */
export async function openHeightFile(file: File): Promise<HeightFile> {
  const { name } = file;
  const none = new Uint8Array(0);
  try {
    const wrong = heightFileFault(name, file.size, new Uint8Array(await file.slice(0, 33).arrayBuffer()));
    if (wrong) return { name, bytes: none, read: wrong };
    const bytes = new Uint8Array(await file.arrayBuffer());
    return isRaw(name) ? { name, bytes } : { name, bytes: none, read: await readHeightFile(name, bytes) };
  } catch (error) {
    // The browser tells so where a file was moved or changed since it was chosen.
    return { name, bytes: none, read: fault('file-unreadable', `${name} cannot be read: ${(error as Error).message}. Choose it again.`) };
  }
}
