import type { Group, IUniform } from 'three';
import type { BuiltBlock } from '@rammer/core/block/build';
import { moverOffset } from '@rammer/core/block/mover';
import type { Drawable } from '@rammer/core/cost/drawable';
import { BlockCells } from '@rammer/core/cost/blockCells';
import type { Block } from '@rammer/core/level/objects';
import { presentOf } from '@rammer/core/level/present';
import type { Mark } from '@rammer/core/num/journal';
import { add } from '@rammer/core/num/vec';
import type { Scene } from '@rammer/core/scene/scene';
import { BlockView } from './blockView';

/**
 * Blocks as the view shows them, which is not always as the level has them: while they are dragged, run as movers, or are
 * shown alone. Those that changed are put into their cells; the rest stay.
 */
export class ShownBlocks {
  private readonly cells = new BlockCells<BuiltBlock>();
  private readonly view: BlockView;
  private mark?: Mark;
  private dragged?: ReadonlyMap<string, Block>;
  /** what the dragged blocks cut, or are cut by, as the worker last had it */
  private cut?: ReadonlyMap<string, BuiltBlock>;
  private alone?: ReadonlySet<string>;
  private time?: number;
  /** ids of those that are shown otherwise than they are */
  private other: Iterable<string> = [];

  constructor(
    group: Group,
    shared: Record<string, IUniform>,
    private readonly scene: Scene,
    private readonly request: () => void,
  ) {
    this.view = new BlockView(group, shared);
  }

  /** For the batch list. */
  get parts(): readonly Drawable[] {
    return this.cells.list;
  }

  /** The level's blocks changed; the caller asks for a frame. @param all every block may be shown otherwise */
  refresh(all = false): void {
    const { solids } = this.scene;
    const { ids, mark } = solids.journal.since(this.mark);
    this.mark = mark;
    const now = [
      ...(this.dragged?.keys() ?? []),
      ...(this.cut ? [...this.cut.keys(), ...solids.built.keys()] : []),
      ...(this.time === undefined ? [] : solids.movers.keys()),
    ];
    const changed = new Set([...(all || !ids ? [...this.cells.ids(), ...solids.all.map((b) => b.id)] : ids), ...this.other, ...now]);
    this.other = now;
    for (const id of changed) this.put(id);
    this.view.update(this.cells.update(), this.cells.meshes);
  }

  private put(id: string): void {
    const { solids, level } = this.scene;
    const present = presentOf(level.objects).get(id);
    const own = present?.kind === 'block' ? present : undefined;
    const block = this.dragged?.get(id) ?? own;
    // What is dragged and not there yet is shown among those that are alone.
    if (!block || block.hidden || (this.alone && own && !this.alone.has(id))) return this.cells.set(id, undefined, undefined);
    // A solid that still waits for its mesh is drawn as its own shape.
    const mesh = (this.dragged && this.cut ? this.cut : solids.built).get(id);
    const by = this.time !== undefined && block.stops && moverOffset(block.stops, this.time);
    if (!by) return this.cells.set(id, block, mesh);
    const moved = mesh && { ...mesh, key: `${mesh.key}@${by.join()}`, positions: mesh.positions.map((v, i) => v + by[i % 3]) };
    this.cells.set(id, { ...block, at: add(block.at, by) }, moved);
  }

  private again(all = false): void {
    this.refresh(all);
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
    const built = await this.scene.solids.preview(blocks);
    if (!built || !this.dragged) return;
    this.cut = built;
    this.again();
  }

  /** Movers where they are at a time, seconds; `undefined` at their own places. */
  runTo(time?: number): void {
    if (time === this.time || (this.scene.solids.movers.size === 0 && this.time === undefined)) return;
    this.time = time;
    this.again();
  }

  /** These blocks only; `undefined` shows all. */
  isolate(ids?: ReadonlySet<string>): void {
    if (ids === this.alone) return;
    this.alone = ids;
    this.again(true);
  }

  /** Whether a block may be seen and picked among those that are shown alone. */
  among(id: string): boolean {
    return this.alone === undefined || this.alone.has(id);
  }

  /** whether they are marked as still blockout */
  still = false;

  /** Marks every block as still blockout. */
  markStill(on: boolean): void {
    this.still = on;
    this.view.setStill(on);
    this.request();
  }

  setPainted(pictures: number): void {
    this.view.setPainted(pictures);
  }
  show(wanted: { has(key: string): boolean }): void {
    this.view.show(wanted);
  }
  dispose(): void {
    this.view.dispose();
  }
}
