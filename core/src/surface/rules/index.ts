import { sharedRect, type Rect } from '../../earth/rect';
import type { ConditionKind, GroundCondition, GroundRule } from '../../level/objects';
import { inBand, type BandEnds } from '../../num/band';
import { curvature } from './curvature';
import type { Tops } from '../tops';
import type { Field, FieldKind, RuleSource } from './field';
import { height } from './height';
import { lift } from './lift';
import { noise } from './noise';
import { route } from './route';
import { shore } from './shore';
import { slope } from './slope';
import { water } from './water';
import { runoff, scour, settle } from './weathering';

export type { RuleSource } from './field';

/** Every kind of condition; adding one is adding a file and a line here. */
const KINDS: { readonly [K in ConditionKind]: FieldKind<Extract<GroundCondition, { by: K }>> } = {
  slope,
  height,
  water,
  shore,
  curvature,
  noise,
  scour,
  settle,
  runoff,
  route,
  lift,
};
const kindOf = (c: GroundCondition): FieldKind<GroundCondition> => KINDS[c.by] as FieldKind<GroundCondition>;

/** What a condition's band is given in: `m`, `°` or nothing. */
export const unitOf = (by: ConditionKind): string => KINDS[by].unit;

/** What a kind of condition is called. */
export const conditionName = (by: ConditionKind): string => KINDS[by].name ?? by;

/** A condition made ready: the share it lets in at a sample, and the value it goes by in its own unit. */
export interface ReadyCondition {
  condition: GroundCondition;
  share(x: number, z: number): number;
  value(x: number, z: number): number;
  /** samples outside which it lets nothing in, where that is known */
  within?: Rect | 'nowhere';
}

/** Where a band begins and ends with its soft edges, half of each on either side of its end, as its field gives values. */
export function bandEnds(
  { band: [low, high], soft }: { band: readonly [number, number]; soft: number },
  { end = (v) => v, open = {} }: Pick<Field, 'end' | 'open'>,
): BandEnds {
  return [
    ...(open.below !== undefined && low <= open.below ? ([-Infinity, -Infinity] as const) : ([end(low - soft / 2), end(low + soft / 2)] as const)),
    ...(open.above !== undefined && high >= open.above ? ([Infinity, Infinity] as const) : ([end(high - soft / 2), end(high + soft / 2)] as const)),
  ];
}

/** A condition made ready for a rectangle: its value and its share (0 to 1) at a sample. @param tops where it lies on tops and not on the terrain */
export function readyCondition(condition: GroundCondition, source: RuleSource, rect: Rect, tops?: Tops): ReadyCondition {
  const kind = kindOf(condition);
  const field: Field = tops ? (kind.onTops?.(condition, source, tops) ?? { at: () => NaN, within: 'nowhere' }) : kind.make(condition, source, rect);
  const { at, read = (v) => v, within } = field;
  const ends = bandEnds(condition, field);
  return {
    condition,
    share: (x, z) => inBand(ends, at(x, z)),
    value: (x, z) => read(at(x, z)),
    within: within !== undefined && inBand(ends, 0) === 0 ? within : undefined,
  };
}

/** A rule made ready: `of` is the place of its surface in the level's list. */
export interface ReadyRule {
  rule: GroundRule;
  of: number;
  conditions: ReadyCondition[];
  /** samples outside which it lays nothing, where that is known */
  rect?: Rect;
  /** Share of its surface at a sample, 0 to 1: the product of its conditions. */
  share(x: number, z: number): number;
}

/** Holds no sample. */
const NOWHERE: Rect = { x0: 0, z0: 0, x1: -1, z1: -1 };

/** Rules that are on and whose surface the level has, in the order given. @param tops made ready for these, not for the ground */
export function readyRules(rules: readonly GroundRule[], surfaces: readonly { id: string }[], source: RuleSource, rect: Rect, tops?: Tops): ReadyRule[] {
  return rules.flatMap((rule) => {
    const of = surfaces.findIndex((s) => s.id === rule.surface);
    if (!rule.on || of < 0 || rule.share === 0) return [];
    const conditions = rule.where.map((c) => readyCondition(c, source, rect, tops));
    const asked = [...conditions].sort((a, b) => kindOf(a.condition).cost - kindOf(b.condition).cost);
    let within: Rect | undefined;
    for (const c of conditions) {
      if (c.within === undefined) continue;
      const left = c.within === 'nowhere' ? undefined : sharedRect(c.within, within ?? c.within);
      if (!left) return [{ rule, of, conditions, rect: NOWHERE, share: () => 0 }];
      within = left;
    }
    return [
      {
        rule,
        of,
        conditions,
        rect: within,
        share(x: number, z: number) {
          let share = rule.share;
          for (let i = 0; i < asked.length && share > 0; i++) share *= asked[i].share(x, z);
          return share;
        },
      },
    ];
  });
}

/** Whether a condition has a value on tops of what stands on the terrain. */
export const holdsOnTops = (by: ConditionKind): boolean => KINDS[by].onTops !== undefined;

/** How many samples around one the rules look at. */
export function rulesReach(rules: readonly GroundRule[], spacing: number): number {
  let metres = 0;
  for (const { on, where } of rules) if (on) for (const c of where) metres = Math.max(metres, kindOf(c).around?.(c, spacing) ?? 0);
  return Math.ceil(metres / spacing);
}

/** Whether a rule looks at waters, or at lifts: then one that changes may change the ground anywhere. */
export const rulesLookAt = (rules: readonly GroundRule[], what: 'waters' | 'lifts'): boolean =>
  rules.some((r) => r.on && r.where.some((c) => kindOf(c).looksAt === what));
