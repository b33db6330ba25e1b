/** A value of sRGB as light, both 0 to 1 (IEC 61966-2-1), to a millionth: without `pow`, which engines differ in. */
export function srgbToLinear(v: number): number {
  if (v <= 0.04045) return v / 12.92;
  const x = (v + 0.055) / 1.055;
  // x^2.4 = x^2 * (x^2)^(1/5): the fifth root by Newton's steps from a near guess.
  const y = x * x;
  let r = Math.sqrt(Math.sqrt(y));
  for (let i = 0; i < 8; i++) r = (4 * r + y / (r * r * r * r)) / 5;
  return y * r;
}

/** Light of each byte of sRGB. */
export const SRGB_LIGHT = Float32Array.from({ length: 256 }, (_, i) => srgbToLinear(i / 255));

/** The byte of sRGB whose light is nearest. @param light 0 to 1 */
export function srgbByte(light: number): number {
  let [low, high] = [0, 255];
  while (high - low > 1) {
    const mid = (low + high) >> 1;
    if (SRGB_LIGHT[mid] <= light) low = mid;
    else high = mid;
  }
  return light - SRGB_LIGHT[low] <= SRGB_LIGHT[high] - light ? low : high;
}
