import { expect } from 'vitest';

/** Holds two rasters to the same bits; said by the first place that differs. Many times faster than toEqual, which walks them as lists. */
export function expectBits(a: Float32Array | Int32Array | Uint8Array, b: typeof a): void {
  const bytes = (raster: typeof a) => Buffer.from(raster.buffer, raster.byteOffset, raster.byteLength);
  if (a.length === b.length && Buffer.compare(bytes(a), bytes(b)) === 0) return;
  expect(a.length).toBe(b.length);
  const at = a.findIndex((v, i) => !Object.is(v, b[i]));
  expect({ at, value: a[at] }).toEqual({ at, value: b[at] });
  throw new Error(`rasters differ in bits that do not show, first at ${at}`);
}
