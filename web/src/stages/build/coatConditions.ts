import type { CoatCondition, CoatConditionKind } from '@rammer/core/level/objects';
import type { BandKind } from '../standing/BandFields';

interface KindOfCondition extends BandKind {
  name: string;
  unit: string;
  first: Omit<CoatCondition, 'by'> & Record<string, unknown>;
}

/** What a coat can go by: how each begins, is called, drawn and typed. */
export const COAT_CONDITIONS: Readonly<Record<CoatConditionKind, KindOfCondition>> = {
  facing: { name: 'facing', unit: '°', first: { band: [0, 45], soft: 25 }, drawn: [0, 180], limits: [0, 180], widest: 90, step: 1 },
  side: { name: 'side', unit: '°', first: { band: [0, 60], soft: 30, towards: 0 }, drawn: [0, 180], limits: [0, 180], widest: 90, step: 1 },
  foot: { name: 'over foot', unit: 'm', first: { band: [-50, 0.4], soft: 0.6 }, drawn: [0, 4], limits: [-50, 200], widest: 50, step: 0.1 },
  height: { name: 'height', unit: 'm', first: { band: [10, 500], soft: 2 }, drawn: [-10, 50], limits: [-2000, 3000], widest: 500, step: 1 },
  sky: { name: 'open sky', unit: '', first: { band: [0.6, 1], soft: 0.4 }, drawn: [0, 1], limits: [0, 1], widest: 1, step: 0.05 },
  bend: { name: 'edges', unit: '', first: { band: [0.4, 1], soft: 0.4 }, drawn: [-1, 1], limits: [-1, 1], widest: 2, step: 0.05 },
  noise: { name: 'patches', unit: '', first: { band: [0.5, 1], soft: 0.2, seed: 1, scale: 1 }, drawn: [0, 1], limits: [0, 1], widest: 1, step: 0.05 },
};
export const COAT_CONDITION_KINDS = Object.keys(COAT_CONDITIONS) as CoatConditionKind[];

/** A condition of a kind as it begins. */
export const firstCoatCondition = (by: CoatConditionKind): CoatCondition => ({ by, ...COAT_CONDITIONS[by].first }) as CoatCondition;

/** Names of bearings, clockwise from north. */
export const BEARINGS = ['north', 'north-east', 'east', 'south-east', 'south', 'south-west', 'west', 'north-west'] as const;

const end = (v: number): string => String(Number(v.toFixed(2)));

/** A condition in a few words: `over foot under 0.4 m`. */
export function coatConditionWords({ by, band: [low, high] }: CoatCondition): string {
  const { drawn, name, unit } = COAT_CONDITIONS[by];
  const u = unit === 'm' ? ' m' : unit;
  if (high >= drawn[1] && low > drawn[0]) return `${name} from ${end(low)}${u}`;
  if (low <= drawn[0]) return `${name} to ${end(high)}${u}`;
  return `${name} ${end(low)} to ${end(high)}${u}`;
}
