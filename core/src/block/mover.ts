import type { Stop } from '../level/objects';
import type { Vec3 } from '../num/vec';

/** Seconds from leaving the first stop's wait to its next. */
export const moverPeriod = (stops: readonly Stop[]): number => stops.reduce((sum, s) => sum + s.travel + s.wait, 0);

/**
 * Where a mover is at a time, from its own place. At 0 it begins to wait at the first stop; between
 * stops it goes straight at an even speed.
 *
 * @param t seconds, any
 */
export function moverOffset(stops: readonly Stop[], t: number): Vec3 {
  const period = moverPeriod(stops);
  let left = ((t % period) + period) % period;
  for (let i = 0; i < stops.length; i++) {
    if (left <= stops[i].wait) return [...stops[i].by];
    left -= stops[i].wait;
    const next = stops[(i + 1) % stops.length];
    if (left < next.travel) {
      const k = left / next.travel;
      return [0, 1, 2].map((a) => stops[i].by[a] + (next.by[a] - stops[i].by[a]) * k) as Vec3;
    }
    left -= next.travel;
  }
  return [...stops[0].by];
}

/** Places along a mover's whole way: every stop, and so many on each leg. */
export function moverPlaces(stops: readonly Stop[], along: number): Vec3[] {
  const out: Vec3[] = [];
  stops.forEach((from, i) => {
    const to = stops[(i + 1) % stops.length];
    for (let k = 0; k < along; k++) out.push([0, 1, 2].map((a) => from.by[a] + ((to.by[a] - from.by[a]) * k) / along) as Vec3);
  });
  return out;
}

/** Greatest speed on its way, m/s. */
export function moverSpeed(stops: readonly Stop[]): number {
  return Math.max(
    ...stops.map((s, i) => {
      const from = stops[(i + stops.length - 1) % stops.length].by;
      return Math.sqrt(s.by.reduce((sum, v, k) => sum + (v - from[k]) ** 2, 0)) / s.travel;
    }),
  );
}
