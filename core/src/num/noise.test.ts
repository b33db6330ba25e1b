import { describe, expect, it } from 'vitest';
import { fractalNoise } from './noise';
import { hashBytes, hashInts, hashText, hashUnit, mix32, randomStream } from './hash';

describe('seeded hashes', () => {
  it('give the recorded values: a changed one would change every level', () => {
    expect(mix32(1)).toBe(0x514e28b7);
    expect([hashInts(7, 1), hashInts(7, 1, 2), hashInts(7, 1, 2, 3)]).toEqual([hashInts(7, 1), hashInts(7, 1, 2, 0), hashInts(7, 1, 2, 3)]);
    expect(hashText('rammer')).toHaveLength(16);
    expect(hashText('rammer')).not.toBe(hashText('rammes'));
    expect(hashBytes(new Uint8Array(3))).not.toBe(hashBytes(new Uint8Array(4)));
  });

  it('spread evenly over [0, 1)', () => {
    const bins = Array.from({ length: 16 }, () => 0);
    const next = randomStream(5);
    for (let i = 0; i < 16000; i++) bins[Math.floor(next() * 16)]++;
    for (const b of bins) expect(Math.abs(b - 1000)).toBeLessThan(160);
    expect(hashUnit(1, 2, 3)).toBeLessThan(1);
  });

  it('are a bijection on a sample of uint32', () => {
    const seen = new Set<number>();
    for (let i = 0; i < 50000; i++) seen.add(mix32(i * 85899));
    expect(seen.size).toBe(50000);
  });
});

describe('fractal noise', () => {
  it('stays in [-1, 1], depends on its seed and repeats', () => {
    const a = fractalNoise(3, 5);
    const b = fractalNoise(3, 5);
    const c = fractalNoise(4, 5);
    let same = 0;
    for (let i = 0; i < 2000; i++) {
      const v = a.at(i * 0.37, i * 0.11);
      expect(Math.abs(v)).toBeLessThanOrEqual(1);
      expect(b.at(i * 0.37, i * 0.11)).toBe(v);
      if (c.at(i * 0.37, i * 0.11) === v) same++;
    }
    expect(same).toBeLessThan(20);
  });
});
