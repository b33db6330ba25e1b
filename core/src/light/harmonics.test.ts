import { describe, expect, it } from 'vitest';
import type { Vec3 } from '../num/vec';
import { gatheredLight, lightOn, mapDirection } from './harmonics';

const mapOf = (light: (d: Vec3) => number, width = 64, height = 32) => {
  const pixels = new Float32Array(width * height * 4);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const v = light(mapDirection((x + 0.5) / width, (y + 0.5) / height));
      pixels.set([v, v / 2, 0, 1], (y * width + x) * 4);
    }
  return gatheredLight({ pixels, width, height, channels: 4 });
};

describe('light gathered from a sky', () => {
  it('is the light itself, over pi, where it is the same all round', () => {
    const gathered = mapOf(() => 3);
    for (const n of [
      [0, 1, 0],
      [1, 0, 0],
      [0.6, -0.8, 0],
    ] as Vec3[]) {
      const light = lightOn(gathered, n);
      expect(light[0]).toBeCloseTo(3, 2);
      expect(light[1]).toBeCloseTo(1.5, 2);
      expect(light[2]).toBeCloseTo(0, 6);
    }
  });

  it('is all of it on the ground, none underneath and half on a wall, of a sky over a dark earth', () => {
    const gathered = mapOf((d) => (d[1] > 0 ? 1 : 0));
    // Nine numbers hold a horizon to a few hundredths.
    expect(lightOn(gathered, [0, 1, 0])[0]).toBeCloseTo(1, 1);
    expect(lightOn(gathered, [0, -1, 0])[0]).toBeCloseTo(0, 1);
    expect(lightOn(gathered, [1, 0, 0])[0]).toBeCloseTo(0.5, 2);
  });

  it('follows a light that grows along an axis exactly: two thirds of its slope', () => {
    // Of `1 + a cos` a face gets, over pi, `1 + 2/3 a cos`.
    const gathered = mapOf((d) => 1 + 0.6 * d[0], 256, 128);
    expect(lightOn(gathered, [1, 0, 0])[0]).toBeCloseTo(1.4, 3);
    expect(lightOn(gathered, [-1, 0, 0])[0]).toBeCloseTo(0.6, 3);
    expect(lightOn(gathered, [0, 0, 1])[0]).toBeCloseTo(1, 3);
  });
});
