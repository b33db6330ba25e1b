import { expose } from 'comlink';
import { grow, type GrowthInput } from '@rammer/core/growth/grow';
import { GrowthRoom } from '@rammer/core/growth/growthRoom';
import type { Plants } from '@rammer/core/growth/plants';
import { densityMap, type DensityMap } from '@rammer/core/growth/densityMap';
import { ruleShares, type RuleShares } from '@rammer/core/growth/ruleShares';
import { sowArea, type AreaOrder, type AreaPlan } from '@rammer/core/growth/sowArea';
import { whyHere, type Why } from '@rammer/core/growth/why';
import { HostsMirror } from '@rammer/core/scene/hosts';
import { growthInput, type PlantsInput } from '@rammer/core/scene/plantsInput';

const hosts = new HostsMirror();
const room = new GrowthRoom();
let input: GrowthInput | undefined;
let grown: Plants[] = [];

const api = {
  /** Grows every species of a level anew. */
  grow(given: PlantsInput): Plants[] {
    input = growthInput(given, hosts);
    grown = grow(input, undefined, undefined, room);
    return grown;
  },
  /** What sowing an area would come to, of what was grown last. @returns in words why it cannot be */
  area(order: AreaOrder): AreaPlan | string {
    return input ? sowArea(input, grown, order) : 'nothing has grown yet: ask again in a moment';
  },
  /** How densely plants stand, of what was grown last. */
  density(): DensityMap | undefined {
    return input && densityMap(grown, input.terrain.grid);
  },
  /** Where the rule of a species lets it grow, of what was grown last. */
  shares(species: string): RuleShares | undefined {
    return input && ruleShares(input, grown, species);
  },
  /** Why a species grows at a point or not, of what was grown last. */
  why(species: string, x: number, z: number): Why | undefined {
    return input && whyHere(input, grown, species, x, z);
  },
};

export type GrowthWorker = typeof api;
expose(api);
