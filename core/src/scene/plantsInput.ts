import type { BlockGrid } from '../block/grid';
import { BlockScene } from '../block/grid';
import type { PlacedMesh } from '../block/placedMesh';
import type { GrowthInput } from '../growth/grow';
import { PlacedScene } from '../kit/placedScene';
import type { Block } from '../level/objects';
import type { Grid } from '../level/tiles';

/** What stands that plants grow on and keep away from, as it is told to who grows them: what changed since the last time. */
export interface HostsChange {
  /** nothing that was told before counts */
  anew: boolean;
  blocks: readonly Block[];
  meshes: readonly PlacedMesh[];
  /** ids of what is neither any more; some may never have been there */
  gone: readonly string[];
}

/** What plants grow from, as it crosses to a worker: what stands as a change of what it has, rasters and lists as they are. */
export type PlantsInput = Omit<GrowthInput, 'terrain' | 'blocks' | 'meshes' | 'tiles'> & {
  grid: Grid;
  heights: Float32Array;
  hosts: HostsChange;
  /** raster tiles of what was sown */
  sown: [string, Int32Array][];
};

/** The plants' side of what stands: kept up by what it is told. */
export class GrowthHosts {
  private plain = new BlockScene();
  private placed = new PlacedScene();

  get blocks(): BlockGrid {
    return this.plain.grid;
  }

  /** What plants grow from, with what is told taken in. */
  take({ grid, heights, hosts, sown, ...rest }: PlantsInput): GrowthInput {
    if (hosts.anew) {
      this.plain = new BlockScene();
      this.placed = new PlacedScene();
    }
    for (const id of hosts.gone) {
      this.plain.delete(id);
      this.placed.delete(id);
    }
    for (const block of hosts.blocks) {
      this.placed.delete(block.id);
      this.plain.put(block);
    }
    for (const mesh of hosts.meshes) {
      this.plain.delete(mesh.id);
      this.placed.put(mesh);
    }
    // Nobody asks here where something moved.
    this.plain.takeMoved();
    this.placed.takeMoved();
    return { ...rest, terrain: { grid, heights, noise: new Map() }, blocks: this.plain.grid, meshes: this.placed.grid, tiles: new Map(sown) };
  }
}
