import { BlockScene } from '../block/grid';
import type { PlacedMesh } from '../block/placedMesh';
import type { Bounds } from '../block/solid';
import { PlacedScene } from '../kit/placedScene';
import type { Block } from '../level/objects';
import type { Mark } from '../num/journal';
import type { PlacedNode } from './nodes/placed';
import type { SolidsNode } from './nodes/solids';

/** What stands on the ground, as a worker is told of it: what changed since the last time. */
export interface HostsChange {
  /** nothing that was told before counts */
  anew: boolean;
  /** those that stand plain */
  blocks: readonly Block[];
  /** pieces and built blocks */
  meshes: readonly PlacedMesh[];
  /** ids of what is neither any more; some may never have been there */
  gone: readonly string[];
}

/** Tells one worker what stands, each time only what changed: thousands of meshes do not cross for one that moved. */
export class HostsTeller {
  private solidsMark?: Mark;
  private placedMark?: Mark;

  constructor(private readonly scene: { readonly solids: SolidsNode; readonly placed: PlacedNode }) {}

  /** What the worker has is not known any more. */
  forget(): void {
    this.solidsMark = this.placedMark = undefined;
  }

  tell(): HostsChange {
    const { solids, placed } = this.scene;
    const of = { solids: solids.journal.since(this.solidsMark), placed: placed.journal.since(this.placedMark) };
    this.solidsMark = of.solids.mark;
    this.placedMark = of.placed.mark;
    if (!of.solids.ids || !of.placed.ids) return { anew: true, blocks: solids.plain.list, meshes: placed.list, gone: [] };
    const change = { anew: false, blocks: [] as Block[], meshes: [] as PlacedMesh[], gone: [] as string[] };
    for (const id of new Set([...of.solids.ids, ...of.placed.ids])) {
      const [block, mesh] = [solids.plain.get(id), placed.scene.get(id)];
      if (block) change.blocks.push(block);
      if (mesh) change.meshes.push(mesh);
      if (!block && !mesh) change.gone.push(id);
    }
    return change;
  }
}

/** The worker's side: what stands, kept up by what it is told. */
export class HostsMirror {
  blocks = new BlockScene();
  meshes = new PlacedScene();
  /** where something came, went or changed when it was told last; all that stands where it was told anew */
  moved: readonly Bounds[] = [];

  take({ anew, blocks, meshes, gone }: HostsChange): void {
    if (anew) {
      this.blocks = new BlockScene();
      this.meshes = new PlacedScene();
    }
    for (const id of gone) {
      this.blocks.delete(id);
      this.meshes.delete(id);
    }
    for (const block of blocks) {
      this.meshes.delete(block.id);
      this.blocks.put(block);
    }
    for (const mesh of meshes) {
      this.blocks.delete(mesh.id);
      this.meshes.put(mesh);
    }
    this.moved = [...this.blocks.takeMoved(), ...this.meshes.takeMoved()];
  }
}
