import { expose } from 'comlink';
import wasm from 'manifold-3d/manifold.wasm?url';
import { BlockBuilder, type BuiltBlock } from '@rammer/core/block/build';
import { loadSolidKernel } from '@rammer/core/block/loadKernel';
import type { Block } from '@rammer/core/level/objects';
import type { Mesh } from '@rammer/core/num/mesh';

let builder: Promise<BlockBuilder> | undefined;

function kernel(): Promise<BlockBuilder> {
  builder ??= loadSolidKernel(wasm).then((loaded) => new BlockBuilder(loaded));
  builder.catch(() => {
    builder = undefined;
  });
  return builder;
}

const api = {
  /**
   * Builds what needs the kernel among some blocks; what did not change is taken from the last time.
   *
   * @param moving ids of those that are being dragged
   * @param onBuilt told the share done after each solid
   */
  async build(blocks: readonly Block[], moving: string[] = [], onBuilt?: (share: number) => void): Promise<BuiltBlock[]> {
    const tell = (share: number) => {
      onBuilt?.(share);
      return true;
    };
    return (await kernel()).build(blocks, { moving: new Set(moving), ...(onBuilt ? { onBuilt: tell } : {}) })!;
  },
  /** Solids joined to one closed mesh in the level, each less its voids. */
  async joined(blocks: Block[], ids: string[]): Promise<Mesh> {
    return (await kernel()).joined(blocks, new Set(ids));
  },
};

export type BlockWorker = typeof api;
expose(api);
