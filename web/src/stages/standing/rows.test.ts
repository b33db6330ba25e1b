import { describe, expect, it } from 'vitest';
import { testBlock } from '../../../../core/src/testing/levels';
import type { Piece, Standing, StandingKind } from '@rammer/core/level/objects';
import { isGroup, picked, rowsOf, type Listed } from './rows';

const block = (id: string, group?: string): Standing => ({ ...testBlock('box', [1, 1, 1], [0, 0, 0]), id, name: id, ...(group ? { group } : {}) });
const piece = (id: string, group?: string): Piece => ({
  id,
  version: 1,
  kind: 'piece',
  name: id,
  asset: 'a',
  at: [0, 0, 0],
  turn: 0,
  sink: 0,
  collider: 'asset',
  hidden: false,
  out: false,
  ...(group ? { group } : {}),
});
const copy = (id: string): Standing => ({ id, version: 1, kind: 'copy', name: id, assembly: 'shed', at: [0, 0, 0], turn: 0, hidden: false, out: false });
const all = [block('b1', 'shed'), block('b2'), piece('p1', 'shed'), piece('p2', 'yard'), piece('p3'), copy('c1')];
const listed = (more: Partial<Listed> = {}): Listed => ({
  kinds: new Set<StandingKind>(['block', 'copy']),
  search: '',
  folded: new Set(),
  masterOf: () => 'shed',
  ...more,
});
const names = (more: Partial<Listed> = {}) => rowsOf(all, listed(more)).map((r) => (isGroup(r) ? `[${r.group} ${r.members.length}]` : r.id));

describe('rows of what stands', () => {
  it('are groups with all their members and their copies, then the rest of the kinds asked for', () => {
    expect(names()).toEqual(['[shed 2]', 'b1', 'p1', 'c1', 'b2']);
    expect(names({ kinds: new Set<StandingKind>(['piece']) })).toEqual(['[shed 2]', 'b1', 'p1', '[yard 1]', 'p2', 'p3']);
    expect(names({ folded: new Set(['shed']) })).toEqual(['[shed 2]', 'c1', 'b2']);
    expect(names({ masterOf: () => undefined })).toEqual(['[shed 2]', 'b1', 'p1', 'b2', 'c1']);
  });

  it('are searched by name and group, folded or not', () => {
    expect(names({ search: 'SHED', folded: new Set(['shed']) })).toEqual(['[shed 2]', 'b1', 'p1']);
    expect(names({ search: 'b2' })).toEqual(['b2']);
    expect(names({ keep: (t) => t.kind === 'block' })).toEqual(['[shed 1]', 'b1', 'b2']);
  });

  it('are picked one by one, to and fro with Ctrl, and from the last on with Shift', () => {
    const rows = rowsOf(all, listed());
    expect(picked(rows, ['b2'], ['p1'], { shift: false, ctrl: false })).toEqual(['p1']);
    expect(picked(rows, ['b2'], ['p1'], { shift: false, ctrl: true })).toEqual(['b2', 'p1']);
    expect(picked(rows, ['b2', 'p1'], ['p1'], { shift: false, ctrl: true })).toEqual(['b2']);
    expect(picked(rows, ['p1'], ['b2'], { shift: true, ctrl: false })).toEqual(['p1', 'c1', 'b2']);
    expect(picked(rows, ['b1'], ['b1', 'p1'], { shift: false, ctrl: true })).toEqual(['b1', 'p1']);
  });

  it('of tens of thousands are told at once', () => {
    const many = Array.from({ length: 40_000 }, (_, i) => block(`x${i}`, i % 2 ? `g${i % 500}` : undefined));
    expect(rowsOf(many, listed())).toHaveLength(40_250);
  });
});
