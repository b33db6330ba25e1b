import { describe, expect, it } from 'vitest';
import type { PlantObject, Species } from '../level/objects';
import { growthOn, testSpecies } from '../testing/growth';
import { terrainOf } from '../testing/levels';
import { adopted } from './adopt';
import { grow } from './grow';
import { PLANT_STRIDE, type Plants } from './plants';

const rule: Species['rule'] = { on: true, slope: [0, 90], height: [-500, 500], soft: 0, grounds: [] };
const gorse = testSpecies('gorse', 0, { density: 4, spacing: 1.5, lean: 20, tints: ['#ffffff', '#d0d0d0', '#808080'], rule });
const flat = terrainOf((x, z) => Math.sin(x / 9) + Math.cos(z / 7), 2);
const rows = ({ place, count }: Plants) => Array.from({ length: count }, (_, i) => [...place.subarray(i * PLANT_STRIDE, (i + 1) * PLANT_STRIDE)]);

describe('generated plants that are adopted', () => {
  const before = growthOn(flat, [gorse]);
  const [all] = grow(before);
  const hand = (list: number[]): PlantObject[] => list.map((i) => ({ ...adopted(all, i, gorse), id: `p${i}`, version: 1, name: `gorse ${i}` }));

  it('stand as they stood: place, turn, size on each axis, lean and tint; none comes in their place', () => {
    const picked = [0, 7, 31, 50, all.count - 1];
    const [now] = grow({ ...before, plants: hand(picked) });
    expect(now.count).toBe(all.count);
    expect(now.hand).toHaveLength(picked.length);
    picked.forEach((i, k) => {
      const own = rows(now)[now.count - picked.length + k];
      const was = rows(all)[i];
      was.forEach((v, n) => {
        // Turn and the way of the lean are angles: 0.01 degrees, and a full turn is none.
        const off = n === 3 || n === 7 ? Math.abs(((own[n] - v + 540) % 360) - 180) : Math.abs(own[n] - v);
        expect([i, n, off < (n === 3 || n === 7 ? 0.02 : 2e-3)]).toEqual([i, n, true]);
      });
      expect(now.look[now.count - picked.length + k]).toBe(all.look[i]);
    });
    // All others are the very same.
    const key = (r: number[]) => r.join();
    const left = new Set(
      rows(now)
        .slice(0, now.count - picked.length)
        .map(key),
    );
    expect(rows(all).filter((r, i) => !picked.includes(i) && !left.has(key(r)))).toEqual([]);
  });

  it('stay under another seed, spacing and density', () => {
    const plants = hand([3, 12]);
    const [now] = grow({ ...before, species: [{ ...gorse, seed: 99, spacing: 2, density: 2 }], plants });
    expect(now.hand).toEqual(['p3', 'p12']);
    for (const i of [3, 12]) {
      const [x, , z] = rows(all)[i];
      const near = rows(now).filter((r) => Math.hypot(r[0] - x, r[2] - z) < 0.7 * 1.5 - 0.01);
      expect(near).toHaveLength(1);
    }
  });
});
