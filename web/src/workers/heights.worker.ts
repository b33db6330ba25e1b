import { expose, transfer } from 'comlink';
import type { Outcome } from '@rammer/core/io/fault';
import { readHeightFile } from '@rammer/core/io/heightFile';
import type { Heightmap } from '@rammer/core/io/heightmap';

const api = {
  /** Reads heights from a picture or a mesh of ground; it is cancelled by ending the worker. */
  async read(file: File): Promise<Outcome<Heightmap>> {
    const read = await readHeightFile(file.name, new Uint8Array(await file.arrayBuffer()));
    return read.ok ? transfer(read, [read.value.values.buffer as ArrayBuffer]) : read;
  },
};

export type HeightsWorker = typeof api;
expose(api);
