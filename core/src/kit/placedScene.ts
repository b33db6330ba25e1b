import { CELL } from '../block/grid';
import type { MeshGrid, PlacedMesh } from '../block/placedMesh';
import type { Bounds } from '../block/solid';
import { Sorted } from '../num/sorted';

/** Whether two meshes are the same triangles at the same places. */
function sameShape(a: PlacedMesh, b: PlacedMesh): boolean {
  if (a === b) return true;
  if (a.positions.length !== b.positions.length || a.indices.length !== b.indices.length) return false;
  for (let i = 0; i < a.positions.length; i++) if (a.positions[i] !== b.positions[i]) return false;
  for (let i = 0; i < a.indices.length; i++) if (a.indices[i] !== b.indices[i]) return false;
  return true;
}

/** Whether one comes after another in a cell: pieces first, then blocks, each by id. */
const after = (a: PlacedMesh, b: PlacedMesh): boolean => ((a.of === 'block') === (b.of === 'block') ? a.id > b.id : a.of === 'block');

/**
 * Meshes where they stand, by id and by cell, kept up as single ones change: a change looks at the cells it touches and at
 * nothing else. The grid is the same as `meshGrid` gives of pieces by id and then built blocks by id.
 */
export class PlacedScene {
  private readonly meshes = new Map<string, PlacedMesh>();
  private readonly cells = new Map<string, PlacedMesh[]>();
  private readonly pieces = new Sorted<PlacedMesh>();
  private readonly blocks = new Sorted<PlacedMesh>();
  private listed: { revision: number; list: readonly PlacedMesh[] } = { revision: -1, list: [] };
  private moved: Bounds[] = [];
  /** counts changes: equal counts, equal meshes */
  revision = 0;

  /** By cells of 16 m, see `meshGrid`. It changes with the scene. */
  get grid(): MeshGrid {
    return this.cells;
  }
  /** Pieces by id, then built blocks by id; a list that stays as it is. */
  get list(): readonly PlacedMesh[] {
    if (this.listed.revision !== this.revision) this.listed = { revision: this.revision, list: [...this.pieces.all, ...this.blocks.all] };
    return this.listed.list;
  }
  get size(): number {
    return this.meshes.size;
  }
  get(id: string): PlacedMesh | undefined {
    return this.meshes.get(id);
  }
  values(): Iterable<PlacedMesh> {
    return this.meshes.values();
  }

  /** A mesh comes, or takes the place of the one of its id. */
  put(mesh: PlacedMesh): void {
    const before = this.meshes.get(mesh.id);
    if (before === mesh) return;
    const same = before !== undefined && sameShape(before, mesh);
    if (before) this.leave(before, !same);
    if (before && before.of !== mesh.of) this.sorted(before).delete(mesh.id);
    this.meshes.set(mesh.id, mesh);
    this.sorted(mesh).set(mesh);
    this.revision++;
    this.each(mesh, (key) => {
      const list = this.cells.get(key);
      if (!list) this.cells.set(key, [mesh]);
      else {
        let at = list.length;
        while (at > 0 && after(list[at - 1], mesh)) at--;
        list.splice(at, 0, mesh);
      }
    });
    if (!same) this.moved.push({ min: mesh.min, max: mesh.max });
  }

  delete(id: string): void {
    const before = this.meshes.get(id);
    if (!before) return;
    this.leave(before, true);
    this.meshes.delete(id);
    this.sorted(before).delete(id);
    this.revision++;
  }

  /** Where something came, went or moved since this was asked for. */
  takeMoved(): Bounds[] {
    const out = this.moved;
    this.moved = [];
    return out;
  }

  private sorted({ of }: PlacedMesh): Sorted<PlacedMesh> {
    return of === 'block' ? this.blocks : this.pieces;
  }

  private leave(mesh: PlacedMesh, tell: boolean): void {
    this.each(mesh, (key) => {
      const list = this.cells.get(key)!;
      list.splice(list.indexOf(mesh), 1);
      if (list.length === 0) this.cells.delete(key);
    });
    if (tell) this.moved.push({ min: mesh.min, max: mesh.max });
  }

  private each({ min, max }: PlacedMesh, tell: (key: string) => void): void {
    for (let cx = Math.floor(min[0] / CELL); cx <= Math.floor(max[0] / CELL); cx++) {
      for (let cz = Math.floor(min[2] / CELL); cz <= Math.floor(max[2] / CELL); cz++) tell(`${cx},${cz}`);
    }
  }
}
