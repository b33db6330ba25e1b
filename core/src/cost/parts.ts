import { assetBounds } from '../kit/asset';
import type { Assets } from '../kit/placement';
import { ofKind, type Level } from '../level/level';
import type { AssetObject, Species } from '../level/objects';

/** The heights of the assets plants are scaled by, by asset object. */
export const assetHeights = (assets: Assets): Map<string, number> => new Map([...assets].map(([id, a]) => [id, Math.max(0.01, assetBounds(a).max[1])]));

/** Half of how wide they are, likewise. */
export const assetWidths = (assets: Assets): Map<string, number> =>
  new Map([...assets].map(([id, a]) => [id, (assetBounds(a).max[0] - assetBounds(a).min[0]) / 2]));

/** Who instances count for, by id: asset objects of pieces and species of plants. */
export const owners = (level: Level): Map<string, AssetObject | Species> =>
  new Map([...ofKind(level, 'asset'), ...ofKind(level, 'species')].map((o) => [o.id, o]));
