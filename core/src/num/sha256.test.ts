import { createHash } from 'node:crypto';
import fc from 'fast-check';
import { expect, it } from 'vitest';
import { sha256 } from './sha256';

it('gives the published digest of the empty message and of abc', () => {
  expect(sha256(new Uint8Array())).toBe('e3b0c44298fc1c149afbf4c8996fb92427ae41e4649b934ca495991b7852b855');
  expect(sha256(Uint8Array.from([97, 98, 99]))).toBe('ba7816bf8f01cfea414140de5dae2223b00361a396177a9cb410ff61f20015ad');
});

it('agrees with an independent implementation for any bytes', () => {
  fc.assert(
    fc.property(fc.uint8Array({ maxLength: 400 }), (bytes) => {
      expect(sha256(bytes)).toBe(createHash('sha256').update(bytes).digest('hex'));
    }),
    { numRuns: 200 },
  );
});
