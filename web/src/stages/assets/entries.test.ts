import { describe, expect, it } from 'vitest';
import type { AssetSummary } from '@rammer/core/kit/summary';
import { makeLevel } from '@rammer/core/level/level';
import { testLevel } from '@rammer/core/testing/levels';
import { entriesOf, facetCounts, found } from './entries';

const file = (name: string, more: Partial<AssetSummary> = {}): AssetSummary => ({
  hash: name,
  name,
  role: 'piece',
  collider: 'mesh',
  tags: [],
  trunk: 0,
  size: [1, 1, 1],
  triangles: [100],
  vertices: [100],
  materials: ['a'],
  alphaArea: 0,
  bytes: 1000,
  closed: true,
  hollow: [],
  textureBytes: 0,
  authored: true,
  ...more,
});
const asset = (id: string, hash: string, more = {}) => ({ id, version: 1, kind: 'asset' as const, name: id, role: 'piece' as const, hash, ...more });
const piece = (id: string, of: string) => ({
  id,
  version: 1,
  kind: 'piece' as const,
  name: id,
  asset: of,
  at: [0, 0, 0] as [number, number, number],
  turn: 0,
  sink: 0,
  collider: 'asset' as const,
  hidden: false,
  out: false,
});
const level = makeLevel([
  ...testLevel(2, 0.5).objects.values(),
  asset('crate', 'crate-2', { source: { hash: 'crate-1', file: 'crate.glb' }, facts: { kit: 'harbour', tags: ['cargo'] } }),
  piece('p1', 'crate'),
  piece('p2', 'crate'),
]);
const files = [
  file('crate-1', { content: 'same' }),
  file('crate-2', { role: 'prop', size: [0.4, 0.4, 0.4] }),
  file('barrel', { content: 'twin', hollow: ['below'], closed: false, triangles: [9000] }),
  file('barrel copy', { content: 'twin' }),
  file('shed', { tags: ['cast'] }),
  file('notes', { role: 'reference' }),
];
const entries = entriesOf(level, files);
const all = { query: '', facets: {}, favourites: new Set<string>() };

describe('the library', () => {
  it('lists what can be placed: not what another came from, casts of other levels and references', () => {
    expect(entries.map((e) => [e.name, e.placed, e.doubled])).toEqual([
      ['crate', 2, false],
      ['barrel', 0, true],
      ['barrel copy', 0, true],
    ]);
    expect(entries[0]).toMatchObject({ kit: 'harbour', tags: ['cargo'] });
  });

  it('is searched with forgiveness by name, kit and tag; favourites and what is used come first', () => {
    const names = (query: string, favourites: string[] = []) => found(entries, { ...all, query, favourites: new Set(favourites) }).map((e) => e.name);
    expect(names('barel')).toEqual(['barrel', 'barrel copy']);
    expect(names('harbour')).toEqual(['crate']);
    expect(names('crago')).toEqual(['crate']);
    expect(names('')).toEqual(['crate', 'barrel', 'barrel copy']);
    expect(names('', ['barrel copy'])).toEqual(['barrel copy', 'crate', 'barrel']);
    expect(names('quay')).toEqual([]);
  });

  it('is held to facets: one of each that is chosen; counts are of what fits all the others', () => {
    const held = { ...all, facets: { surface: ['open', 'hollow'], size: [] } };
    expect(found(entries, held).map((e) => e.name)).toEqual(['barrel']);
    const counts = (facets: Record<string, string[]>) =>
      Object.fromEntries(facetCounts(entries, { ...all, facets }).map(({ facet, values }) => [facet, Object.fromEntries(values)]));
    expect(counts({})).toMatchObject({
      'in this level': { here: 1, used: 1, doubled: 2 },
      role: { piece: 3 },
      kit: { harbour: 1, 'of no kit': 2 },
      size: { '0.5 to 2 m': 2, 'under 0.5 m': 1 },
      triangles: { 'under 500': 2, '5,000 to 50,000': 1 },
      surface: { closed: 2, open: 1, hollow: 1 },
      licence: { 'not said': 3 },
    });
    expect(counts({ kit: ['harbour'] })).toMatchObject({ kit: { harbour: 1, 'of no kit': 2 }, size: { 'under 0.5 m': 1 } });
  });
});
