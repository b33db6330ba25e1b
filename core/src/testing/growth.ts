import { assetWidths } from '../cost/parts';
import { blockGrid } from '../block/grid';
import { NO_MESHES } from '../block/placedMesh';
import { wholeRect, type Terrain } from '../earth/compose';
import { grow, type GrowthInput } from '../growth/grow';
import type { Plants } from '../growth/plants';
import { speciesFrom } from '../growth/shippedSpecies';
import { assetBounds } from '../kit/asset';
import type { Species } from '../level/objects';
import { composeGround, makeGround } from '../surface/ground';
import { groundDefaults } from '../surface/surfaces';
import type { GroundRule, Surface } from '../level/objects';
import { testAssets } from './assets';
import { terrainOf } from './levels';

/** A species whose asset is the shipped one of that name. */
export const testSpecies = (name: string, order: number, more: Partial<Species> = {}): Species => ({
  ...speciesFrom({ id: name, name }, name, order, 17 + order),
  ...more,
});

/** What plants grow from, on a terrain of one's own with the default ground. */
export function growthOn(terrain: Terrain, species: Species[], more: Partial<GrowthInput> = {}): GrowthInput {
  const defaults = groundDefaults();
  const ground = makeGround(
    terrain.grid,
    defaults.filter((o): o is Surface => o.kind === 'surface'),
  );
  const tiles = more.tiles ?? new Map();
  composeGround(
    ground,
    { terrain, stack: [], tiles, waters: [], rules: defaults.filter((o): o is GroundRule => o.kind === 'groundRule') },
    wholeRect(terrain.grid),
  );
  return {
    terrain,
    ground,
    blocks: blockGrid([]),
    meshes: NO_MESHES,
    waters: [],
    species,
    assetHeights: new Map([...testAssets()].map(([k, a]) => [k, assetBounds(a).max[1]])),
    assetWidths: assetWidths(testAssets()),
    plants: [],
    tiles,
    ...more,
  };
}

/** A patch of gorse on a gentle slope. */
export function gorsePatch(): { grown: Plants[]; species: Map<string, Species> } {
  const gorse = testSpecies('gorse', 0, { density: 6, rule: { on: true, slope: [0, 40], height: [-500, 500], soft: 5, grounds: [] } });
  return {
    grown: grow(
      growthOn(
        terrainOf((x) => x * 0.1),
        [gorse],
      ),
    ),
    species: new Map([[gorse.id, gorse]]),
  };
}
