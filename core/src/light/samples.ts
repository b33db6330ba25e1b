import { halton, radicalInverse } from '../num/lowDiscrepancy';
import { sinCosDeg } from '../num/trig';
import type { Vec3 } from '../num/vec';

/** Half the sun's width in the sky, degrees. */
export const SUN_RADIUS = 0.27;

/** Where in its pixel frame `i` of a picture that refines looks, pixels from the middle, -0.5 to 0.5. Frame 0 looks at the middle. */
export function pixelJitter(i: number): [x: number, y: number] {
  if (i === 0) return [0, 0];
  const [x, y] = halton(i);
  return [x - 0.5, y - 0.5];
}

/** Point `i` of a sequence that covers the unit disc evenly, by equal areas. */
export function discPoint(i: number): [x: number, y: number] {
  const [s, c] = sinCosDeg(360 * radicalInverse(i, 3));
  const r = Math.sqrt(radicalInverse(i, 2));
  return [r * c, r * s];
}

/**
 * Direction `i` of a sequence over the upper half of the sky, each part of it as often as it is large.
 *
 * @returns a unit vector, y above 0
 */
export function skyDirection(i: number): Vec3 {
  const [u, v] = halton(i + 1);
  const y = Math.max(0.02, u);
  const [s, c] = sinCosDeg(360 * v);
  const r = Math.sqrt(1 - y * y);
  return [r * s, y, r * c];
}

/** A direction turned a little: `x` and `y` -1 to 1 across the sun's disc. */
export function withinSun(sun: Vec3, x: number, y: number, radius = SUN_RADIUS): Vec3 {
  const [s] = sinCosDeg(radius);
  // Any two directions across it and across each other.
  const a: Vec3 = Math.abs(sun[1]) < 0.9 ? [-sun[2], 0, sun[0]] : [0, sun[2], -sun[1]];
  const l = Math.sqrt(a[0] * a[0] + a[1] * a[1] + a[2] * a[2]);
  const u: Vec3 = [a[0] / l, a[1] / l, a[2] / l];
  const v: Vec3 = [sun[1] * u[2] - sun[2] * u[1], sun[2] * u[0] - sun[0] * u[2], sun[0] * u[1] - sun[1] * u[0]];
  const out = [0, 1, 2].map((k) => sun[k] + s * (u[k] * x + v[k] * y)) as Vec3;
  const n = Math.sqrt(out[0] * out[0] + out[1] * out[1] + out[2] * out[2]);
  return [out[0] / n, out[1] / n, out[2] / n];
}
