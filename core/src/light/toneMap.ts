import type { Vec3 } from '../num/vec';

/** Where the curve leaves the straight line, and how fast bright colours lose their hue. */
const START = 0.8 - 0.04;
const DESATURATION = 0.15;

/**
 * Neutral tone mapping: colours up to 0.76 stay what they are less a small offset, so that a grey card is as grey as it is; brighter
 * ones are drawn together below 1 and fade to white (Khronos PBR Neutral tone mapper).
 *
 * @param light linear red, green, blue, 0 and up
 * @returns linear, 0 to 1
 */
export function toneMap(light: Vec3): Vec3 {
  const least = Math.min(light[0], light[1], light[2]);
  const offset = least < 0.08 ? least - 6.25 * least * least : 0.04;
  const c: Vec3 = [light[0] - offset, light[1] - offset, light[2] - offset];
  const peak = Math.max(c[0], c[1], c[2]);
  if (peak < START) return c;
  const d = 1 - START;
  const next = 1 - (d * d) / (peak + d - START);
  const g = 1 - 1 / (DESATURATION * (peak - next) + 1);
  return c.map((v) => (v * next) / peak + (next - (v * next) / peak) * g) as Vec3;
}

/** The grade of a lighting on linear light: exposure as a factor, contrast about a middle grey of 0.18, saturation. */
export function graded(light: Vec3, exposure: number, contrast: number, saturation: number): Vec3 {
  const c = light.map((v) => 0.18 * Math.pow(Math.max(0, v * exposure) / 0.18, contrast)) as Vec3;
  const grey = 0.2126 * c[0] + 0.7152 * c[1] + 0.0722 * c[2];
  return c.map((v) => Math.max(0, grey + (v - grey) * saturation)) as Vec3;
}
