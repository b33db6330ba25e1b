import { BlockBuilder } from '../block/build';
import type { SolidKernel } from '../block/kernel';
import { composeRect, noiseOf, wholeRect, type Terrain } from '../earth/compose';
import { noiseLiftRaster } from '../earth/lifts/noise';
import { composeLean } from '../earth/slab';
import { fill } from '../earth/waters';
import { grow } from '../growth/grow';
import { GrowthRoom } from '../growth/growthRoom';
import { composeGround, makeGround } from '../surface/ground';
import { makeWalkArea, type WalkArea } from '../play/walkArea';
import { lookOver, standingOf, type BakeInput } from './bake';
import { HostsMirror } from './hosts';
import { growthInput } from './plantsInput';
import type { Runner } from './runner';

/** That somebody stopped it. */
export class Stopped extends Error {}

export interface InPlace {
  /** for a level with voids or shapes that only it can make */
  kernel?: SolidKernel;
  /** noise is kept for edits that follow; without, it is made where it is needed and a wide level takes a fraction of the memory */
  keepNoise?: boolean;
  /** told after each solid that is cut, with the share done; false stops */
  onCut?(share: number): boolean;
}

/** Does the long work where it is asked for: in the CLI, in the server's children, in tests. */
export function inPlace({ kernel, keepNoise = false, onCut }: InPlace = {}): Runner {
  const builder = kernel && new BlockBuilder(kernel);
  const hosts = new HostsMirror();
  const room = new GrowthRoom();
  const areas = new Map<string, WalkArea>();
  const areaOf = ({ body, grid }: BakeInput): WalkArea => {
    const key = JSON.stringify([body, grid]);
    return areas.get(key) ?? areas.set(key, makeWalkArea(body, grid)).get(key)!;
  };
  return {
    mostAtOnce: Infinity,
    compose: async (source) => (keepNoise ? composeKept(source) : composeLean(source)),
    ground: async (surfaces, source) => {
      const ground = makeGround(source.terrain.grid, surfaces);
      composeGround(ground, { ...source, hosts: undefined }, wholeRect(ground.grid));
      return ground;
    },
    fill: async (terrain, waters, stack) => waters.map((w) => fill(terrain, w, stack)),
    build: async (blocks) => {
      if (!builder) throw new Error('this level has voids or shapes that need the kernel of solids');
      const built = builder.build(blocks, { onBuilt: onCut });
      if (!built) throw new Stopped('cutting solids was stopped');
      return built;
    },
    grow: async (input) => grow(growthInput(input, hosts), undefined, undefined, room),
    bake: async (input, onProgress) => {
      const area = areaOf(input);
      const baked = area.update(standingOf(input), onProgress, input.entry);
      return baked === undefined ? undefined : { ...lookOver(area, input), baked };
    },
  };
}

function composeKept({ grid, noise, stack, tiles }: Parameters<Runner['compose']>[0]): Terrain {
  for (const { hash, lift } of noiseOf(stack, grid)) if (!noise.has(hash)) noise.set(hash, noiseLiftRaster(lift, grid));
  const terrain: Terrain = { grid, heights: new Float32Array(grid.nx * grid.nz), noise };
  composeRect(terrain, stack, tiles, wholeRect(grid));
  return terrain;
}
