import { blockGrid, type BlockGrid } from '../block/grid';
import { meshGrid, type MeshGrid, type PlacedMesh } from '../block/placedMesh';
import { composeTerrain, wholeRect, type Terrain } from '../earth/compose';
import { grow, type GrowthInput, type Plants } from '../growth/grow';
import { trunkColliders } from '../growth/trunks';
import { assetBounds } from '../kit/asset';
import { pieceColliders, placedPieces, type Assets } from '../kit/placement';
import { ofKind, presentBlocks, presentPieces, speciesOf, type Level } from '../level/level';
import type { AssetObject, Block, Species, Water } from '../level/objects';
import { composeGround, makeGround, type GroundRaster } from '../surface/ground';
import { surfacesOf } from '../surface/surfaces';
import { blockDrawables, blocksByCell, terrainDrawables, type Drawable } from './batches';
import { instanceDrawables, pieceCells, plantCells, waterDrawables, type InstanceCell } from './instances';

/** A level with everything that is made from it, for those who look at it whole: CLI, checks, exports. */
export interface LevelParts {
  level: Level;
  assets: Assets;
  terrain: Terrain;
  ground: GroundRaster;
  blocks: Block[];
  grid: BlockGrid;
  /** pieces as they are seen and stood on */
  pieces: PlacedMesh[];
  meshes: MeshGrid;
  species: Species[];
  grown: Plants[];
  waters: Water[];
  /** pieces and trunks as they stop a body */
  solids: PlacedMesh[];
}

/** The heights of the assets plants are scaled by, by asset object. */
export const assetHeights = (assets: Assets): Map<string, number> => new Map([...assets].map(([id, a]) => [id, Math.max(0.01, assetBounds(a).max[1])]));

/** @param assets read from the level's GLB files, see io/readAssets */
export function assemble(level: Level, assets: Assets, composed?: Terrain): LevelParts {
  const terrain = composed ?? composeTerrain(level);
  const { surfaces, rule } = surfacesOf(level);
  const ground = makeGround(terrain.grid, surfaces);
  composeGround(ground, terrain, rule, level.tiles, wholeRect(terrain.grid));
  const blocks = presentBlocks(level);
  const grid = blockGrid(blocks);
  const list = presentPieces(level);
  const pieces = placedPieces(list, assets);
  const meshes = meshGrid(pieces);
  const species = speciesOf(level);
  const waters = ofKind(level, 'water').filter((w) => !w.out);
  const input: GrowthInput = { terrain, ground, blocks: grid, meshes, waters, species, assetHeights: assetHeights(assets), plants: ofKind(level, 'plant'), tiles: level.tiles };
  const grown = grow(input);
  const byId = new Map(species.map((s) => [s.id, s]));
  return { level, assets, terrain, ground, blocks, grid, pieces, meshes, species, grown, waters, solids: [...pieceColliders(list, assets), ...trunkColliders(grown, byId, assets)] };
}

/** Who instances count for, by id: asset objects of pieces and species of plants. */
export const owners = (level: Level): Map<string, AssetObject | Species> => new Map([...ofKind(level, 'asset'), ...ofKind(level, 'species')].map((o) => [o.id, o]));

export function instanceCells(parts: Pick<LevelParts, 'level' | 'assets' | 'species' | 'grown'>): InstanceCell[] {
  return [...pieceCells(presentPieces(parts.level), parts.assets), ...plantCells(parts.grown, new Map(parts.species.map((s) => [s.id, s])), parts.assets)];
}

/** Everything a level draws. */
export function levelDrawables(parts: LevelParts): Drawable[] {
  return [
    ...terrainDrawables(parts.terrain), ...blockDrawables(blocksByCell(parts.blocks)),
    ...instanceDrawables(instanceCells(parts), parts.assets, owners(parts.level)), ...waterDrawables(parts.waters),
  ];
}
