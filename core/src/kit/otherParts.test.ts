import { describe, expect, it } from 'vitest';
import type { Part } from '../level/kinds/kit';
import { testKit } from '../testing/kits';
import { counterpart, variantOf } from './otherParts';

const kit = testKit();
const part = (use: Part['use'], asset: string, length: number, height = 3): Part => ({
  asset,
  use,
  weight: 1,
  box: [
    [-length / 2, 0, -0.1],
    [length / 2, height, 0.1],
  ],
  joins: [],
});
const timber = {
  ...kit,
  id: 'timber',
  parts: [part('wall', 'plank 1', 1), part('wall', 'plank 2', 2.1), part('wall', 'plank 4', 4), part('door', 'hatch', 1)],
};
const of = (use: Part['use']) => kit.parts.find((p) => p.use === use)!;

describe('parts of other kits', () => {
  it('do the same, and are the nearest in size', () => {
    expect(counterpart(of('wall'), timber)?.asset).toBe('plank 2');
    expect(counterpart(of('door'), timber)?.asset).toBe('hatch');
    expect(counterpart(of('roof'), timber)).toBeUndefined();
    // To its own kit and back.
    for (const p of kit.parts) expect(counterpart(p, kit)).toBe(p);
  });

  it('that are variants are as long and of the same use, one after another, none that is never laid', () => {
    const more = {
      ...kit,
      parts: [...kit.parts, part('wall', 'mossy', 2), part('wall', 'short', 1), { ...part('wall', 'old', 2), weight: 0 }, part('wall', 'cracked', 2)],
    };
    const next = (asset: string) =>
      variantOf(
        more.parts.find((p) => p.asset === asset)!,
        more,
      )?.asset;
    expect(['kit-wall', 'mossy', 'cracked'].map(next)).toEqual(['mossy', 'cracked', 'kit-wall']);
    expect(next('kit-door')).toBeUndefined();
  });
});
