import { liftStack, type Level } from '@rammer/core/level/level';
import type { ConditionKind, GroundCondition } from '@rammer/core/level/objects';
import { conditionName, unitOf } from '@rammer/core/surface/rules/index';

/** How each kind of condition begins, is drawn (over which values) and stepped. */
export const CONDITIONS: {
  readonly [K in ConditionKind]: {
    first: Omit<Extract<GroundCondition, { by: K }>, 'by' | 'lift'>;
    drawn: [number, number];
    limits: [number, number];
    widest: number;
    step: number;
  };
} = {
  slope: { first: { band: [35, 90], soft: 8 }, drawn: [0, 90], limits: [0, 90], widest: 60, step: 1 },
  height: { first: { band: [0, 10], soft: 2 }, drawn: [-10, 50], limits: [-2000, 3000], widest: 500, step: 1 },
  water: { first: { band: [-50, 0.5], soft: 0.4 }, drawn: [-2, 10], limits: [-500, 3000], widest: 200, step: 0.1 },
  shore: { first: { band: [-50, 2], soft: 2 }, drawn: [-10, 20], limits: [-5000, 5000], widest: 500, step: 0.5 },
  curvature: { first: { band: [0.1, 50], soft: 0.1, over: 3 }, drawn: [-1, 1], limits: [-100, 100], widest: 50, step: 0.05 },
  noise: { first: { band: [0.5, 1], soft: 0.15, seed: 1, scale: 12 }, drawn: [0, 1], limits: [0, 1], widest: 1, step: 0.05 },
  scour: { first: { band: [0.1, 50], soft: 0.1 }, drawn: [0, 1], limits: [0, 500], widest: 50, step: 0.05 },
  settle: { first: { band: [0.1, 50], soft: 0.1 }, drawn: [0, 1], limits: [0, 500], widest: 50, step: 0.05 },
  runoff: { first: { band: [0.3, 1], soft: 0.2 }, drawn: [0, 1], limits: [0, 1], widest: 1, step: 0.05 },
  route: { first: { band: [-50, 1.5], soft: 1 }, drawn: [-4, 14], limits: [-50, 60], widest: 100, step: 0.25 },
  lift: { first: { band: [0.2, 500], soft: 0.2 }, drawn: [-3, 3], limits: [-500, 500], widest: 50, step: 0.1 },
};
export const CONDITION_KINDS = Object.keys(CONDITIONS) as ConditionKind[];

/** A condition of a kind as it begins; `undefined` where the level has nothing it could go by. */
export function firstCondition(level: Level, by: ConditionKind): GroundCondition | undefined {
  const lift = liftStack(level).find((l) => l.lift === 'landform') ?? liftStack(level)[0];
  if (by === 'lift' && !lift) return undefined;
  return { by, ...CONDITIONS[by].first, ...(by === 'lift' ? { lift: lift.id } : {}) } as GroundCondition;
}

const end = (v: number, by: ConditionKind): string => `${Number(v.toFixed(2))}${unitOf(by) === '°' ? '°' : ''}`;

/** A condition in a few words: `slope over 32°`, `from shore under 2 m`. */
export function conditionWords({ by, band: [low, high] }: GroundCondition): string {
  const { drawn } = CONDITIONS[by];
  const name = conditionName(by);
  const unit = unitOf(by) === 'm' ? ' m' : '';
  if (high >= drawn[1] && low > drawn[0]) return `${name} over ${end(low, by)}${unit}`;
  if (low <= drawn[0] && high < drawn[1]) return `${name} under ${end(high, by)}${unit}`;
  return `${name} ${end(low, by)} to ${end(high, by)}${unit}`;
}
