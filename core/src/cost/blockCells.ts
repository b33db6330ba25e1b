import type { PlacedMesh } from '../block/placedMesh';
import type { Block } from '../level/objects';
import { KeyedList } from '../num/keyedList';
import { blockDrawable, drawCell } from './blockDrawables';
import type { Drawable } from './drawable';

/**
 * Blocks by the cell they are drawn in, kept up as single ones change: a cell is made anew only where one of its own did. The
 * same as `blocksByCell` and `blockDrawables` give of those that are set, sorted by id.
 */
export class BlockCells<M extends PlacedMesh = PlacedMesh> {
  private readonly blocks = new Map<string, { block: Block; cell: string; mesh: M | undefined }>();
  private readonly members = new Map<string, Map<string, Block>>();
  private readonly drawn = new KeyedList<Drawable>();
  private dirty = new Set<string>();

  /** A block as it is drawn now, and its mesh where it is one; `undefined` where it is not drawn. Voids never are. */
  set(id: string, block: Block | undefined, mesh: M | undefined): void {
    const before = this.blocks.get(id);
    if (before?.block === block && before?.mesh === mesh) return;
    if (before) {
      this.members.get(before.cell)!.delete(id);
      this.dirty.add(before.cell);
      this.blocks.delete(id);
    }
    if (!block || block.out || block.op === 'void') return;
    const cell = drawCell(block);
    (this.members.get(cell) ?? this.members.set(cell, new Map()).get(cell)!).set(id, block);
    this.dirty.add(cell);
    this.blocks.set(id, { block, cell, mesh });
  }

  ids(): Iterable<string> {
    return this.blocks.keys();
  }

  /** Brings the list up to date. @returns the cells that changed since the last time, each with its blocks by id, none where it is empty */
  update(): Map<string, Block[]> {
    const changed = new Map<string, Block[]>();
    for (const cell of this.dirty) {
      const list = [...(this.members.get(cell)?.values() ?? [])].sort((a, b) => (a.id < b.id ? -1 : 1));
      changed.set(cell, list);
      if (list.length > 0) this.drawn.set(cell, blockDrawable(cell, list, this.meshes));
      else {
        this.drawn.delete(cell);
        this.members.delete(cell);
      }
    }
    this.dirty = new Set();
    return changed;
  }

  /** As the batch list sees them, in any order; a list that goes on with them. */
  get list(): readonly Drawable[] {
    return this.drawn.list;
  }

  /** Meshes of those that are drawn, by id. */
  readonly meshes = { get: (id: string): M | undefined => this.blocks.get(id)?.mesh };
}
