import { expose, transfer } from 'comlink';
import { grow, type GrowthInput } from '@rammer/core/growth/grow';
import type { Plants } from '@rammer/core/growth/plants';
import { packPlants, type PackedPlants } from '@rammer/core/growth/packedPlants';
import { densityMap, type DensityMap } from '@rammer/core/growth/densityMap';
import { ruleShares, type RuleShares } from '@rammer/core/growth/ruleShares';
import { sowArea, type AreaOrder, type AreaPlan } from '@rammer/core/growth/sowArea';
import { whyHere, type Why } from '@rammer/core/growth/why';
import { Grower } from '@rammer/core/scene/grower';
import type { PlantsInput } from '@rammer/core/scene/plantsInput';

const grower = new Grower();

const api = {
  /** Grows every species of a level: what changed since the last time touches, or all anew. Packed: see `unpacked`. */
  grow(given: PlantsInput): PackedPlants[] {
    const grown = grower.grow(given).map(packPlants);
    return transfer(grown, grown.flatMap(packedBuffers));
  },
  /** What would grow of other species or habitats in the place of these, of what was grown last. */
  tried(other: Pick<GrowthInput, 'species' | 'habitats'>): Plants[] | undefined {
    return grower.last && grow({ ...grower.last.input, ...other });
  },
  /** What sowing an area would come to, of what was grown last. @returns in words why it cannot be */
  area(order: AreaOrder): AreaPlan | string {
    const { last } = grower;
    return last ? sowArea(last.input, last.grown, order) : 'nothing has grown yet: ask again in a moment';
  },
  /** How densely plants stand, of what was grown last. */
  density(): DensityMap | undefined {
    const { last } = grower;
    return last && densityMap(last.grown, last.input.terrain.grid);
  },
  /** Where a rule lets something grow, of what was grown last: see `ruleShares`. */
  shares(of: string): RuleShares | undefined {
    const { last } = grower;
    return last && ruleShares(last.input, last.grown, of);
  },
  /** Why a species grows at a point or not, of what was grown last. */
  why(species: string, x: number, z: number): Why | undefined {
    const { last } = grower;
    return last && whyHere(last.input, last.grown, species, x, z);
  },
};

/** What of packed plants is theirs alone: looks are the grower's too. */
const packedBuffers = (p: PackedPlants): ArrayBuffer[] =>
  Object.values(p).flatMap((v) => (ArrayBuffer.isView(v) && v !== p.look && v.byteLength > 0 ? [v.buffer as ArrayBuffer] : []));

export type GrowthWorker = typeof api;
expose(api);
