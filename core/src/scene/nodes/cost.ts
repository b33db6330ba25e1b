import { costEyes, costPlaces, placeCosts, type PlaceCost } from '../../cost/places';
import type { Pose } from '../../level/objects';
import type { DEVICES } from '../../cost/frame';
import type { Dirt, Node } from '../node';
import type { DrawablesHost, DrawablesNode } from './drawables';

export interface CostHost extends DrawablesHost {
  readonly drawables: DrawablesNode;
}

/** What a level costs at the places it is measured from. Made when it is asked for. */
export class CostNode implements Node {
  readonly name = 'cost';
  // Places are viewpoints, the entry and the objective, seen from the player's eye.
  readonly aspects = ['markers', 'notes'] as const;
  readonly channels = [] as const;
  readonly from = ['drawables'] as const;
  readonly running = false;

  private made?: PlaceCost[];

  constructor(private readonly host: CostHost) {}

  follow(): Dirt {
    this.made = undefined;
    return true;
  }

  /** The dearest first; nothing where a level has no place. */
  get places(): readonly PlaceCost[] {
    return (this.made ??= this.at(costPlaces(this.host.level)));
  }

  /** The same at other places, or on another device than the level's own. */
  at(places: { name: string; pose: Pose }[], device?: keyof typeof DEVICES): PlaceCost[] {
    const { level, drawables, cover, terrain } = this.host;
    const list = new Map([...drawables.list, ...cover.drawables(costEyes(level, places))].map((d) => [d.key, d]));
    return placeCosts(level, [...list.values()], terrain.value.grid.spacing, places, device);
  }
}
