import { expose } from 'comlink';
import { blockGrid } from '@rammer/core/block/grid';
import { meshGrid, type PlacedMesh } from '@rammer/core/block/placedMesh';
import { grow, type GrowthInput } from '@rammer/core/growth/grow';
import type { Plants } from '@rammer/core/growth/plants';
import { whyHere, type Why } from '@rammer/core/growth/why';
import type { Block } from '@rammer/core/level/objects';
import type { Grid } from '@rammer/core/level/tiles';

/** What plants grow from, as it crosses to the worker: lists instead of grids. */
export type SownInput = Omit<GrowthInput, 'terrain' | 'blocks' | 'meshes' | 'tiles'> & {
  grid: Grid;
  heights: Float32Array;
  blocks: Block[];
  placed: PlacedMesh[];
  sown: [string, Int32Array][];
};

let input: GrowthInput | undefined;
let grown: Plants[] = [];

const api = {
  /** Grows every species of a level anew. */
  grow(given: SownInput): Plants[] {
    const { grid, heights, blocks, placed, sown, ...rest } = given;
    input = { ...rest, terrain: { grid, heights, noise: new Map() }, blocks: blockGrid(blocks), meshes: meshGrid(placed), tiles: new Map(sown) };
    grown = grow(input);
    return grown;
  },
  /** Why a species grows at a point or not, of what was grown last. */
  why(species: string, x: number, z: number): Why | undefined {
    return input && whyHere(input, grown, species, x, z);
  },
};

export type GrowthWorker = typeof api;
expose(api);
