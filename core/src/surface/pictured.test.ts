import { describe, expect, it } from 'vitest';
import { edgeSteps, mendEdges, pictureTexture } from './pictured';
import { enlarged } from './textures';

const SIDE = 32;
/** A grey picture, or a coloured one, by a function of the pixel. */
const picture = (at: (x: number, y: number) => number | [number, number, number, number]) =>
  Uint8Array.from({ length: SIDE * SIDE * 4 }, (_, i) => {
    const v = at(Math.floor(i / 4) % SIDE, Math.floor(i / 4 / SIDE));
    return typeof v === 'number' ? (i % 4 === 3 ? 255 : v) : v[i % 4];
  });
const tiles = picture((x, y) => 128 + 50 * Math.sin((2 * Math.PI * x) / SIDE) + 40 * Math.cos((4 * Math.PI * y) / SIDE));
const ramp = picture((x) => 40 + 5 * x);

describe('a picture as a texture', () => {
  it('keeps its colours where it tiles, and stands out by its brightness, darkest to lightest', () => {
    expect(edgeSteps(tiles, SIDE)).toBeLessThan(1.6);
    const out = pictureTexture(tiles, SIDE);
    for (let c = 0; c < 3; c++) expect(out.filter((_, i) => i % 4 === c)).toEqual(tiles.filter((_, i) => i % 4 === c));
    const high = out.filter((_, i) => i % 4 === 3);
    expect([Math.min(...high), Math.max(...high)]).toEqual([0, 255]);
    // Worked by hand: brightest where both waves are highest, at a quarter of the way across and on the first row.
    expect(high[SIDE / 4]).toBe(255);
    expect(high[(SIDE / 4) * SIDE + (3 * SIDE) / 4]).toBe(0);
  });

  it('of one brightness stands out by half; one with transparency of its own keeps it', () => {
    expect(
      new Set(
        pictureTexture(
          picture(() => 90),
          SIDE,
        ).filter((_, i) => i % 4 === 3),
      ),
    ).toEqual(new Set([128]));
    const clear = picture((x) => [10, 20, 30, x * 8]);
    expect(
      Array.from(
        pictureTexture(clear, SIDE)
          .filter((_, i) => i % 4 === 3)
          .slice(8, 24),
      ),
    ).toEqual(Array.from({ length: 16 }, (_, k) => (k + 8) * 8));
  });

  it('that does not tile is mended: its edges meet, its middle is as it was', () => {
    expect(edgeSteps(ramp, SIDE)).toBeGreaterThan(10);
    const out = mendEdges(ramp, SIDE);
    const red = (x: number, y: number, of = out) => of[(y * SIDE + x) * 4];
    for (let y = 0; y < SIDE; y++) expect(red(0, y)).toBe(red(SIDE - 1, y));
    // Half of 40 and half of 195.
    expect(red(0, 7)).toBe(118);
    expect([10, 16, 21].map((x) => red(x, 16))).toEqual([10, 16, 21].map((x) => red(x, 16, ramp)));
    expect(edgeSteps(out, SIDE)).toBeLessThan(1);
    expect(pictureTexture(ramp, SIDE).filter((_, i) => i % 4 === 0)).toEqual(out.filter((_, i) => i % 4 === 0));
  });
});

describe('a texture enlarged', () => {
  it('lies between its pixels, by hand: halves of a row of two, and on over the edge', () => {
    // Two by two: black and white columns; twice as large each pixel lies a quarter off its neighbour's middle.
    const small = Uint8Array.from([0, 0, 0, 0, 200, 200, 200, 200, 0, 0, 0, 0, 200, 200, 200, 200]);
    const row = [...enlarged(small, 2, 2)].filter((_, i) => i % 4 === 0).slice(0, 4);
    expect(row).toEqual([50, 50, 150, 150]);
  });

  it('has the same mean and still tiles', () => {
    const large = enlarged(tiles, SIDE, 4);
    const mean = (p: Uint8Array) => p.reduce((a, b) => a + b, 0) / p.length;
    expect(mean(large)).toBeCloseTo(mean(tiles), 0);
    expect(edgeSteps(large, SIDE * 4)).toBeLessThan(1.6);
  });
});
