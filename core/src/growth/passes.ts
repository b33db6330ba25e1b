import type { Habitat, HabitatRule, Species } from '../level/objects';
import { hashText } from '../num/hash';
import { PLANT_STRIDE, type Plants } from './plants';

/** One species growing by one rule: its own, with what is sown of it by hand, or a rule of a habitat. */
export interface Pass {
  /** empty for its own rule; the habitat's id and the rule's, and for what stands about the plants of that rule its number there */
  key: string;
  /** the species with its density, conditions and cluster as they are in this pass */
  species: Species;
  /** its place among the species */
  index: number;
  habitat?: Habitat;
  rule?: HabitatRule;
  /** moves what it draws about others, so that two clusters of a species about one plant are two */
  salt: number;
}

/** What names a rule of a habitat among the passes. */
export const ruleKey = (habitat: Pick<Habitat, 'id'>, rule: Pick<HabitatRule, 'id'>): string => `${habitat.id}/${rule.id}`;

/** The rule a pass is of: empty for a species' own. */
export const ruleOf = ({ key }: Pick<Pass, 'key'>): string => key.split('/').slice(0, 2).join('/');

const amount = (s: Species): number => s.amount ?? 1;

/** What a pass that grows about others grows about: plants of a species that took their place before, of its rule alone where it is of one. */
export const parentsOf = (pass: Pass, grown: readonly Grown[]): Plants[] =>
  grown.flatMap((g) => (g.pass.species.id === pass.species.about?.species && (pass.key === '' || ruleOf(g.pass) === ruleOf(pass)) ? [g.plants] : []));

/** A species with an amount left of what it has by itself. */
function own(s: Species): Species {
  if (s.amount === undefined || s.amount === 1) return s;
  return { ...s, density: s.density * s.amount, ...(s.about ? { about: { ...s.about, chance: s.about.chance * s.amount } } : {}) };
}

/** A species as it grows in a rule of a habitat: what its own rule asks of the ground holds there too, whether that is on or not. */
function inRule(s: Species, rule: HabitatRule, more: Partial<Species>): Species {
  const where = [...(s.rule.where ?? []), ...(rule.where ?? [])];
  const { about: _, ...rest } = s;
  return { ...rest, rule: { ...s.rule, on: true, where }, ...more };
}

/**
 * In which order what grows: each species by its own rule, then the habitats, rule by rule; those that grow of themselves about
 * what habitats grow come last. Whatever comes earlier has its place first.
 *
 * @param species in their order
 * @param habitats those that are on, in their order
 */
export function passesOf(species: readonly Species[], habitats: readonly Habitat[] = []): Pass[] {
  const at = new Map(species.map((s, i) => [s.id, i]));
  const ruled = habitats.flatMap((habitat) => habitat.rules.filter((r) => r.on).flatMap((rule) => passesOfRule(habitat, rule, species, at)));
  const late = new Set(ruled.map((p) => p.species.id));
  const owned = species.map((s, index): Pass => ({ key: '', species: own(s), index, salt: 0 }));
  // In their order: about one that is late itself is late.
  const last = owned.filter((p) => {
    if (!p.species.about || !late.has(p.species.about.species)) return false;
    late.add(p.species.id);
    return true;
  });
  return [...owned.filter((p) => !last.includes(p)), ...ruled, ...last];
}

function passesOfRule(habitat: Habitat, rule: HabitatRule, species: readonly Species[], at: ReadonlyMap<string, number>): Pass[] {
  const key = ruleKey(habitat, rule);
  const all = rule.mix.reduce((sum, m) => sum + m.weight, 0);
  const mixed = rule.mix.flatMap(({ species: id, weight }): Pass[] => {
    const index = at.get(id);
    if (index === undefined) return [];
    const s = species[index];
    return [{ key, species: inRule(s, rule, { density: (rule.density * weight * amount(s)) / all }), index, salt: 0, habitat, rule }];
  });
  const children = (rule.children ?? []).flatMap(({ species: id, about, chance, count, spread, size }, k): Pass[] => {
    const index = at.get(id);
    if (index === undefined) return [];
    const s = species[index];
    const [low, high] = s.height;
    return (about === undefined ? rule.mix.map((m) => m.species) : [about]).map((parent, n) => {
      const name = `${key}/${k}.${n}`;
      const grows = {
        density: 1,
        height: [low * size, high * size] as [number, number],
        about: { species: parent, chance: chance * amount(s), count, spread },
      };
      return { key: name, species: inRule(s, rule, grows), index, salt: parseInt(hashText(name).slice(0, 8), 16) | 0, habitat, rule };
    });
  });
  return [...mixed, ...children];
}

/** What grew in one pass. */
export interface Grown {
  pass: Pass;
  plants: Plants;
}

/** The plants of each species, of all its passes one after the other. */
export function joinedPlants(species: readonly Species[], grown: readonly Grown[]): Plants[] {
  return species.map((s, index) => {
    const mine = grown.filter((g) => g.pass.index === index);
    if (mine.length === 1) return mine[0].plants;
    const count = mine.reduce((n, g) => n + g.plants.count, 0);
    const over = mine.reduce((n, g) => n + (g.plants.over ?? 0), 0);
    const parts = mine.map((g) => g.plants);
    const some = mine.filter((g) => g.plants.count > 0);
    const by = mine.map((g) => ({ pass: g.pass.key, count: g.plants.count }));
    if (some.length === 1) return { ...some[0].plants, ...(over > 0 ? { over } : {}), by };
    // Only its own pass has any that were set by hand: their numbers stay right.
    return {
      species: s.id,
      count,
      place: joined(Float32Array, parts, 'place'),
      look: joined(Uint8Array, parts, 'look'),
      id: joined(Int32Array, parts, 'id'),
      hand: parts.flatMap((p) => p.hand),
      ...(over > 0 ? { over } : {}),
      by,
    };
  });
}

function joined<A extends Float32Array | Uint8Array | Int32Array>(make: new (n: number) => A, parts: readonly Plants[], key: 'place' | 'look' | 'id'): A {
  const out = new make(parts.reduce((n, p) => n + p[key].length, 0));
  let at = 0;
  for (const p of parts) {
    out.set(p[key], at);
    at += p[key].length;
  }
  return out;
}

/** What grew in each pass, of plants that were joined by species. */
export function grownParts(passes: readonly Pass[], plants: readonly Plants[]): Grown[] {
  return passes.map((pass) => {
    const all = plants[pass.index];
    let from = 0;
    for (const { pass: key, count } of all?.by ?? []) {
      if (key === pass.key) return { pass, plants: partOf(all, from, count) };
      from += count;
    }
    return { pass, plants: all && !all.by && pass.key === '' ? all : partOf(all ?? NOTHING, 0, 0) };
  });
}

const NOTHING: Plants = { species: '', count: 0, place: new Float32Array(), look: new Uint8Array(), id: new Int32Array(), hand: [] };

function partOf({ species, place, look, id, hand }: Plants, from: number, count: number): Plants {
  return {
    species,
    count,
    place: place.subarray(from * PLANT_STRIDE, (from + count) * PLANT_STRIDE),
    look: look.subarray(from, from + count),
    id: id.subarray(from * 3, (from + count) * 3),
    hand,
  };
}

/** How many plants grew by a rule, in all. */
export const countOf = (plants: readonly Plants[], rule: string): number =>
  plants.reduce((sum, p) => sum + (p.by ?? []).reduce((n, b) => n + (ruleOf({ key: b.pass }) === rule ? b.count : 0), 0), 0);
