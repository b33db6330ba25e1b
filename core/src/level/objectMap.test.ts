import fc from 'fast-check';
import { expect, it } from 'vitest';
import type { LevelObject } from './kinds/index';
import { usersOf } from './level';
import { ObjectMap } from './objectMap';

/** Ids say what kind an object is, as they do in a level: it never changes. */
const KIND = ['asset', 'piece', 'species', 'plant', 'note'] as const;
const object = (n: number, of: number): LevelObject => {
  const kind = KIND[n % KIND.length];
  const need = kind === 'plant' ? { species: `o${of * 5 + 2}` } : kind === 'piece' || kind === 'species' ? { asset: `o${of * 5}` } : {};
  return { id: `o${n}`, version: of, kind, name: `${kind} ${n}`, ...need } as LevelObject;
};

it('after any changes has those of a kind, and those that need another, as a look at all of them does', () => {
  const step = fc.oneof(fc.record({ put: fc.nat(39), of: fc.nat(7) }), fc.record({ take: fc.nat(39) }), fc.constant({ clear: true as const }));
  fc.assert(
    fc.property(fc.array(step, { maxLength: 80 }), (steps) => {
      const map = new ObjectMap([object(3, 1), object(2, 4), object(11, 4)]);
      const plain = new Map<string, LevelObject>(map);
      for (const s of steps) {
        if ('put' in s) for (const m of [map, plain]) m.set(`o${s.put}`, object(s.put, s.of));
        else if ('take' in s) expect(map.delete(`o${s.take}`)).toBe(plain.delete(`o${s.take}`));
        else if (steps.length % 7 === 0) for (const m of [map, plain]) m.clear();
        expect([...map]).toEqual([...plain]);
        for (const kind of KIND) expect(map.of(kind)).toEqual([...plain.values()].filter((o) => o.kind === kind));
        for (let n = 0; n < 40; n++) expect(new Set(map.users(`o${n}`))).toEqual(new Set(usersOf(plain.values(), `o${n}`)));
      }
    }),
    { numRuns: 60 },
  );
});

it("a list that is asked for is the caller's own", () => {
  const map = new ObjectMap([object(4, 0), object(9, 0)]);
  map.of('note').reverse().pop();
  expect(map.of('note').map((o) => o.id)).toEqual(['o4', 'o9']);
  expect([map.of('lift'), map.users('nobody'), structuredClone(map).size]).toEqual([[], [], 2]);
});
