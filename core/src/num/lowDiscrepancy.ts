/**
 * Van der Corput's sequence: the digits of a number mirrored about the point.
 *
 * @param i 0 and up
 * @param base 2 and up, a prime
 * @returns 0 to 1, the latter excluded
 */
export function radicalInverse(i: number, base: number): number {
  let share = 1 / base;
  let out = 0;
  for (let n = i; n > 0; n = Math.floor(n / base)) {
    out += (n % base) * share;
    share /= base;
  }
  return out;
}

/** Point `i` of Halton's sequence in the unit square, bases 2 and 3. Any run of it covers the square evenly. */
export const halton = (i: number): [x: number, y: number] => [radicalInverse(i, 2), radicalInverse(i, 3)];
