import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { readPackage } from '../io/package';
import type { Level } from './level';
import { parseObject } from './objects';
import { isSound, soundText, unsoundPath } from './text';

const open = (file: string): Level => {
  const read = readPackage(new Uint8Array(readFileSync(new URL(`../../../demo/${file}`, import.meta.url))));
  if (!read.ok) throw new Error(read.message);
  return read.value;
};

const ODD: unknown[] = [[], {}, null, '', 'x', -1, 0, 1e308, Number.NaN, true, [[]], [null], [[1, 2]], { x: 1 }, [1, 2, 3], '\ud800', 'a\0b'];

/** Every value inside an object, changed to each odd one in turn. */
function* mutants(value: unknown): Generator<unknown> {
  if (typeof value !== 'object' || value === null) return;
  for (const [key, inner] of Object.entries(value).slice(0, Array.isArray(value) ? 2 : 99)) {
    const set = (next: unknown) => (Array.isArray(value) ? value.map((v, i) => (String(i) === key ? next : v)) : { ...value, [key]: next });
    for (const odd of ODD) yield set(odd);
    for (const next of mutants(inner)) yield set(next);
  }
}

describe('an object from outside', () => {
  it('whatever one of its fields holds is read or refused by name, never a crash', () => {
    const seen = new Map<string, number>();
    let refused = 0;
    for (const object of [...open('harrow-ledge-small.rammer.zip').objects.values(), ...open('harrow-ledge-large.rammer.zip').objects.values()]) {
      const kind = `${object.kind}/${'shape' in object ? object.shape : 'lift' in object ? object.lift : 'form' in object ? object.form : ''}`;
      if ((seen.get(kind) ?? 0) >= 1) continue;
      seen.set(kind, (seen.get(kind) ?? 0) + 1);
      for (const mutant of mutants(object)) {
        const read = parseObject(mutant);
        if (!read.ok) {
          refused++;
          expect(isSound(read.message)).toBe(true);
        } else expect(unsoundPath(read.object)).toBeUndefined();
      }
    }
    expect(seen.size).toBeGreaterThan(20);
    expect(refused).toBeGreaterThan(1000);
  });

  it('with stops that are none is refused by name', () => {
    expect(parseObject({ id: 'b', kind: 'block', name: 'b', shape: 'box', size: [1, 1, 1], at: [0, 0, 0], turn: 0, stops: [] })).toMatchObject({
      ok: false,
      message: expect.stringContaining('stops'),
    });
  });

  it('with half a character in a name is refused, and a text is never cut inside one', () => {
    expect(parseObject({ id: 'n', kind: 'note', name: 'n', text: 'half \ud83d', at: [0, 0, 0] })).toMatchObject({
      ok: false,
      message: expect.stringContaining('half a character'),
    });
    expect(parseObject({ id: 'n', kind: 'note', name: 'n', text: 'whole \ud83d\ude00', at: [0, 0, 0] }).ok).toBe(true);
    expect(soundText('ab\ud83d\ude00', 3)).toBe('ab');
    expect(soundText('a\0b\ud83d\ude00', 9)).toBe('ab\ud83d\ude00');
    expect(unsoundPath({ a: [{ b: 'x\0' }] })).toBe('a.0.b');
  });
});
