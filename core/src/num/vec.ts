/** Points and directions as tuples, metres, Y up, right-handed. */
export type Vec3 = [x: number, y: number, z: number];

/**
 * Sum of two vectors.
 *
 * @example
 * const above = add(at, [0, 1.8, 0]);
 */
export const add = (a: Vec3, b: Vec3): Vec3 => [a[0] + b[0], a[1] + b[1], a[2] + b[2]];
/**
 * The first vector less the second.
 *
 * @example
 * const along = sub(to, from);
 */
export const sub = (a: Vec3, b: Vec3): Vec3 => [a[0] - b[0], a[1] - b[1], a[2] - b[2]];
/** A vector times a number. */
export const scale = (a: Vec3, s: number): Vec3 => [a[0] * s, a[1] * s, a[2] * s];
/**
 * Scalar product.
 *
 * @example
 * const rise = dot(normal, [0, 1, 0]); // 1 on level ground, 0 on a wall
 */
export const dot = (a: Vec3, b: Vec3): number => a[0] * b[0] + a[1] * b[1] + a[2] * b[2];
/**
 * Vector product, by the right hand.
 *
 * @example
 * const normal = normalize(cross(sub(b, a), sub(c, a))); // of a triangle that is counter-clockwise from outside
 */
export const cross = (a: Vec3, b: Vec3): Vec3 => [a[1] * b[2] - a[2] * b[1], a[2] * b[0] - a[0] * b[2], a[0] * b[1] - a[1] * b[0]];
/** Length of a vector. */
export const length = (a: Vec3): number => Math.sqrt(dot(a, a));
/** Distance of two points. */
export const distance = (a: Vec3, b: Vec3): number => length(sub(a, b));
/**
 * A vector of its direction and length 1; of one without length, that itself.
 *
 * @example
 * normalize([0, 0, 5]); // [0, 0, 1]
 */
export function normalize(a: Vec3): Vec3 {
  const l = length(a);
  return l > 0 ? scale(a, 1 / l) : [0, 0, 0];
}
/**
 * The nearest number to `x` that is not under `low` nor over `high`.
 *
 * @example
 * clamp(7, 0, 5); // 5
 */
export const clamp = (x: number, low: number, high: number): number => (x < low ? low : x > high ? high : x);
/** From `a` (t = 0) to `b` (t = 1), straight. */
export const lerp = (a: number, b: number, t: number): number => a + (b - a) * t;

/** 0 below `low`, 1 above `high`, a cubic between. */
export function smoothstep(low: number, high: number, x: number): number {
  const t = clamp((x - low) / (high - low), 0, 1);
  return t * t * (3 - 2 * t);
}

/** Length of a polyline, metres. */
export function polylineLength(points: readonly Vec3[]): number {
  let sum = 0;
  for (let i = 1; i < points.length; i++) sum += distance(points[i - 1], points[i]);
  return sum;
}
