import fc from 'fast-check';
import { strToU8 } from 'fflate';
import { describe, expect, it } from 'vitest';
import { JSON_LIMITS, parseJson } from './json';

const read = (text: string, limits = {}) => parseJson('it', strToU8(text), { ...JSON_LIMITS, ...limits });
const code = (text: string, limits = {}) => {
  const r = read(text, limits);
  return r.ok ? 'read' : r.code;
};

describe('JSON from outside', () => {
  it('is read as JSON.parse reads it', () => {
    fc.assert(
      fc.property(fc.jsonValue(), (value) => {
        const text = JSON.stringify(value);
        expect(read(text)).toEqual({ ok: true, value: JSON.parse(text) });
      }),
    );
  });

  it('that is deep, large or of many values is refused before any of it is made', () => {
    expect(code('['.repeat(31_000_000))).toBe('json-too-deep');
    expect(code('{"a":'.repeat(65))).toBe('json-too-deep');
    expect(code(`${'['.repeat(64)}${']'.repeat(64)}`)).toBe('read');
    expect(code(`[${'{},'.repeat(2_000_000)}{}]`)).toBe('json-too-many');
    expect(code('[1,2,3]', { bytes: 6 })).toBe('json-too-large');
    expect(code('[1,2,3]', { values: 4 })).toBe('read');
    expect(code('[1,2,3,4]', { values: 4 })).toBe('json-too-many');
  });

  it('counts nothing inside texts', () => {
    expect(read(JSON.stringify({ '[[[{{{,,,': `"\\"[[[${'['.repeat(500)}\\` }), { values: 3, depth: 1 }).ok).toBe(true);
  });

  it('that is cut, empty or not JSON is named', () => {
    for (const text of ['', '{', '{"a":1', '[1,]', 'NaN', '{"a":NaN}', '"open', '"\\']) expect(code(text)).toBe('json-invalid');
  });
});
