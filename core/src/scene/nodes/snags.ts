import { withAcceptance } from '../../snag/accept';
import type { Snag } from '../../snag/finding';
import { overBudget } from '../../snag/overBudget';
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
    const found = [...(walkAreas.value?.snags ?? []), ...overBudget(level, places), ...tooManyCopies(level), ...tidy(level)];
    return found.map((snag) => withAcceptance(level, snag));
  }

  get list(): readonly Snag[] {
    return (this.made ??= this.at(this.host.cost.places));
  }
}
