import { deflateSync } from 'fflate';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { addRasters, fromBase64, fromFixed, inflateExactly, negateRaster, packRaster, toBase64, toFixed, unpackRaster } from './fixed';

const raster = fc
  .array(fc.oneof(fc.integer({ min: -2000, max: 2000 }), fc.integer({ min: -2147483648, max: 2147483647 })), { maxLength: 300 })
  .map((a) => Int32Array.from(a));

describe('packed rasters', () => {
  it('come back as they were, the extremes of int32 included', () => {
    fc.assert(
      fc.property(raster, (r) => {
        expect(unpackRaster(packRaster(r), r.length)).toEqual(r);
      }),
    );
    const edges = Int32Array.from([0, 2147483647, -2147483648, 2147483647, -1, 1]);
    expect(unpackRaster(packRaster(edges), 6)).toEqual(edges);
  });

  it('of a smooth brush are far smaller than floats before and after', () => {
    const n = 65 * 65;
    const dab = Int32Array.from({ length: n }, (_, i) => Math.round(150 * Math.max(0, 1 - Math.hypot((i % 65) - 32, Math.floor(i / 65) - 32) / 12)));
    expect(packRaster(dab).length).toBeLessThan((n * 8) / 20);
  });

  it('refuse bytes that hold more or less than the expected length', () => {
    const bytes = packRaster(new Int32Array(100));
    expect(() => unpackRaster(bytes, 99)).toThrow(RangeError);
    expect(() => unpackRaster(bytes, 101)).toThrow(RangeError);
    expect(() => unpackRaster(Uint8Array.from([1, 2, 3]), 4)).toThrow(RangeError);
  });

  it('stop inflating a bomb soon after its expected size', () => {
    const bomb = deflateSync(new Uint8Array(50 << 20), { level: 9 });
    expect(bomb.length).toBeLessThan(100_000);
    const before = process.memoryUsage().arrayBuffers;
    expect(() => inflateExactly(bomb, 1000)).toThrow(/more than 1000 bytes/);
    expect(process.memoryUsage().arrayBuffers - before).toBeLessThan(20 << 20);
  });
});

describe('integer deltas', () => {
  it('undo exactly in any order', () => {
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: -5000, max: 5000 }), { minLength: 20, maxLength: 20 }),
        fc.array(fc.integer({ min: -5000, max: 5000 }), { minLength: 20, maxLength: 20 }),
        (p, q) => {
          const start = Int32Array.from({ length: 20 }, (_, i) => i * 31);
          const [a, b] = [Int32Array.from(p), Int32Array.from(q)];
          const both = addRasters(addRasters(start, a), b);
          expect(addRasters(addRasters(both, negateRaster(a)), negateRaster(b))).toEqual(start);
        },
      ),
    );
  });

  it('count in 1/1024 m', () => {
    expect(toFixed(1.5)).toBe(1536);
    expect(fromFixed(-512)).toBe(-0.5);
  });
});

describe('base64', () => {
  it('agrees with Node', () => {
    fc.assert(
      fc.property(fc.uint8Array({ maxLength: 70 }), (b) => {
        expect(toBase64(b)).toBe(Buffer.from(b).toString('base64'));
        expect(fromBase64(toBase64(b))).toEqual(b);
      }),
    );
  });

  it('refuses what is not base64', () => {
    for (const bad of ['abc', 'ab*=', 'a===', '=abc', 'ab=c']) expect(() => fromBase64(bad)).toThrow(RangeError);
  });
});
