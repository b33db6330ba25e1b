import { expect, it } from 'vitest';
import { pictureDifference } from './pictureDifference';

it('two pictures differ where a colour is far enough off, by hand', () => {
  const of = (...greys: number[]) => ({ width: greys.length, height: 1, data: Uint8ClampedArray.from(greys.flatMap((g) => [g, g, g, 255])) });
  const { data, share } = pictureDifference(of(10, 100, 200, 200), of(10, 110, 200, 40));
  expect(share).toBe(0.25);
  // What stayed is pale and grey; what changed by all is oxide.
  expect(data[0]).toBe(data[1]);
  expect([...data.subarray(12, 16)]).toEqual([179, 64, 42, 255]);
  expect(pictureDifference(of(1, 2), of(1, 2)).share).toBe(0);
});
