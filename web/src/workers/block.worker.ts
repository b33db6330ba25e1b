import { expose } from 'comlink';
import wasm from 'manifold-3d/manifold.wasm?url';
import { BlockBuilder, type BuiltBlock } from '@rammer/core/block/build';
import { loadSolidKernel } from '@rammer/core/block/loadKernel';
import type { Block } from '@rammer/core/level/objects';

let builder: Promise<BlockBuilder> | undefined;

const api = {
  /**
   * Builds what needs the kernel among the blocks of a level; what did not change is taken from the last time.
   *
   * @param known keys of the built blocks the caller has: those come back without their meshes
   */
  async build(blocks: Block[], known: string[], moving: string[] = []): Promise<{ made: BuiltBlock[]; keys: string[] }> {
    builder ??= loadSolidKernel(wasm).then((kernel) => new BlockBuilder(kernel));
    builder.catch(() => { builder = undefined; });
    const all = (await builder).build(blocks, new Set(moving));
    const have = new Set(known);
    return { made: all.filter((b) => !have.has(b.key)), keys: all.map((b) => b.key) };
  },
};

export type BlockWorker = typeof api;
expose(api);
