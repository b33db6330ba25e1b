import { meshesOf } from '@rammer/core/growth/meshes';
import type { AssetSummary } from '@rammer/core/kit/summary';
import { ofKind, type Level } from '@rammer/core/level/level';
import type { AssetObject } from '@rammer/core/level/objects';
import { presentOf } from '@rammer/core/level/present';
import { forgiving } from '@rammer/core/num/forgiving';

/** An asset as the library lists it: what its file says, and over that what this level says. */
export interface Entry extends AssetSummary {
  /** in this level */
  object?: AssetObject;
  placed: number;
  grown: number;
  /** another of the library holds the same */
  doubled: boolean;
}

/** All that can be placed or grown: of what was cast only what this level has, as it was cast last. */
export function entriesOf(level: Level, files: readonly AssetSummary[]): Entry[] {
  const objects = new Map(ofKind(level, 'asset').map((o) => [o.hash, o]));
  // By the file: two objects may name one.
  const hashes = new Map(ofKind(level, 'asset').map((o) => [o.id, o.hash]));
  const counts = new Map<string | undefined, number>();
  for (const p of presentOf(level.objects).of('piece')) counts.set(hashes.get(p.asset), (counts.get(hashes.get(p.asset)) ?? 0) + 1);
  const grown = new Map<string | undefined, number>();
  for (const s of ofKind(level, 'species')) for (const { asset } of meshesOf(s)) grown.set(hashes.get(asset), (grown.get(hashes.get(asset)) ?? 0) + 1);
  const contents = new Map<string, number>();
  for (const f of files) if (f.content) contents.set(f.content, (contents.get(f.content) ?? 0) + 1);
  const stale = new Set(ofKind(level, 'asset').flatMap((o) => (o.source ? [o.source.hash] : [])));
  return files
    .filter((f) => f.role !== 'reference' && (objects.has(f.hash) || (!f.tags.includes('cast') && !stale.has(f.hash))))
    .map((f): Entry => {
      const object = objects.get(f.hash);
      return {
        ...f,
        ...(object ? { name: object.name, role: object.role, ...object.facts } : {}),
        object,
        placed: counts.get(f.hash) ?? 0,
        grown: grown.get(f.hash) ?? 0,
        doubled: f.content !== undefined && contents.get(f.content)! > 1,
      };
    });
}

/** What the library can be held to, and which values an entry has of it. */
export const FACETS: Record<string, (e: Entry, favourites: ReadonlySet<string>) => string[]> = {
  'in this level': (e, favourites) => [
    ...(e.object ? ['here'] : []),
    ...(e.placed + e.grown > 0 ? ['used'] : []),
    ...(favourites.has(e.hash) ? ['favourite'] : []),
    ...(e.doubled ? ['doubled'] : []),
  ],
  role: (e) => [e.role],
  kit: (e) => [e.kit ?? 'of no kit'],
  size: (e) => {
    const most = Math.max(...e.size);
    return [most < 0.5 ? 'under 0.5 m' : most < 2 ? '0.5 to 2 m' : most < 5 ? '2 to 5 m' : 'over 5 m'];
  },
  triangles: (e) => {
    const [n] = e.triangles;
    return [n < 500 ? 'under 500' : n < 5000 ? '500 to 5,000' : n < 50_000 ? '5,000 to 50,000' : 'over 50,000'];
  },
  surface: (e) => [e.closed ? 'closed' : 'open', ...(e.hollow.length > 0 ? ['hollow'] : [])],
  ground: (e) => e.grounds ?? [],
  tag: (e) => e.tags,
  licence: (e) => [e.licence || 'not said'],
};

export interface Wanted {
  query: string;
  facets: Record<string, string[]>;
  favourites: ReadonlySet<string>;
}

const held = (e: Entry, { facets, favourites }: Wanted, but?: string): boolean =>
  Object.entries(facets).every(([facet, values]) => facet === but || values.length === 0 || values.some((v) => FACETS[facet]?.(e, favourites).includes(v)));

/** Entries that fit what is looked for, the best first; favourites and what is used before the rest where they fit alike. */
export function found(entries: readonly Entry[], wanted: Wanted): Entry[] {
  const rank = (e: Entry) => (wanted.favourites.has(e.hash) ? 2 : 0) + (e.placed + e.grown > 0 ? 1 : 0);
  return entries
    .map((e) => ({ e, score: forgiving(wanted.query, [e.name, e.kit ?? '', e.role, ...e.tags].join(' ')) }))
    .filter(({ e, score }) => score !== undefined && held(e, wanted))
    .sort((a, b) => b.score! - a.score! || rank(b.e) - rank(a.e))
    .map(({ e }) => e);
}

/** Values of each facet among what fits all the others, with how many have it. */
export function facetCounts(entries: readonly Entry[], wanted: Wanted): { facet: string; values: [value: string, count: number][] }[] {
  const asked = entries.filter((e) => forgiving(wanted.query, [e.name, e.kit ?? '', e.role, ...e.tags].join(' ')) !== undefined);
  return Object.entries(FACETS).flatMap(([facet, of]) => {
    const counts = new Map<string, number>((wanted.facets[facet] ?? []).map((v) => [v, 0]));
    for (const e of asked) if (held(e, wanted, facet)) for (const v of of(e, wanted.favourites)) counts.set(v, (counts.get(v) ?? 0) + 1);
    const values = [...counts].sort((a, b) => b[1] - a[1] || (a[0] < b[0] ? -1 : 1)).slice(0, 12);
    return values.length > 0 ? [{ facet, values }] : [];
  });
}
