import { openness } from '../kit/openSides';
import type { Assets } from '../kit/placement';
import type { Species } from '../level/objects';
import { assetsOfSpecies } from './meshes';

/** Whether any mesh of a species is open below, so that one would see into it where it leans. Plants have no inside to hide. */
export const openBelow = (s: Pick<Species, 'asset' | 'weight' | 'meshes'>, assets: Assets): boolean =>
  assetsOfSpecies(s, assets).some((asset) => asset !== undefined && asset.role !== 'plant' && openness(asset).hollow.includes('below'));

/** A species as it grows: one that is open below never leans but with the slope under it. The same object where that changes nothing. */
export const upright = (s: Species, assets: Assets): Species => (s.lean > 0 && openBelow(s, assets) ? { ...s, lean: 0 } : s);
