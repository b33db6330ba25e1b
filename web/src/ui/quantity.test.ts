import { describe, expect, it } from 'vitest';
import { parseQuantity } from './quantity';

describe('a typed number', () => {
  it('may be a sum, with units where the field is in metres', () => {
    const table: [string, number][] = [
      ['2.4', 2.4],
      ['2,4', 2.4],
      ['2*1.2+0.35', 2.75],
      ['180cm', 1.8],
      ['6ft', 1.8288],
      ['10in', 0.254],
      ['1 m + 20 cm', 1.2],
      ['(1+2)*3', 9],
      ['-2', -2],
      ['3-1-1', 1],
      ['8/4/2', 1],
      ['.5', 0.5],
      ['1m', 1],
    ];
    for (const [text, value] of table) expect(parseQuantity(text, 'm')).toBeCloseTo(value, 12);
    expect(parseQuantity('45°', '°')).toBe(45);
    expect(parseQuantity('30 %', '%')).toBe(30);
  });

  it('is refused where it cannot be read', () => {
    for (const bad of ['', 'x', '2..4', '2+', '(2', '2)', '1/0', '3kg', '--', '2 4x', 'NaN', 'Infinity', '1e5'])
      expect(parseQuantity(bad, 'm')).toBeUndefined();
    expect(parseQuantity('5cm', '°')).toBeUndefined();
  });
});
