import { splitBlocks, type BuiltBlock } from '../block/build';
import type { BlockGrid } from '../block/grid';
import type { SolidKernel } from '../block/kernel';
import type { MeshGrid, PlacedMesh } from '../block/placedMesh';
import type { Terrain } from '../earth/compose';
import type { WaterBody } from '../earth/water';
import type { Plants } from '../growth/plants';
import type { Assets } from '../kit/placement';
import { presentBlocks, type Level } from '../level/level';
import type { Block, Species } from '../level/objects';
import type { GroundRaster } from '../surface/ground';
import { rulesLookAt } from '../surface/rules/index';
import { surfacesOf } from '../surface/surfaces';
import { inPlace } from './inPlace';
import type { Drawable } from '../cost/drawable';
import { Scene } from './scene';

/** A level with everything that is made from it, for those who look at it whole: CLI, checks, exports. */
export interface LevelParts {
  level: Level;
  assets: Assets;
  terrain: Terrain;
  ground: GroundRaster;
  /** blocks whose solid is plain; hosts, walls and so on */
  blocks: readonly Block[];
  grid: BlockGrid;
  /** blocks that their shape or a void made a mesh */
  built: BuiltBlock[];
  voids: readonly Block[];
  /** pieces and built blocks as they are seen and stood on */
  pieces: readonly PlacedMesh[];
  meshes: MeshGrid;
  species: readonly Species[];
  grown: Plants[];
  waters: WaterBody[];
  /** pieces, built blocks and trunks as they stop a body; movers are left out */
  solids: readonly PlacedMesh[];
  /** everything it draws */
  drawables: Drawable[];
}

/** Whether a level has voids or shapes that only the kernel can make. */
export const needsKernel = (level: Level): boolean => splitBlocks(presentBlocks(level)).special.length > 0;

export interface AssembleOptions {
  /** for a level that needs it, see `needsKernel` */
  kernel?: SolidKernel;
  /** told after each solid that is cut, with the share done; false stops, and there is no result */
  onCut?(share: number): boolean;
}

/**
 * A level with all that is derived from it, made in place.
 *
 * @param assets read from the level's GLB files, see io/readAssets
 * @throws Error when the kernel is needed and missing: a bug of the caller
 */
export async function sceneOf(level: Level, assets: Assets, { kernel, onCut }: AssembleOptions = {}): Promise<Scene | undefined> {
  let stopped = false;
  const cut = onCut && ((share: number) => onCut(share) || !(stopped = true));
  // Only rules that go by a lift look at noise again.
  const runner = inPlace({ kernel, onCut: cut, keepNoise: rulesLookAt(surfacesOf(level).rules, 'lifts') });
  const scene = new Scene({ runner, assets });
  await scene.open(level);
  await scene.settled();
  if (stopped) return undefined;
  if (scene.faults.length > 0) throw new Error(scene.faults[0]);
  return scene;
}

/** The results of a scene as plain values. */
export const partsOf = (scene: Scene): LevelParts => ({
  level: scene.level,
  assets: scene.placed.assets,
  terrain: scene.terrain.value,
  ground: scene.ground.raster,
  blocks: scene.solids.plain.list,
  grid: scene.solids.plain.grid,
  built: [...scene.solids.built.values()].sort((a, b) => (a.id < b.id ? -1 : 1)),
  voids: scene.solids.voids,
  pieces: scene.placed.list,
  meshes: scene.placed.scene.grid,
  species: scene.plants.species,
  grown: scene.plants.grown,
  waters: scene.waters.bodies,
  solids: scene.walk.meshes,
  drawables: scene.drawables.list,
});

/** A level with everything that is made from it, see `sceneOf`. */
export const assemble = async (level: Level, assets: Assets, kernel?: SolidKernel): Promise<LevelParts> => partsOf((await sceneOf(level, assets, { kernel }))!);
