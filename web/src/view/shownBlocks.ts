import type { Group, IUniform } from 'three';
import type { BuiltBlock } from '@rammer/core/block/build';
import { moverOffset } from '@rammer/core/block/mover';
import { blockDrawables, type Drawable } from '@rammer/core/cost/batches';
import type { Block } from '@rammer/core/level/objects';
import { add } from '@rammer/core/num/vec';
import type { Derived } from '../store/derived';
import { BlockView } from './blockView';

/** Blocks as the view shows them, which is not always as the level has them: while they are dragged, run as movers, or are shown alone. */
export class ShownBlocks {
  /** for the batch list */
  parts: Drawable[] = [];
  private readonly view: BlockView;
  private dragged?: ReadonlyMap<string, Block>;
  /** what the dragged blocks cut, or are cut by, as the worker last had it */
  private cut?: ReadonlyMap<string, BuiltBlock>;
  private alone?: ReadonlySet<string>;
  private time?: number;

  constructor(
    group: Group,
    shared: Record<string, IUniform>,
    private readonly made: Derived,
    private readonly request: () => void,
  ) {
    this.view = new BlockView(group, shared);
  }

  /** The level's blocks changed; the caller asks for a frame. */
  refresh(): void {
    const { made, dragged, alone, time } = this;
    const known = new Set(made.blocks.map((b) => b.id));
    const all = dragged ? [...made.blocks.map((b) => dragged.get(b.id) ?? b), ...[...dragged.values()].filter((b) => !known.has(b.id))] : made.blocks;
    const shown = alone ? all.map((b) => (alone.has(b.id) || !known.has(b.id) ? b : { ...b, hidden: true })) : all;
    // A solid that still waits for its mesh is drawn as its own shape.
    const still = dragged && this.cut ? this.cut : made.built;
    const { blocks, built } = time === undefined || made.movers.size === 0 ? { blocks: shown, built: still } : atTime(shown, still, time);
    this.parts = blockDrawables(this.view.update(blocks, built), built);
  }

  private again(): void {
    this.refresh();
    this.request();
  }

  /** Blocks shown other than they are, or copies that are not there yet, while a handle is dragged. `undefined` ends it. */
  preview(blocks?: ReadonlyMap<string, Block>): void {
    if (!blocks && !this.dragged) return;
    this.dragged = blocks;
    if (!blocks) this.cut = undefined;
    this.again();
    if (blocks) void this.cutPreview(blocks);
  }

  private async cutPreview(blocks: ReadonlyMap<string, Block>): Promise<void> {
    const { made } = this;
    const known = new Set(made.blocks.map((b) => b.id));
    const wanted = [...made.blocks.map((b) => blocks.get(b.id) ?? b), ...[...blocks.values()].filter((b) => !known.has(b.id))];
    if (made.built.size === 0 && !wanted.some((b) => b.op === 'void')) return;
    const built = await made.preview(wanted, [...blocks.keys()]);
    if (!built || !this.dragged) return;
    this.cut = built;
    this.again();
  }

  /** Movers where they are at a time, seconds; `undefined` at their own places. */
  runTo(time?: number): void {
    if (time === this.time || (this.made.movers.size === 0 && this.time === undefined)) return;
    this.time = time;
    this.again();
  }

  /** These blocks only; `undefined` shows all. */
  isolate(ids?: ReadonlySet<string>): void {
    if (ids === this.alone) return;
    this.alone = ids;
    this.again();
  }

  /** Whether a block may be seen and picked among those that are shown alone. */
  among(id: string): boolean {
    return this.alone === undefined || this.alone.has(id);
  }

  /** Marks every block as still blockout. */
  markStill(on: boolean): void {
    this.view.setStill(on);
    this.request();
  }

  setPainted(pictures: number): void {
    this.view.setPainted(pictures);
  }
  show(wanted: ReadonlySet<string>): void {
    this.view.show(wanted);
  }
  dispose(): void {
    this.view.dispose();
  }
}

/** Blocks and their meshes with the movers among them where they are at a time. */
function atTime(blocks: readonly Block[], built: ReadonlyMap<string, BuiltBlock>, time: number): { blocks: Block[]; built: ReadonlyMap<string, BuiltBlock> } {
  const meshes = new Map(built);
  const moved = blocks.map((b) => {
    if (!b.stops) return b;
    const by = moverOffset(b.stops, time);
    const mesh = meshes.get(b.id);
    if (mesh) meshes.set(b.id, { ...mesh, key: `${mesh.key}@${by.join()}`, positions: mesh.positions.map((v, i) => v + by[i % 3]) });
    return { ...b, at: add(b.at, by) };
  });
  return { blocks: moved, built: meshes };
}
