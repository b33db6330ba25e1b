import { MOST_MIX, type HabitatRule, type Species } from '../level/objects';

/** What a rule of some species grows. */
export interface Mix {
  mix: HabitatRule['mix'];
  /** on 100 m2 */
  density: number;
}

/**
 * A mix in which species are as frequent against each other as by themselves.
 *
 * @param times against the mean of their densities on 100 m2; where absent all together are as dense as each by itself: their sum
 * @returns weights to two digits; all alike where none has a density of its own
 */
export function mixOf(species: readonly Pick<Species, 'id' | 'density'>[], times?: number): Mix {
  const list = species.slice(0, MOST_MIX);
  const mean = list.reduce((sum, s) => sum + s.density, 0) / Math.max(1, list.length);
  const weight = (s: { density: number }) => (mean > 0 ? Math.min(100, Math.max(0.01, Math.round((s.density / mean) * 100) / 100)) : 1);
  return { mix: list.map((s) => ({ species: s.id, weight: weight(s) })), density: Math.min(2000, Math.round(mean * (times ?? list.length) * 100) / 100) };
}

/** The species that are said to go with some, which are not among them, in the order they are named. What is gone is passed over. */
export function companionsOf(of: readonly Species[], all: readonly Species[]): Species[] {
  const have = new Set(of.map((s) => s.id));
  const known = new Map(all.map((s) => [s.id, s]));
  return of.flatMap((s) =>
    (s.with ?? []).flatMap((id) => {
      const found = known.get(id);
      if (!found || have.has(id)) return [];
      have.add(id);
      return [found];
    }),
  );
}
