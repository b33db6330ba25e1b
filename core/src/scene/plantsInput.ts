import type { GrowthInput } from '../growth/grow';
import type { Touched } from '../growth/growthDirt';
import type { Grid } from '../level/tiles';
import type { HostsChange, HostsMirror } from './hosts';
import type { Noise } from './runner';

/** What plants grow from, as it crosses to a worker: what stands as a change of what it has, rasters and lists as they are. */
export type PlantsInput = Omit<GrowthInput, 'terrain' | 'blocks' | 'meshes' | 'tiles'> & {
  grid: Grid;
  heights: Float32Array;
  hosts: HostsChange;
  /** raster tiles of what was sown, and of weathering where a rule goes by it */
  sown: [string, Int32Array][];
  /** where heights and ground may be others than when it was last grown */
  touched: Touched;
  /** of lifts, where a rule goes by what one raises */
  noise?: Noise;
};

/** What plants grow from, with what is told of the hosts taken in. */
export function growthInput({ grid, heights, hosts, sown, noise = new Map(), ...rest }: PlantsInput, mirror: HostsMirror): GrowthInput {
  mirror.take(hosts);
  return { ...rest, terrain: { grid, heights, noise }, blocks: mirror.blocks.grid, meshes: mirror.meshes.grid, tiles: new Map(sown) };
}
