import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { randomStream } from '../num/hash';
import { packLzw } from '../testing/lzw';
import { unpackLzw } from './lzw';

describe('LZW', () => {
  it('worked by hand: the example of TIFF 6.0, nine codes of nine bits', () => {
    const codes = [256, 7, 258, 8, 8, 258, 6, 6, 257].map((c) => c.toString(2).padStart(9, '0')).join('');
    const packed = Uint8Array.from(codes.padEnd(88, '0').match(/.{8}/g)!, (b) => parseInt(b, 2));
    expect([...unpackLzw(packed, 9)]).toEqual([7, 7, 7, 8, 8, 7, 7, 6, 6]);
    expect([...unpackLzw(packed, 4)]).toEqual([7, 7, 7, 8]);
    // The second run names itself before it is whole.
    expect([...unpackLzw(packLzw(new Uint8Array(6).fill(9)), 6)]).toEqual([9, 9, 9, 9, 9, 9]);
  });

  it('gives back what was packed, through every width and over a full table', () => {
    fc.assert(
      fc.property(fc.uint8Array({ maxLength: 400 }), (bytes) => {
        expect(unpackLzw(packLzw(bytes), bytes.length)).toEqual(bytes);
      }),
      { numRuns: 60 },
    );
    const random = randomStream(7);
    // 40,000 bytes of few values: runs of many lengths, and the table is full several times.
    const long = Uint8Array.from({ length: 40_000 }, () => Math.floor(random() * random() * 12));
    const packed = packLzw(long);
    expect(packed.length).toBeLessThan(long.length / 2);
    expect(Buffer.compare(unpackLzw(packed, long.length), long)).toBe(0);
  });

  it('that ends early gives what there is; a run that is not there yet is a fault', () => {
    const bytes = Uint8Array.from({ length: 200 }, (_, i) => i % 7);
    const packed = packLzw(bytes);
    const part = unpackLzw(packed.subarray(0, 20), 200);
    expect(part.length).toBeGreaterThan(10);
    expect(part).toEqual(bytes.subarray(0, part.length));
    expect(() => unpackLzw(Uint8Array.of(0xff, 0xff, 0xff), 10)).toThrow('an LZW code 511 of 258');
    fc.assert(
      fc.property(fc.uint8Array({ maxLength: 300 }), (noise) => {
        try {
          expect(unpackLzw(noise, 1000).length).toBeLessThanOrEqual(1000);
        } catch (error) {
          expect(error).toBeInstanceOf(RangeError);
        }
      }),
      { numRuns: 200 },
    );
  });
});
