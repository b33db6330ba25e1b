import { describe, expect, it } from 'vitest';
import { insideOutline, type Point2 } from '../num/outline';
import { shoreLines } from './shoreLine';

/** A water over a grid of 40 by 30 samples 0.5 m apart that begins at sample 10, 20. */
const water = (is: (x: number, z: number) => boolean) => {
  const rect = { x0: 10, z0: 20, x1: 49, z1: 49 };
  const wet = new Uint8Array(40 * 30);
  for (let z = 0; z < 30; z++) for (let x = 0; x < 40; x++) wet[z * 40 + x] = is((10 + x) * 0.5, (20 + z) * 0.5) ? 1 : 0;
  return { rect, wet, spacing: 0.5 };
};
/** Whether a place a little to the right of the middle of each side is on land. */
const landRight = (line: readonly Point2[], is: (x: number, z: number) => boolean): boolean =>
  line.every(([x, z], i) => {
    const [nx, nz] = line[(i + 1) % line.length];
    const l = Math.sqrt((nx - x) ** 2 + (nz - z) ** 2);
    return !is((x + nx) / 2 - ((nz - z) / l) * 0.9, (z + nz) / 2 + ((nx - x) / l) * 0.9);
  });

describe('shores', () => {
  it('of a round pool lie on its rim with the land to the right', () => {
    const pool = (x: number, z: number) => (x - 15) ** 2 + (z - 17) ** 2 < 16;
    const [line, ...others] = shoreLines(water(pool));
    expect(others).toEqual([]);
    for (const [x, z] of line) expect(Math.abs(Math.sqrt((x - 15) ** 2 + (z - 17) ** 2) - 4)).toBeLessThan(0.5);
    expect(line.length).toBeLessThan(40);
    expect(landRight(line, pool)).toBe(true);
    expect(insideOutline([15, 17], line)).toBe(true);
  });

  it('of a lake with an island are two, and the island is to the right of its own', () => {
    const lake = (x: number, z: number) => Math.max(Math.abs(x - 15) - 1, Math.abs(z - 17)) < 5 && (x - 15) ** 2 + (z - 17) ** 2 > 4;
    const lines = shoreLines(water(lake));
    expect(lines).toHaveLength(2);
    for (const line of lines) expect(landRight(line, lake)).toBe(true);
  });

  it('of what is dry are none', () => {
    expect(shoreLines(water(() => false))).toEqual([]);
  });
});
