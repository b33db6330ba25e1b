import { assetHeights, assetWidths } from '../../cost/parts';
import { ofKind, playerBody, presentMarkers } from '../../level/level';
import { withAcceptance } from '../../snag/accept';
import type { Snag } from '../../snag/finding';
import { overBudget } from '../../snag/overBudget';
import { plantsInWay } from '../../snag/plantsInWay';
import { speciesSnags } from '../../snag/species';
import { tidy } from '../../snag/tidy';
import { tooManyCopies } from '../../snag/tooManyCopies';
import type { PlaceCost } from '../../cost/places';
import type { Dirt, Node } from '../node';
import type { CostHost, CostNode } from './cost';
import type { WalkAreasHost, WalkAreasNode } from './walkAreas';

interface SnagsHost extends CostHost, WalkAreasHost {
  readonly cost: CostNode;
  readonly walkAreas: WalkAreasNode;
}

/** What the checks found: in the walk areas as they were last baked, in what is drawn, in what was left out. */
export class SnagsNode implements Node {
  readonly name = 'snags';
  // Acceptances are objects too; names, groups and lines are looked at as they are now.
  readonly aspects = ['notes', 'standing', 'solid'] as const;
  readonly channels = [] as const;
  readonly from = ['walkAreas', 'cost'] as const;
  readonly running = false;

  private made?: Snag[];

  constructor(private readonly host: SnagsHost) {}

  follow(): Dirt {
    this.made = undefined;
    return true;
  }

  /** All that is found, with the reasons of those that are accepted. @param places to hold the budget against; the level's own */
  at(places: readonly PlaceCost[]): Snag[] {
    const { level, walkAreas } = this.host;
    const found = [...(walkAreas.value?.snags ?? []), ...overBudget(level, places), ...tooManyCopies(level), ...tidy(level), ...this.ofSpecies()];
    return found.map((snag) => withAcceptance(level, snag));
  }

  private ofSpecies(): Snag[] {
    const { level, terrain, ground, waters, solids, placed, plants } = this.host;
    // What grows now tells nothing of what will stand.
    if (plants.running) return [];
    const input: Parameters<typeof speciesSnags>[0] = {
      terrain: terrain.value,
      ground: ground.raster,
      blocks: solids.plain.grid,
      meshes: placed.scene.grid,
      waters: waters.bodies,
      species: plants.species,
      habitats: plants.habitats,
      assetHeights: assetHeights(placed.assets),
      assetWidths: assetWidths(placed.assets),
      plants: [],
      tiles: level.tiles,
      stack: terrain.stack,
      markers: presentMarkers(level),
      assets: placed.assets,
      covers: ofKind(level, 'cover'),
    };
    const { figures } = playerBody(level);
    return [
      ...speciesSnags(input, plants.grown),
      ...plantsInWay({ grown: plants.grown, species: plants.byId, assets: placed.assets, stack: terrain.stack, markers: presentMarkers(level), body: figures }),
    ];
  }

  get list(): readonly Snag[] {
    return (this.made ??= this.at(this.host.cost.places));
  }
}
