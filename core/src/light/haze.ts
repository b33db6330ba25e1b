/** Haze as the full picture reckons with it. */
export interface Haze {
  /** metres at which half of what is seen is haze where it is thickest; 0 none */
  half: number;
  /** metres over which it thins to 1/e upwards; 0 as thick at any height */
  height: number;
  /** height at which it is as thick as `half` says, metres; below it it is no thicker */
  base: number;
}

/**
 * How much of what is seen along a line comes through haze, 0 to 1.
 *
 * Density `ln 2 / half` up to `base`, thinning by e each `height` above; its integral along the line in closed form, as the shader has it.
 *
 * @param from height of the eye, metres @param to height of what is seen @param distance between them, metres
 */
export function through({ half, height, base }: Haze, from: number, to: number, distance: number): number {
  if (half <= 0) return 1;
  const density = Math.LN2 / half;
  return Math.exp(-density * distance * meanThickness(from, to, base, height));
}

/** Mean thickness of haze along a straight line between two heights, 1 where it is thickest. */
export function meanThickness(from: number, to: number, base: number, height: number): number {
  if (height <= 0) return 1;
  const [a, b] = [(from - base) / height, (to - base) / height];
  if (Math.abs(b - a) < 1e-3) return Math.exp(-Math.max(0, (a + b) / 2));
  return (integral(b) - integral(a)) / (b - a);
}

/** Integral of the thickness from the base to `x` heights above it. */
const integral = (x: number): number => (x < 0 ? x : 1 - Math.exp(-x));
