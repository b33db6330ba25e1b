import { BlockBuilder, splitBlocks, type BuiltBlock } from '../block/build';
import { blockGrid, type BlockGrid } from '../block/grid';
import type { SolidKernel } from '../block/kernel';
import { meshGrid, type MeshGrid, type PlacedMesh } from '../block/placedMesh';
import { composeTerrain, wholeRect, type Terrain } from '../earth/compose';
import { composeLean } from '../earth/slab';
import { grow, type GrowthInput } from '../growth/grow';
import type { Plants } from '../growth/plants';
import { trunkColliders } from '../growth/trunks';
import { assetBounds } from '../kit/asset';
import { pieceColliders, placedPieces, type Assets } from '../kit/placement';
import { lightingOf } from '../level/lighting';
import { ofKind, presentBlocks, presentPieces, presentPlants, speciesOf, type Level, liftStack } from '../level/level';
import { type WaterBody } from '../earth/water';
import { waterBodies } from '../earth/waters';
import type { AssetObject, Block, Species } from '../level/objects';
import { composeGround, makeGround, type GroundRaster } from '../surface/ground';
import { surfacesOf } from '../surface/surfaces';
import { blockDrawables, blocksByCell, hazeDrawables, terrainDrawables, type Drawable } from './batches';
import { instanceDrawables, pieceCells, plantCells, waterDrawables, type InstanceCell } from './instances';

/** A level with everything that is made from it, for those who look at it whole: CLI, checks, exports. */
export interface LevelParts {
  level: Level;
  assets: Assets;
  terrain: Terrain;
  ground: GroundRaster;
  /** blocks whose solid is plain; hosts, walls and so on */
  blocks: Block[];
  grid: BlockGrid;
  /** blocks that their shape or a void made a mesh */
  built: BuiltBlock[];
  voids: Block[];
  /** pieces and built blocks as they are seen and stood on */
  pieces: PlacedMesh[];
  meshes: MeshGrid;
  species: Species[];
  grown: Plants[];
  waters: WaterBody[];
  /** pieces, built blocks and trunks as they stop a body; movers are left out */
  solids: PlacedMesh[];
}

/** The heights of the assets plants are scaled by, by asset object. */
export const assetHeights = (assets: Assets): Map<string, number> => new Map([...assets].map(([id, a]) => [id, Math.max(0.01, assetBounds(a).max[1])]));

/** Whether a level has voids or shapes that only the kernel can make. */
export const needsKernel = (level: Level): boolean => splitBlocks(presentBlocks(level)).special.length > 0;

/**
 * @param assets read from the level's GLB files, see io/readAssets
 * @param kernel for a level that needs it
 * @throws Error when it is needed and missing: a bug of the caller
 */
export function assemble(level: Level, assets: Assets, kernel?: SolidKernel, composed?: Terrain): LevelParts {
  return assembleWith(level, assets, kernel, { composed })!;
}

/** @param onCut told after each solid that is cut, with the share done; false stops, and there is no result */
export function assembleWith(
  level: Level,
  assets: Assets,
  kernel: SolidKernel | undefined,
  { composed, onCut }: { composed?: Terrain; onCut?: (share: number) => boolean } = {},
): LevelParts | undefined {
  const { surfaces, rules } = surfacesOf(level);
  // Only rules that go by a lift look at noise again.
  const terrain = composed ?? (rules.some((r) => r.on && r.where.some((c) => c.by === 'lift')) ? composeTerrain : composeLean)(level);
  const waters = waterBodies(terrain, ofKind(level, 'water'), liftStack(level)).bodies;
  const ground = makeGround(terrain.grid, surfaces);
  const present = presentBlocks(level);
  const { plain: blocks, special } = splitBlocks(present);
  if (special.length > 0 && !kernel) throw new Error('this level has voids or shapes that need the kernel of solids');
  const built = special.length > 0 ? buildOnce(kernel!, present, onCut) : [];
  if (!built) return undefined;
  const grid = blockGrid(blocks);
  const list = presentPieces(level);
  const pieces = [...placedPieces(list, assets), ...built];
  const meshes = meshGrid(pieces);
  composeGround(ground, { terrain, stack: liftStack(level), tiles: level.tiles, waters, rules, hosts: { blocks, meshes: pieces } }, wholeRect(terrain.grid));
  const species = speciesOf(level);
  const input: GrowthInput = {
    terrain,
    ground,
    blocks: grid,
    meshes,
    waters,
    species,
    assetHeights: assetHeights(assets),
    plants: [...presentPlants(level)],
    tiles: level.tiles,
  };
  const grown = grow(input);
  const byId = new Map(species.map((s) => [s.id, s]));
  return {
    level,
    assets,
    terrain,
    ground,
    blocks,
    grid,
    built,
    voids: present.filter((b) => b.op === 'void'),
    pieces,
    meshes,
    species,
    grown,
    waters,
    solids: [...pieceColliders(list, assets), ...still(built, present), ...trunkColliders(grown, byId, assets)],
  };
}

/** Built blocks of the level that stay where they are. */
function still(built: readonly BuiltBlock[], blocks: readonly Block[]): BuiltBlock[] {
  const moving = new Set(blocks.filter((b) => b.stops || b.background).map((b) => b.id));
  return built.filter((b) => !moving.has(b.id));
}

function buildOnce(kernel: SolidKernel, blocks: readonly Block[], onCut?: (share: number) => boolean): BuiltBlock[] | undefined {
  const builder = new BlockBuilder(kernel);
  const built = builder.build(blocks, { onBuilt: onCut });
  builder.dispose();
  return built;
}

/** Who instances count for, by id: asset objects of pieces and species of plants. */
export const owners = (level: Level): Map<string, AssetObject | Species> =>
  new Map([...ofKind(level, 'asset'), ...ofKind(level, 'species')].map((o) => [o.id, o]));

export function instanceCells(parts: Pick<LevelParts, 'level' | 'assets' | 'species' | 'grown'>): InstanceCell[] {
  return [...pieceCells(presentPieces(parts.level), parts.assets), ...plantCells(parts.grown, new Map(parts.species.map((s) => [s.id, s])), parts.assets)];
}

/** Everything a level draws. */
export function levelDrawables(parts: LevelParts): Drawable[] {
  return [
    ...terrainDrawables(parts.terrain, parts.ground.surfaces, parts.ground),
    ...blockDrawables(blocksByCell(presentBlocks(parts.level)), new Map(parts.built.map((b) => [b.id, b]))),
    ...instanceDrawables(instanceCells(parts), parts.assets, owners(parts.level)),
    ...waterDrawables(parts.waters),
    ...hazeDrawables(lightingOf(parts.level)),
  ];
}
