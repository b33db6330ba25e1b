import { ofKind, playerBody, presentMarkers, type Level } from '../../level/level';
import type { Vec3 } from '../../num/vec';
import { withAcceptance } from '../../snag/accept';
import type { Snag } from '../../snag/finding';
import { overBudget } from '../../snag/overBudget';
import { plantMaterials } from '../../snag/plantMaterials';
import { plantTwins } from '../../snag/plantTwins';
import { plantsInWay } from '../../snag/plantsInWay';
import { speciesSnags } from '../../snag/species';
import { tidy } from '../../snag/tidy';
import { tooManyCopies } from '../../snag/tooManyCopies';
import { costEyes, costPlaces, type PlaceCost } from '../../cost/places';
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
    const { level, terrain, placed, plants } = this.host;
    // What grows now tells nothing of what will stand.
    if (plants.running) return [];
    const { figures } = playerBody(level);
    return [
      ...speciesSnags({ ...plants.input(), assets: placed.assets, covers: ofKind(level, 'cover') }, plants.grown),
      ...plantMaterials(plants.species, placed.assets),
      ...plantTwins({ grown: plants.grown, species: plants.byId, assets: placed.assets, eyes: eyesOf(level) }),
      ...plantsInWay({ grown: plants.grown, species: plants.byId, assets: placed.assets, stack: terrain.stack, markers: presentMarkers(level), body: figures }),
    ];
  }

  get list(): readonly Snag[] {
    return (this.made ??= this.at(this.host.cost.places));
  }
}

/** Eyes of a body that the level is looked at from, each once: what one sees all around from one place is told for it once. */
function eyesOf(level: Level): { name: string; at: Vec3 }[] {
  const places = costPlaces(level).filter(({ pose }) => pose.view !== 'plan');
  const eyes = costEyes(level, places).map((at, i) => ({ name: places[i].name.replace(/, looking \w+$/, ''), at }));
  return [...new Map(eyes.map((eye) => [eye.at.join(), eye])).values()];
}
