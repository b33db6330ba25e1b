import { expose } from 'comlink';
import { grow, type GrowthInput } from '@rammer/core/growth/grow';
import type { Plants } from '@rammer/core/growth/plants';
import { whyHere, type Why } from '@rammer/core/growth/why';
import { GrowthHosts, type PlantsInput } from '@rammer/core/scene/plantsInput';

const hosts = new GrowthHosts();
let input: GrowthInput | undefined;
let grown: Plants[] = [];

const api = {
  /** Grows every species of a level anew. */
  grow(given: PlantsInput): Plants[] {
    input = hosts.take(given);
    grown = grow(input);
    return grown;
  },
  /** Why a species grows at a point or not, of what was grown last. */
  why(species: string, x: number, z: number): Why | undefined {
    return input && whyHere(input, grown, species, x, z);
  },
};

export type GrowthWorker = typeof api;
expose(api);
