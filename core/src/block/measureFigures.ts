import { slopeDeg } from '../num/trig';
import type { Vec3 } from '../num/vec';

/** What a measured line says: all metres, slope in degrees. */
export interface MeasureFigures {
  length: number;
  /** in plan */
  run: number;
  /** from the first end to the second; negative falls */
  rise: number;
  slope: number;
}

/** What a measure from one point to another says: distances in metres, slope in degrees. Both points in metres. */
export function measureFigures(a: Vec3, b: Vec3): MeasureFigures {
  const [dx, rise, dz] = [b[0] - a[0], b[1] - a[1], b[2] - a[2]];
  const run = Math.sqrt(dx * dx + dz * dz);
  return { length: Math.sqrt(run * run + rise * rise), run, rise, slope: run < 1e-9 ? (rise === 0 ? 0 : 90) : slopeDeg(Math.abs(rise) / run) };
}

/** In words: `4.20 m`, with run, rise and slope where it is not level. */
export function measureText(a: Vec3, b: Vec3): string {
  const { length, run, rise, slope } = measureFigures(a, b);
  return Math.abs(rise) < 0.005
    ? `${length.toFixed(2)} m`
    : `${length.toFixed(2)} m: run ${run.toFixed(2)}, ${rise > 0 ? 'rise' : 'fall'} ${Math.abs(rise).toFixed(2)}, ${slope.toFixed(1)}°`;
}
