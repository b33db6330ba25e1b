import { wholeRect, type Rect } from '../../earth/rect';
import type { GroundCondition, GrowthCondition, GrowthConditionKind, GrowthWhere, Habitat, Species } from '../../level/objects';
import { inBand } from '../../num/band';
import { clamp } from '../../num/vec';
import { bandEnds, conditionName, readyCondition, unitOf } from '../../surface/rules';
import type { WhyPart } from '../../surface/why';
import type { Plants } from '../plants';
import type { PlaceKind, WhereSource } from './field';
import { canopy } from './canopy';
import { doorway } from './doorway';
import { marker } from './marker';
import { outline } from './outline';
import { plants } from './plants';
import { side } from './side';
import { block, piece } from './standing';
import { walk } from './walk';

export type { Outlined, Walking, WhereSource } from './field';

type PlaceConditionKind = Exclude<GrowthConditionKind, GroundCondition['by']>;

/** Conditions that growth alone has; adding one is adding a file and a line here. All others are those of the ground. */
const PLACES = { side, block, piece, doorway, marker, outline, walk, plants, canopy } as const;
const isPlace = (by: GrowthConditionKind): by is PlaceConditionKind => by in PLACES;

/** What a condition of growth is called. */
export const growthConditionName = (by: GrowthConditionKind): string => (isPlace(by) ? (PLACES[by].name ?? by) : conditionName(by));

/** What a condition's band is given in: `m`, `°` or nothing. */
export const growthUnitOf = (by: GrowthConditionKind): string => (isPlace(by) ? PLACES[by].unit : unitOf(by));

interface Ready {
  of: GrowthWhere;
  /** 0 to 1 at a place, metres */
  share(x: number, z: number): number;
  value(x: number, z: number): number;
}

/** A rule's conditions made ready. */
export interface ReadyWhere {
  /** how much all of them let in at a place, metres; 0 to 1 */
  share(x: number, z: number): number;
  /** each of them with its value there, as it is told */
  parts(x: number, z: number): WhyPart[];
}

/**
 * Makes the conditions of a rule of growth ready. Those of the ground are the ground's own, at the sample nearest to a place,
 * bit for bit; the others are of the place itself.
 *
 * @param rect samples that may be asked
 */
export function readyWhere(where: readonly GrowthWhere[], source: WhereSource, rect: Rect = wholeRect(source.terrain.grid)): ReadyWhere {
  const groups: Ready[][] = [];
  for (const of of where) {
    const ready = readyOne(of, source, rect);
    if (of.or && groups.length > 0) groups[groups.length - 1].push(ready);
    else groups.push([ready]);
  }
  return {
    share(x, z) {
      let share = 1;
      for (let g = 0; g < groups.length && share > 0; g++) {
        const group = groups[g];
        let most = 0;
        for (let k = 0; k < group.length && most < 1; k++) most = Math.max(most, group[k].share(x, z));
        share *= most;
      }
      return share;
    },
    parts: (x, z) => groups.flat().map((ready) => partOf(ready, x, z)),
  };
}

function readyOne(of: GrowthWhere, source: WhereSource, rect: Rect): Ready {
  const { share, value } = isPlace(of.is.by) ? placeAt(of.is, source) : sampleAt(of.is as GroundCondition, source, rect);
  return { of, value, share: of.not ? (x, z) => 1 - share(x, z) : share };
}

function placeAt(condition: GrowthCondition, source: WhereSource): Omit<Ready, 'of'> {
  const field = (PLACES[condition.by as PlaceConditionKind] as PlaceKind<GrowthCondition>).make(condition, source);
  const ends = bandEnds(condition, field);
  return { share: (x, z) => inBand(ends, field.at(x, z)), value: (x, z) => field.at(x, z) };
}

function sampleAt(condition: GroundCondition, source: WhereSource, rect: Rect): Omit<Ready, 'of'> {
  const ready = readyCondition(condition, source, rect);
  const perSample = 1 / source.terrain.grid.spacing;
  const sample = (v: number, low: number, high: number) => clamp(Math.round(v * perSample), low, high);
  const asked = (ask: (x: number, z: number) => number) => (x: number, z: number) => ask(sample(x, rect.x0, rect.x1), sample(z, rect.z0, rect.z1));
  return { share: asked(ready.share), value: asked(ready.value) };
}

/** What the conditions of growth look at, of what plants grow from. @param grown what has taken its place before; it may go on */
export const whereSource = (
  {
    terrain,
    stack = [],
    tiles,
    waters,
    blocks,
    meshes,
    markers = [],
    doorways = [],
    outlines = [],
    walker,
    species,
    assetHeights,
    assetWidths = new Map(),
  }: WhereInput,
  grown: readonly Plants[],
): WhereSource => ({
  terrain,
  stack,
  tiles,
  waters,
  blocks,
  meshes,
  markers,
  doorways,
  outlines,
  ...(walker ? { walker } : {}),
  grown,
  species,
  heights: assetHeights,
  widths: assetWidths,
});

/** Of what plants grow from, what conditions look at. */
type WhereInput = Omit<WhereSource, 'grown' | 'stack' | 'markers' | 'doorways' | 'outlines' | 'heights' | 'widths'> &
  Partial<Pick<WhereSource, 'stack' | 'markers' | 'doorways' | 'outlines'>> & { assetHeights: WhereSource['heights']; assetWidths?: WhereSource['widths'] };

const metric = (v: number): string => (Number.isFinite(v) ? (Math.abs(v) >= 100 ? v.toFixed(0) : v.toFixed(Math.abs(v) < 1 ? 2 : 1)) : 'far');

function partOf({ of: { is, not, or }, share, value }: Ready, x: number, z: number): WhyPart {
  const unit = growthUnitOf(is.by);
  const after = unit === '°' ? unit : unit && ` ${unit}`;
  const v = value(x, z);
  return {
    what: `${or ? 'or ' : ''}${not ? 'not ' : ''}${growthConditionName(is.by)}`,
    value: `${Number.isNaN(v) ? 'none here' : `${metric(v)}${Number.isFinite(v) ? after : ''}`}, in ${is.band[0]} to ${is.band[1]}${after}`,
    factor: share(x, z),
  };
}

/** Whether a species' rule looks at something besides what its masks do. */
export const hasWhere = ({ rule }: Pick<Species, 'rule'>): boolean => rule.on && (rule.where?.length ?? 0) > 0;

/** Which kinds of conditions any of some species' rules and habitats goes by. */
export function whereKinds(species: readonly Pick<Species, 'rule'>[], habitats: readonly Habitat[] = []): ReadonlySet<GrowthConditionKind> {
  // In a habitat what a species asks for holds whether its own rule is on or not.
  const asked = species.flatMap((s) => (hasWhere(s) || habitats.length > 0 ? (s.rule.where ?? []) : []));
  const ruled = habitats.flatMap((h) => [...(h.where ?? []), ...h.rules.flatMap((r) => r.where ?? [])]);
  return new Set([...asked, ...ruled].map((w) => w.is.by));
}
