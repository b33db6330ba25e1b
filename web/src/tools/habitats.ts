import { HABITAT_RECIPES, recipeRules, type Known } from '@rammer/core/growth/habitatRecipes';
import { mixOf } from '@rammer/core/growth/mix';
import { likelyGrowsAs } from '@rammer/core/growth/growsAs';
import { assetFacts } from '@rammer/core/kit/asset';
import { speciesOf } from '@rammer/core/level/level';
import { MOST_RULES, type Habitat, type HabitatRule } from '@rammer/core/level/objects';
import { insertInOrder, moveInOrder } from '@rammer/core/level/ordered';
import type { Point2 } from '@rammer/core/num/outline';
import { newId, nextName } from '../store/names';
import { allHabitats, chosenSpecies, usePlanting } from '../store/planting';
import { habitatFrom, habitatIn, keepHabitat, type KeptHabitat } from '@rammer/core/growth/keptHabitat';
import { keepOwn } from '../store/ownHabitats';
import type { Session } from '../store/session';

/** The species of a level with what each grows as: as it says, or as its mesh looks. */
function knownSpecies(session: Session): Known[] {
  const { assets } = session.scene.placed;
  return speciesOf(session.level).flatMap((s): Known[] => {
    const asset = assets.get(s.asset);
    const as = s.as ?? (asset && likelyGrowsAs({ name: s.name, role: asset.role, size: assetFacts(asset).size }));
    return as ? [{ id: s.id, density: s.density, as }] : [];
  });
}

/**
 * Adds a habitat after the others and takes it in hand.
 *
 * @param recipe name of one; without, one with no rules yet
 * @param outline where it lies; without, as the recipe says
 */
export function addHabitat(session: Session, recipe?: string, outline?: Point2[]): boolean {
  const list = allHabitats(session.level);
  const of = HABITAT_RECIPES.find((r) => r.name === recipe);
  const rules = of ? recipeRules(of, knownSpecies(session), () => newId('rule')) : [];
  const base = of?.name ?? 'habitat';
  const name = list.some((h) => h.name === base) || !of ? nextName(session.level, base) : base;
  const made: Habitat = {
    id: newId('habitat'),
    version: 1,
    kind: 'habitat',
    name,
    order: 0,
    area: outline ? 'drawn' : (of?.area ?? 'drawn'),
    outlines: outline ? [outline] : [],
    soft: of?.soft ?? 4,
    ...(of?.where ? { where: of.where } : {}),
    rules,
    on: true,
  };
  // One that has the rest stays behind those that are drawn.
  const last = list.findIndex((h) => h.area === 'rest' && !h.where);
  const at = made.area === 'rest' && !made.where ? list.length : last < 0 ? list.length : last;
  if (!session.commit(insertInOrder(list, made, at), `add the habitat ${name}`)) return false;
  usePlanting.setState({ listed: 'habitats', habitat: made.id, rule: undefined });
  return true;
}

/** Keeps a habitat for other levels. */
export function keepHabitatHere(session: Session, habitat: Habitat): void {
  keepOwn(keepHabitat(session.level, habitat));
  session.say(`${habitat.name} is kept: it can be added in any level from here on`);
}

/** Adds a habitat that was kept, before one that has the rest, with the species and meshes the level has not; it is taken in hand. One edit. */
export function addKept(session: Session, kept: KeptHabitat): boolean {
  const list = allHabitats(session.level);
  const { name } = habitatIn(kept);
  const objects = habitatFrom(session.level, kept, newId);
  const made = habitatIn(objects);
  const last = list.findIndex((h) => h.area === 'rest' && !h.where);
  const placed: Habitat = { ...made, name: list.some((h) => h.name === name) ? nextName(session.level, name) : name };
  const others = objects.filter((o) => o !== made);
  const edit = insertInOrder(list, placed, made.area === 'rest' || last < 0 ? list.length : last);
  const parts = edit.kind === 'together' ? edit.parts : [edit];
  const all = others.length > 0 ? { kind: 'together' as const, parts: [{ kind: 'add' as const, objects: others }, ...parts] } : edit;
  if (!session.commit(all, `add the habitat ${placed.name}`)) return false;
  usePlanting.setState({ listed: 'habitats', habitat: placed.id, rule: undefined });
  return true;
}

/** @param set fields; `null` takes an optional one away */
export const setHabitat = (session: Session, habitat: Habitat, set: { [F in keyof Habitat]?: Habitat[F] | null }, words: string): boolean =>
  session.commit({ kind: 'set', patches: [{ id: habitat.id, set }] }, words);

export function placeHabitat(session: Session, habitat: Habitat, to: number): void {
  const edit = moveInOrder(allHabitats(session.level), habitat.id, to);
  if (edit) session.commit(edit, `move ${habitat.name} in the list`);
}

/** Another of it with all its rules, behind it; what is painted stays with the first. */
export function copyHabitat(session: Session, habitat: Habitat): void {
  const list = allHabitats(session.level);
  const made: Habitat = { ...habitat, id: newId('habitat'), version: 1, name: nextName(session.level, habitat.name.replace(/ \d+$/, '')) };
  if (session.commit(insertInOrder(list, made, list.indexOf(habitat) + 1), `duplicate ${habitat.name}`))
    usePlanting.setState({ habitat: made.id, rule: undefined });
}

export const removeHabitat = (session: Session, habitat: Habitat): boolean =>
  session.commit({ kind: 'remove', ids: [habitat.id] }, `delete the habitat ${habitat.name}`);

/** Adds a rule of the species that are picked behind the others, each as frequent as by itself. */
export function addRule(session: Session, habitat: Habitat): void {
  const chosen = chosenSpecies(session.level);
  if (chosen.length === 0) {
    session.say('a rule grows a species: pick a plant in the library first', true);
    return;
  }
  if (habitat.rules.length >= MOST_RULES) {
    session.say(`a habitat has at most ${MOST_RULES} rules: delete one first`, true);
    return;
  }
  const { mix, density } = mixOf(chosen);
  const rule: HabitatRule = { id: newId('rule'), name: chosen[0].name, on: true, mix, density: density || 1 };
  if (setHabitat(session, habitat, { rules: [...habitat.rules, rule] }, `add a rule of ${chosen.map((s) => s.name).join(', ')}`))
    usePlanting.setState({ habitat: habitat.id, rule: rule.id });
}

/** Sets fields of a rule; an optional one that is `undefined` goes. */
export function setHabitatRule(session: Session, habitat: Habitat, rule: HabitatRule, fields: Partial<HabitatRule>, words: string): boolean {
  const next = Object.fromEntries(Object.entries({ ...rule, ...fields }).filter(([, v]) => v !== undefined)) as HabitatRule;
  return setHabitat(session, habitat, { rules: habitat.rules.map((r) => (r.id === rule.id ? next : r)) }, `${words} of ${rule.name}`);
}

/** Moves a rule to a place among those of its habitat, 0 the first. */
export function placeHabitatRule(session: Session, habitat: Habitat, rule: HabitatRule, to: number): void {
  const rest = habitat.rules.filter((r) => r.id !== rule.id);
  const rules = [...rest.slice(0, to), rule, ...rest.slice(to)];
  if (rules.some((r, i) => r.id !== habitat.rules[i].id)) setHabitat(session, habitat, { rules }, `move ${rule.name} in ${habitat.name}`);
}

/** Moves a rule into another habitat, behind its rules. */
export function giveHabitatRule(session: Session, from: Habitat, rule: HabitatRule, to: Habitat): void {
  if (to.rules.length >= MOST_RULES) {
    session.say(`${to.name} has ${MOST_RULES} rules already: delete one first`, true);
    return;
  }
  // Ids are of a habitat: another may have the same.
  const id = to.rules.some((r) => r.id === rule.id) ? newId('rule') : rule.id;
  const patches = [
    { id: from.id, set: { rules: from.rules.filter((r) => r.id !== rule.id) } },
    { id: to.id, set: { rules: [...to.rules, { ...rule, id }] } },
  ];
  if (session.commit({ kind: 'set', patches }, `move ${rule.name} to ${to.name}`)) usePlanting.setState({ habitat: to.id, rule: id });
}

export function removeHabitatRule(session: Session, habitat: Habitat, rule: HabitatRule): void {
  if (setHabitat(session, habitat, { rules: habitat.rules.filter((r) => r.id !== rule.id) }, `delete the rule ${rule.name}`))
    usePlanting.setState({ rule: undefined });
}
