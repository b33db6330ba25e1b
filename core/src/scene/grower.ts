import { GrowthRoom } from '../growth/growthRoom';
import type { Plants } from '../growth/plants';
import { growAgain, type LastGrowth } from '../growth/regrow';
import { HostsMirror } from './hosts';
import { growthInput, type PlantsInput } from './plantsInput';

/**
 * Grows a level again and again as its worker does: what is sent is its own, and it knows what grew last. What is touched alone grows
 * again where that can be.
 */
export class Grower {
  /** what grew last, and from what; nothing where that failed */
  last?: LastGrowth;
  private readonly hosts = new HostsMirror();
  private readonly room = new GrowthRoom();

  /** @param given copied: rasters the sender goes on changing are no record of what grew from them */
  grow(given: PlantsInput): Plants[] {
    const before = this.last;
    // Where it cannot be grown nothing is known of what stands.
    this.last = undefined;
    const input = growthInput(given, this.hosts);
    const grown = growAgain(before, input, this.hosts.moved, this.room, given.touched);
    this.last = { input, grown };
    return grown;
  }
}
