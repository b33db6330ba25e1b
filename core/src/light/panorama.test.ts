import { describe, expect, it } from 'vitest';
import { mapDirection } from './harmonics';
import { packLight, shrunk, sunOf, unpackLight, type Panorama } from './panorama';

const panorama = (width: number, height: number, light: (x: number, y: number) => [number, number, number]): Panorama => {
  const data = new Float32Array(width * height * 3);
  for (let y = 0; y < height; y++) for (let x = 0; x < width; x++) data.set(light(x, y), (y * width + x) * 3);
  return { width, height, data };
};

describe('a panorama', () => {
  it('is packed to a hundredth of its brightest colour, whatever its light, and comes back the right way up', () => {
    const from = panorama(8, 4, (x, y) => [2 ** (x * 5 - 18), 0.3 * 2 ** (x * 5 - 18), y === 3 ? 0 : 1e-3]);
    const bytes = packLight(from);
    // The last row, which looks up, is the first of the picture.
    expect(bytes[2]).toBe(0);
    const back = unpackLight(bytes, 8, 4);
    for (let i = 0; i < 8 * 4; i++) {
      const most = Math.max(...from.data.subarray(i * 3, i * 3 + 3));
      for (let c = 0; c < 3; c++) expect(Math.abs(back.data[i * 3 + c] - from.data[i * 3 + c])).toBeLessThan(most * 0.01);
    }
  });

  it('keeps black black', () => {
    expect([...unpackLight(packLight(panorama(2, 1, () => [0, 0, 0])), 2, 1).data]).toEqual([0, 0, 0, 0, 0, 0]);
  });

  it('is shrunk by means: no light is lost', () => {
    const small = shrunk(
      panorama(16, 8, (x, y) => [x, y, 1]),
      8,
    );
    expect([small.width, small.height]).toEqual([8, 4]);
    expect([...small.data.subarray(0, 6)]).toEqual([0.5, 0.5, 1, 2.5, 0.5, 1]);
    expect(shrunk(small, 8)).toBe(small);
  });

  it('knows where its sun stands, and that an even one has none', () => {
    const sunny = panorama(64, 32, (x, y) => (x === 16 && y === 24 ? [900, 800, 600] : [0.4, 0.5, 0.8]));
    expect(sunOf(sunny)).toEqual(mapDirection(16.5 / 64, 24.5 / 32));
    // A quarter round from north is east; three quarters up the map is 45 degrees and a bit.
    expect(sunOf(sunny)![0]).toBeGreaterThan(0.65);
    expect(sunOf(sunny)![1]).toBeCloseTo(Math.sin((47.8 * Math.PI) / 180), 2);
    expect(sunOf(panorama(64, 32, () => [1, 1, 1]))).toBeUndefined();
  });
});
