import { describe, expect, it } from 'vitest';
import { hashInts } from './hash';
import { keptCoverage } from './coverage';

/** Narrow leaves at any place and angle with soft rims. */
const twigs = (side: number): Uint8Array => {
  const out = new Uint8Array(side * side);
  for (let k = 0; k < 150; k++) {
    const [cx, cy, turn] = [0, 1, 2].map((c) => hashInts(7, k, c) / 4294967296);
    const [s, c] = [Math.sin(turn * Math.PI), Math.cos(turn * Math.PI)];
    for (let dy = -8; dy <= 8; dy++)
      for (let dx = -8; dx <= 8; dx++) {
        const [u, v] = [dx * c + dy * s, dy * c - dx * s];
        const soft = Math.max(0, Math.min(1, (1.6 - Math.hypot(u / 5, v / 1.1)) * 1.6));
        const at = ((Math.floor(cy * side) + dy + side) % side) * side + ((Math.floor(cx * side) + dx + side) % side);
        out[at] = Math.max(out[at], Math.round(soft * 255));
      }
  }
  return out;
};

const share = (alpha: ArrayLike<number>, factor: number, cutoff: number): number => {
  let n = 0;
  for (let i = 0; i < alpha.length; i++) if (alpha[i] * factor >= cutoff * 255) n++;
  return n / alpha.length;
};

describe('coverage of the levels of a picture with a cut-off', () => {
  it('stays what it is: as much of each level is drawn as of the picture, where without it is gone', () => {
    const side = 128;
    const alpha = twigs(side);
    const whole = share(alpha, 1, 0.5);
    const factors = keptCoverage(alpha, side, side, 0.5);
    expect(factors[0]).toBe(1);
    let level: number[] = [...alpha];
    let w = side;
    for (let l = 1; l < factors.length - 1; l++) {
      const half = w >> 1;
      // Worked out here once more, row by row.
      level = Array.from({ length: half * half }, (_, i) => {
        const at = Math.floor(i / half) * 2 * w + (i % half) * 2;
        return (level[at] + level[at + 1] + level[at + w] + level[at + w + 1]) / 4;
      });
      w = half;
      expect(Math.abs(share(level, factors[l], 0.5) - whole), `level ${l}`).toBeLessThan(0.02);
      if (l >= 3) expect(share(level, 1, 0.5)).toBeLessThan(whole * 0.75);
    }
  });

  it('needs nothing where all or nothing is drawn, and never makes a blot', () => {
    expect(keptCoverage(new Uint8Array(64).fill(255), 8, 8, 0.5)).toEqual([1]);
    expect(keptCoverage(new Uint8Array(64), 8, 8, 0.5)).toEqual([1]);
    const speck = new Uint8Array(256 * 256);
    speck[5] = 255;
    for (const f of keptCoverage(speck, 256, 256, 0.5)) expect(f).toBeLessThanOrEqual(4);
  });
});
