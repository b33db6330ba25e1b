import { describe, expect, it } from 'vitest';
import { forgiving } from './forgiving';

describe('a search that forgives', () => {
  it('finds words in any order, by their beginning, inside others, and with a slip', () => {
    for (const asked of ['door wall', 'wall door', 'doo', 'WALL', 'dor', 'dooor', 'odor wall', 'slate'])
      expect([asked, forgiving(asked, 'door wall (slate)') !== undefined]).toEqual([asked, asked !== 'dor']);
    expect(forgiving('quay', 'door wall')).toBeUndefined();
    expect(forgiving('', 'anything')).toBe(0);
    expect(forgiving('cnifer', 'conifer tall')).toBe(1);
    expect(forgiving('conifre', 'conifer')).toBe(1);
    expect(forgiving('wndng wheel', 'winding wheel')).toBeUndefined();
    expect(forgiving('windng whel', 'winding wheel')).toBe(2);
  });

  it('puts the whole word before its beginning before what holds it', () => {
    const [whole, begins, holds, slipped] = ['barrel', 'barrels', 'gunbarrel', 'barel'].map((t) => forgiving('barrel', t)!);
    expect([whole, begins, holds, slipped]).toEqual([4, 3, 2, 1]);
  });
});
