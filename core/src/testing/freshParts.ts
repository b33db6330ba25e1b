import { coatsOf } from '../coat/coats';
import { BlockBuilder, splitBlocks, type BuiltBlock } from '../block/build';
import { blockGrid } from '../block/grid';
import type { SolidKernel } from '../block/kernel';
import { meshGrid } from '../block/placedMesh';
import { composeTerrain, wholeRect } from '../earth/compose';
import { composeLean, earthOf } from '../earth/slab';
import { grow, type GrowthInput } from '../growth/grow';
import { trunkColliders } from '../growth/trunks';
import { assetHeights, assetWidths, owners } from '../cost/parts';
import { pieceColliders, placedPieces, type Assets } from '../kit/placement';
import { lightingOf } from '../level/lighting';
import { whereKinds } from '../growth/where';
import {
  habitatsOf,
  liftStack,
  ofKind,
  playerBody,
  presentBlocks,
  presentMarkers,
  presentPieces,
  presentPlants,
  settingsOf,
  speciesOf,
  type Level,
} from '../level/level';
import { waterBodies } from '../earth/waters';
import type { Block } from '../level/objects';
import { composeGround, makeGround } from '../surface/ground';
import type { LevelParts } from '../scene/parts';
import { surfacesOf } from '../surface/surfaces';
import { blockDrawables, blocksByCell } from '../cost/blockDrawables';
import type { Drawable } from '../cost/drawable';
import { hazeDrawables, terrainDrawables } from '../cost/terrainDrawables';
import { instanceDrawables, pieceCells, waterDrawables, type InstanceCell } from '../cost/instances';
import { CoverRound } from '../cost/coverRound';
import { costEyes } from '../cost/places';
import { coverSpecies } from '../growth/cover/coverSpecies';
import { hostsOf } from '../growth/spot';
import { plantCells } from '../cost/plantCells';
import { upright } from '../growth/upright';
import { doorwaysOf } from '../scene/doorways';
import { outlinesOf } from '../scene/outlines';

type FreshParts = Omit<LevelParts, 'drawables'>;

/** All that is derived from a level, each part made from its list at one go: what the nodes of a scene are held against. */
export function freshParts(level: Level, assets: Assets, kernel?: SolidKernel): FreshParts {
  const { surfaces, rules } = surfacesOf(level);
  // Only rules that go by a lift look at noise again.
  const byLift = rules.some((r) => r.on && r.where.some((c) => c.by === 'lift')) || whereKinds(speciesOf(level), habitatsOf(level)).has('lift');
  const terrain = (byLift ? composeTerrain : (l: Level) => composeLean(earthOf(l)))(level);
  const waters = waterBodies(terrain, ofKind(level, 'water'), liftStack(level)).bodies;
  const ground = makeGround(terrain.grid, surfaces);
  const present = presentBlocks(level);
  const { plain: blocks, special } = splitBlocks(present);
  if (special.length > 0 && !kernel) throw new Error('this level has voids or shapes that need the kernel of solids');
  const built = special.length > 0 ? buildOnce(kernel!, present) : [];
  const grid = blockGrid(blocks);
  const list = presentPieces(level);
  const pieces = [...placedPieces(list, assets), ...built];
  const meshes = meshGrid(pieces);
  composeGround(ground, { terrain, stack: liftStack(level), tiles: level.tiles, waters, rules, hosts: { blocks, meshes: pieces } }, wholeRect(terrain.grid));
  const species = speciesOf(level).map((s) => upright(s, assets));
  const input: GrowthInput = {
    terrain,
    ground,
    blocks: grid,
    meshes,
    waters,
    species,
    habitats: habitatsOf(level),
    assetHeights: assetHeights(assets),
    assetWidths: assetWidths(assets),
    plants: [...presentPlants(level)],
    tiles: level.tiles,
    stack: liftStack(level),
    markers: presentMarkers(level),
    doorways: doorwaysOf({ pieces: list, kits: ofKind(level, 'kit'), assets, blocks: [...present], terrain }),
    outlines: outlinesOf(level),
    walker: playerBody(level).figures,
    ceiling: settingsOf(level).plantCeiling,
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

function buildOnce(kernel: SolidKernel, blocks: readonly Block[]): BuiltBlock[] {
  const builder = new BlockBuilder(kernel);
  const built = builder.build(blocks);
  builder.dispose();
  return built;
}

export function instanceCells(parts: Pick<FreshParts, 'level' | 'assets' | 'species' | 'grown'>): InstanceCell[] {
  return [...pieceCells(presentPieces(parts.level), parts.assets), ...plantCells(parts.grown, new Map(parts.species.map((s) => [s.id, s])), parts.assets)];
}

/** Everything a level draws, likewise. */
export function freshDrawables(parts: FreshParts): Drawable[] {
  return [
    ...terrainDrawables(parts.terrain, parts.ground.surfaces, parts.ground),
    ...blockDrawables(blocksByCell(presentBlocks(parts.level)), new Map(parts.built.map((b) => [b.id, b]))),
    ...instanceDrawables(instanceCells(parts), parts.assets, owners(parts.level), coatsOf(parts.level)),
    ...waterDrawables(parts.waters),
    ...hazeDrawables(lightingOf(parts.level)),
    ...freshCover(parts),
  ];
}

/** What covers the ground round the places a level is measured from, made from nothing. */
function freshCover({ level, assets, terrain, ground, grid, meshes, waters, species }: FreshParts): Drawable[] {
  const input = { terrain, ground, waters, blocks: grid, meshes, hosts: hostsOf({ terrain, blocks: grid, meshes }) };
  const of = coverSpecies(ofKind(level, 'cover'), species, {
    surfaces: ground.surfaces.map((s) => s.id),
    heights: assetHeights(assets),
    origin: [terrain.grid.ox, terrain.grid.oz],
  });
  const cells = costEyes(level).flatMap((eye) => new CoverRound(input, of, assets).around(eye).cells);
  return instanceDrawables([...new Map(cells.map((c) => [c.key, c])).values()], assets, owners(level));
}
