import { growthUnitOf, growthConditionName } from '@rammer/core/growth/where/index';
import { ofKind, speciesOf, type Level } from '@rammer/core/level/level';
import type { GroundCondition, GrowthCondition, GrowthConditionKind, Species } from '@rammer/core/level/objects';
import type { Band } from '../standing/BandStrip';
import type { BandKind } from '../standing/BandFields';
import { CONDITION_KINDS, CONDITIONS, firstCondition } from '../surface/conditions';

interface PlaceKind extends BandKind {
  first: Omit<GrowthCondition, 'by'> & Record<string, unknown>;
}

/** How each condition that growth alone has begins, is drawn and typed. */
const PLACES: Readonly<Record<Exclude<GrowthConditionKind, GroundCondition['by']>, PlaceKind>> = {
  side: { first: { band: [0, 60], soft: 30, towards: 0 }, drawn: [0, 180], limits: [0, 180], widest: 180, step: 1 },
  block: { first: { band: [1, 200], soft: 1 }, drawn: [0, 20], limits: [0, 200], widest: 200, step: 0.5 },
  piece: { first: { band: [1, 200], soft: 1 }, drawn: [0, 20], limits: [0, 200], widest: 200, step: 0.5 },
  doorway: { first: { band: [2, 100], soft: 1 }, drawn: [0, 20], limits: [0, 100], widest: 100, step: 0.5 },
  outline: { first: { band: [0, 200], soft: 4 }, drawn: [-40, 40], limits: [-200, 200], widest: 100, step: 1 },
  walk: { first: { band: [-200, 0], soft: 1 }, drawn: [-20, 20], limits: [-200, 200], widest: 100, step: 0.5 },
  marker: { first: { band: [6, 200], soft: 3 }, drawn: [0, 40], limits: [0, 200], widest: 200, step: 1 },
  plants: { first: { band: [0, 3], soft: 1 }, drawn: [0, 12], limits: [0, 100], widest: 100, step: 0.25 },
  canopy: { first: { band: [0, 0.2], soft: 0.2 }, drawn: [0, 1], limits: [0, 1], widest: 1, step: 0.05 },
};
type PlaceConditionKind = keyof typeof PLACES;
const isPlace = (by: GrowthConditionKind): by is PlaceConditionKind => by in PLACES;

/** Kinds in the order they are offered. */
export const GROWTH_CONDITION_KINDS: readonly GrowthConditionKind[] = [...CONDITION_KINDS, ...(Object.keys(PLACES) as PlaceConditionKind[])];

/** Species that take their place before one: its rule may go by their plants. */
export const speciesBefore = (level: Level, species: Species): Species[] => {
  const list = speciesOf(level);
  return list.slice(
    0,
    list.findIndex((s) => s.id === species.id),
  );
};

/** What a rule may lie inside: the play bounds, and habitats of which something is drawn. */
export const drawnOnes = (level: Level): { id: string; name: string }[] => [
  ...ofKind(level, 'playBounds').map(({ id }) => ({ id, name: 'play bounds' })),
  ...ofKind(level, 'habitat').filter((h) => h.outlines.length > 0),
];

/** A condition of a kind as it begins; `undefined` where the level has nothing it could go by. @param species those that take their place earlier */
export function firstGrowthCondition(level: Level, species: readonly Species[], by: GrowthConditionKind): GrowthCondition | undefined {
  if (!isPlace(by)) return firstCondition(level, by);
  const of = by === 'outline' ? drawnOnes(level)[0] : undefined;
  if (by === 'outline' && !of) return undefined;
  const before = by === 'plants' ? species[0] : undefined;
  if ((by === 'plants' || by === 'canopy') && species.length === 0) return undefined;
  return { by, ...PLACES[by].first, ...(before ? { species: before.id } : {}), ...(of ? { of: of.id } : {}) } as GrowthCondition;
}

/** A condition as its fields are drawn and typed. */
export function growthBand({ by, band, soft }: GrowthCondition): Band & BandKind {
  return { ...(isPlace(by) ? PLACES[by] : CONDITIONS[by]), name: growthConditionName(by), unit: growthUnitOf(by), band, soft };
}
