import { grownRect, wholeRect, type Rect } from '../earth/rect';
import { clamp } from '../num/vec';
import type { WhyPart } from '../surface/why';
import type { GrowthInput } from './grow';
import { habitatAreas, type HabitatArea } from './habitatArea';
import { masksOf, type Masks } from './masks';
import type { Pass } from './passes';
import { pattern } from './pattern';
import { MOST_SOWN, sownAt, sownTiles, type Sown } from './sown';
import type { Plants } from './plants';
import { hostsOf, ruleAt, spotAt, type Hosts } from './spot';
import { readyWhere, whereSource, type ReadyWhere, type WhereSource } from './where';

/** What passes are made ready from. */
export interface Judge {
  input: GrowthInput;
  hosts: Hosts;
  /** ids of the level's surfaces, in their order */
  surfaces: readonly string[];
  source: WhereSource;
  /** where each habitat lies */
  areas: ReadonlyMap<string, HabitatArea>;
  /** samples that may be asked; all where absent */
  rect: Rect | undefined;
}

/**
 * What a pass is made ready from where everything has grown already.
 *
 * @param before what took its place before it
 * @param rect samples that may be asked; all where absent
 */
export function judgeOf(input: GrowthInput, before: readonly Plants[], rect?: Rect): Judge {
  const source = whereSource(input, before);
  const habitats = input.habitats ?? [];
  const areas = habitatAreas(habitats, source, rect ?? wholeRect(input.terrain.grid));
  return {
    input,
    hosts: hostsOf(input),
    surfaces: input.ground.surfaces.map((s) => s.id),
    source,
    areas: new Map(habitats.map((h, i) => [h.id, areas[i]])),
    rect,
  };
}

/** A pass made ready: its masks, what it goes by besides with where its habitat lies, and what is sown. */
export interface ReadyPass {
  pass: Pass;
  masks: Masks;
  where: ReadyWhere | undefined;
  sown: Sown;
  box: HabitatArea['box'];
}

const NOTHING_SOWN: Pick<Sown, 'tiles' | 'any'> = { tiles: [], any: false };

/** Makes a pass ready. What was cleared by hand is cleared of all rules; what was sown is of a species' own. */
export function readyPass({ input, surfaces, source, areas, rect }: Judge, pass: Pass): ReadyPass {
  const { species, habitat } = pass;
  const { grid } = input.terrain;
  const sown = sownTiles(input.tiles, grid, species.id);
  const asked = species.rule.on && species.rule.where && species.rule.where.length > 0;
  const where = asked ? readyWhere(species.rule.where!, source, rect && grownRect(rect, 1, grid)) : undefined;
  const masks = masksOf(species, surfaces);
  if (!habitat) return { pass, masks, where, sown, box: undefined };
  const area = areas.get(habitat.id)!;
  return { pass, masks, where: inHabitat(pass, area, where, sown), sown: { ...sown, ...NOTHING_SOWN }, box: area.box };
}

function inHabitat({ habitat }: Pass, area: HabitatArea, where: ReadyWhere | undefined, sown: Sown): ReadyWhere {
  const left = (x: number, z: number) => (sown.any ? 1 + clamp(sownAt(sown, x, z), -1, 0) : 1);
  return {
    share(x, z) {
      const share = area.share(x, z) * left(x, z);
      return share > 0 && where ? share * where.share(x, z) : share;
    },
    parts(x, z): WhyPart[] {
      const here = area.share(x, z);
      const cleared = left(x, z);
      return [
        { what: habitat!.name, value: here === 0 ? 'not here' : `${Math.round(here * 100)} % of the ground here`, factor: here },
        ...area.parts(x, z),
        ...(cleared < 1 ? [{ what: 'cleared by brush', value: `${Math.round(cleared * 100)} % is left`, factor: cleared }] : []),
        ...(where?.parts(x, z) ?? []),
      ];
    },
  };
}

/** What chance a pass gives the places of its pattern. */
export interface PassChance {
  /** where just its density is wanted */
  scale: number;
  /** at a place, metres; 0 to 1 */
  at(x: number, z: number): number;
  most: number;
}

/** The chance of a pass at any place: slower than growing, for where several rules of one species meet. */
export function chanceOf({ input, hosts }: Judge, { pass: { species }, masks, where, sown }: ReadyPass): PassChance {
  const p = pattern(species.seed);
  const period = p.side * species.spacing;
  const scale = species.density / 100 / (p.count / (period * period));
  const most = (species.ceiling ?? Infinity) / 100 / (p.count / (period * period));
  const spot = { height: 0, gradient: 0, top: false };
  return {
    scale,
    at(x, z) {
      const rule = ruleAt(input, masks, spotAt(input, hosts, x, z, spot), x, z);
      const share = (rule > 0 && where ? rule * where.share(x, z) : rule) + (sown.any ? sownAt(sown, x, z) : 0);
      return clamp(scale * clamp(share, 0, MOST_SOWN), 0, Math.min(1, most));
    },
    most: Math.min(1, most, scale * ((masks.on ? 1 : 0) + (sown.any ? MOST_SOWN : 0))),
  };
}

/** Of several passes of one species together: what any of them lets in. */
export const together = (list: readonly PassChance[]): { at(x: number, z: number): number; most: number } => ({
  at: (x, z) => list.reduce((sum, c) => sum + c.at(x, z), 0),
  most: list.reduce((sum, c) => sum + c.most, 0),
});
