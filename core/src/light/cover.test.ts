import { describe, expect, it } from 'vitest';
import { terrainOf, testBlock } from '../testing/levels';
import { coverOf, lightAt, lightUnder, ROOF_CLEAR } from './cover';
import { occluderHeights } from './sunlit';

const flat = terrainOf(() => 0);
const { nx, nz, spacing } = flat.grid;
const at = (x: number, z: number) => Math.round(z / spacing) * nx + Math.round(x / spacing);

describe('what is roofed over', () => {
  // A hall 20 m wide and deep, and a wall no higher than a knee.
  const cover = coverOf(flat, occluderHeights(flat, [testBlock('box', [20, 4, 20], [32, 0, 32]), testBlock('box', [10, 0.5, 1], [10, 0, 10])]));

  it('is what stands higher than a person, as high as its top', () => {
    expect([cover.nx, cover.nz, cover.step]).toEqual([nx, nz, 1]);
    expect([cover.top[at(32, 32)], cover.open[at(10, 10)], cover.open[at(50, 50)]]).toEqual([4, 1, 1]);
    expect(cover.top[at(10, 10)]).toBe(0);
    // A roof on posts hangs: it covers, and is not in the light of tops; one far up covers nothing.
    const roof = (y: number) => [testBlock('box', [8, 0.3, 8], [32, y, 32])];
    const over = (y: number) => {
      const c = coverOf(flat, occluderHeights(flat, roof(y), [], undefined, ROOF_CLEAR), occluderHeights(flat, roof(y)));
      return [Math.round(c.top[at(32, 32)] * 10) / 10, c.hangs[at(32, 32)], c.open[at(32, 32)] < 0.2];
    };
    expect([over(4), over(12), over(1)]).toEqual([
      [4.3, 1, true],
      [0, 0, false],
      [0, 0, false],
    ]);
    expect(cover.hangs.some((v) => v === 1)).toBe(false);
  });

  it('is darker the farther in, by the distance to the open', () => {
    // The last sample in the open lies at 21.5 m, 1.5 m from the one at 23.
    expect(cover.open[at(23, 32)]).toBeCloseTo(1 / (1 + (1.5 / 1.8) ** 2), 6);
    const inwards = [22, 23, 24, 26, 28, 32].map((x) => cover.open[at(x, 32)]);
    for (let i = 1; i < inwards.length; i++) expect(inwards[i]).toBeLessThan(inwards[i - 1]);
    expect(cover.open[at(32, 32)]).toBeLessThan(0.04);
    expect(cover.open[at(32, 26)]).toBeCloseTo(cover.open[at(32, 38)], 6);
  });

  it('is dark for a body that stands under it, and bright for one on its roof', () => {
    const tops = new Uint8Array(nx * nz * 2).fill(255);
    const place = { grid: flat.grid, tops, ground: lightUnder(flat, tops, cover), cover };
    expect(lightAt(place, [50, 0, 50])).toEqual({ sun: 1, sky: 1 });
    expect(lightAt(place, [32.1, 4, 31.9])).toEqual({ sun: 1, sky: 1 });
    const { sun, sky } = lightAt(place, [32.1, 0, 31.9]);
    expect([sun, sky < 0.05]).toEqual([0, true]);
    expect(lightAt(place, [-3, 0, 900])).toEqual({ sun: 1, sky: 1 });
  });

  it('leaves the ground under it without sun, and its roof as it is', () => {
    const light = new Uint8Array(nx * nz * 2).fill(200);
    const under = lightUnder(flat, light, cover);
    expect([...under.subarray(at(50, 50) * 2, at(50, 50) * 2 + 2)]).toEqual([200, 200]);
    expect([...under.subarray(at(32, 32) * 2, at(32, 32) * 2 + 2)]).toEqual([0, Math.round(255 * cover.open[at(32, 32)])]);
    expect(light.every((v) => v === 200)).toBe(true);
  });

  it('of a wide level is told at every few samples', () => {
    const wide = { grid: { ...flat.grid, nx: 2049, nz: 2049 }, heights: new Float32Array(2049 * 2049) };
    const c = coverOf(wide, new Float32Array(2049 * 2049));
    expect([c.step, c.nx, c.nz, c.open.every((v) => v === 1)]).toEqual([2, 1025, 1025, true]);
  });
});
