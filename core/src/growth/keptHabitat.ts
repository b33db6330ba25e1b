import { ofKind, type Level } from '../level/level';
import { parseObject, type GrowthWhere, type Habitat, type LevelObject, type Species, type Surface } from '../level/objects';
import { surfacesOf } from '../surface/surfaces';
import { meshesOf } from './meshes';

/**
 * A habitat kept for other levels: itself without its outlines, the species of its rules and those they go by, their meshes' objects,
 * and the surfaces they name. Plain objects of a level, as they are in a package.
 */
export type KeptHabitat = readonly LevelObject[];

/** What of a level a habitat needs to grow elsewhere. What its rules name and the level has no more is left out of them. */
export function keepHabitat(level: Level, habitat: Habitat): KeptHabitat {
  const all = new Map(ofKind(level, 'species').map((s) => [s.id, s]));
  const species = new Map<string, Species>();
  const add = (id: string | undefined): void => {
    const s = all.get(id ?? '');
    if (!s || species.has(s.id)) return;
    species.set(s.id, s);
    add(s.about?.species);
    for (const w of s.rule.where ?? []) if (w.is.by === 'plants') add(w.is.species);
  };
  const rules = habitat.rules.flatMap((r) => {
    const mix = r.mix.filter((m) => all.has(m.species));
    const children = r.children?.filter((c) => all.has(c.species) && (c.about === undefined || all.has(c.about)));
    return mix.length > 0 ? [{ ...r, mix, ...(children ? { children } : {}) }] : [];
  });
  for (const r of rules) for (const { species: id } of [...r.mix, ...(r.children ?? [])]) add(id);
  for (const r of rules) for (const w of r.where ?? []) if (w.is.by === 'plants') add(w.is.species);
  const list = [...species.values()].sort((a, b) => a.order - b.order || (a.id < b.id ? -1 : 1));
  const wanted = new Set(list.flatMap((s) => meshesOf(s).map((m) => m.asset)));
  const named = new Set(list.flatMap((s) => s.rule.grounds));
  return [
    ...ofKind(level, 'asset').filter((a) => wanted.has(a.id)),
    ...surfacesOf(level).surfaces.filter((s) => named.has(s.id)),
    ...list,
    { ...habitat, rules, outlines: [] },
  ];
}

/** The habitat of one that was kept. */
export const habitatIn = (kept: KeptHabitat): Habitat => kept.find((o): o is Habitat => o.kind === 'habitat')!;

/** Reads one that was kept. @returns nothing where it is none */
export function readKept(value: unknown): KeptHabitat | undefined {
  if (!Array.isArray(value)) return undefined;
  const objects = value.flatMap((o) => {
    const parsed = parseObject(o);
    return parsed.ok ? [parsed.object] : [];
  });
  const known = objects.every((o) => ['asset', 'surface', 'species', 'habitat'].includes(o.kind));
  return objects.length === value.length && known && objects.filter((o) => o.kind === 'habitat').length === 1 ? objects : undefined;
}

/**
 * What a level gets for a habitat that was kept elsewhere: its own species of the same name and mesh stand for those that were kept,
 * what it has not is added; the surfaces it has by id or name stand for those named. Ways and lifts are of the other level: a condition
 * goes by any way, and one of a lift or of an outline is left out.
 *
 * @param newId an id for an object of a kind
 * @returns objects to add, the habitat last
 */
export function habitatFrom(level: Level, kept: KeptHabitat, newId: (kind: string) => string): LevelObject[] {
  const ids = new Map<string, string>();
  const out: LevelObject[] = [];
  const own = { assets: ofKind(level, 'asset'), species: ofKind(level, 'species'), surfaces: surfacesOf(level).surfaces };
  let order = Math.max(-1, ...own.species.map((s) => s.order));
  for (const o of kept) {
    if (o.kind === 'surface') {
      const here = surfaceLike(own.surfaces, o);
      if (here) ids.set(o.id, here.id);
    }
    if (o.kind === 'asset') {
      const here = own.assets.find((a) => a.hash === o.hash);
      ids.set(o.id, here?.id ?? newId('asset'));
      if (!here) out.push({ ...o, id: ids.get(o.id)!, version: 1 });
    }
  }
  const species = kept.filter((o): o is Species => o.kind === 'species');
  for (const s of species) {
    const here = own.species.find((o) => o.name === s.name && ids.get(s.asset) === o.asset);
    ids.set(s.id, here?.id ?? newId('species'));
  }
  for (const s of species) {
    if (own.species.some((o) => o.id === ids.get(s.id))) continue;
    out.push({
      ...s,
      id: ids.get(s.id)!,
      version: 1,
      order: ++order,
      asset: ids.get(s.asset) ?? s.asset,
      ...(s.meshes ? { meshes: s.meshes.map((m) => ({ ...m, asset: ids.get(m.asset) ?? m.asset })) } : {}),
      ...(s.with ? { with: s.with.flatMap((id) => ids.get(id) ?? []) } : {}),
      ...(s.about ? { about: { ...s.about, species: ids.get(s.about.species) ?? s.about.species } } : {}),
      rule: { ...s.rule, on: false, grounds: s.rule.grounds.flatMap((g) => ids.get(g) ?? []), ...whereFrom(s.rule.where, ids, level) },
    });
  }
  const habitat = habitatIn(kept);
  const rules = habitat.rules.map((r) => ({
    ...r,
    mix: r.mix.map((m) => ({ ...m, species: ids.get(m.species)! })),
    ...(r.children
      ? { children: r.children.map((c) => ({ ...c, species: ids.get(c.species)!, ...(c.about === undefined ? {} : { about: ids.get(c.about)! }) })) }
      : {}),
    ...whereFrom(r.where, ids, level),
  }));
  return [...out, { ...habitat, id: newId('habitat'), version: 1, outlines: [], rules, ...whereFrom(habitat.where, ids, level) }];
}

const surfaceLike = (own: readonly Surface[], s: Surface): Surface | undefined => own.find((o) => o.id === s.id) ?? own.find((o) => o.name === s.name);

/** Conditions in another level: of a lift or an outline there is nothing to go by, unless it has that very one. */
function whereFrom(where: readonly GrowthWhere[] | undefined, ids: ReadonlyMap<string, string>, level: Level): { where?: GrowthWhere[] } {
  if (!where) return {};
  const next = where.flatMap((w): GrowthWhere[] => {
    if (w.is.by === 'lift' || (w.is.by === 'outline' && !level.object(w.is.of))) return [];
    if (w.is.by === 'plants') return ids.has(w.is.species) ? [{ ...w, is: { ...w.is, species: ids.get(w.is.species)! } }] : [];
    if (w.is.by !== 'route') return [w];
    const { route: _, ...any } = w.is;
    return [{ ...w, is: any }];
  });
  if (next.length === 0) return { where: undefined };
  const [{ or: _, ...first }, ...rest] = next;
  return { where: [first, ...rest] };
}
