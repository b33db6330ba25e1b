import type { Limits } from './limits';
import type { SolidsNear } from './solidsNear';
import { floorsAt, HAIR, restAt, roomAt, type Probe } from './standing';

/** How far a body is moved between two looks, metres: at a sharp corner it cuts off less than a tenth of a millimetre. */
const LOOK_EVERY = 0.04;

/**
 * Where a body comes to rest that steps on to a place from feet at a height: not more than its step up or
 * down. NaN where it cannot.
 */
export function stepTo(s: SolidsNear, limits: Limits, x: number, z: number, from: number, probe: Probe): number {
  const n = floorsAt(s, limits, x, z, probe);
  for (let i = 0; i < n; i++) {
    const y = probe.floors[i];
    if (y > from + limits.step) continue;
    // A tread under its foot may hold it up to its lifts over what is under its middle.
    if (y < from - 3 * limits.step) return NaN;
    const [tan, host] = [probe.tans[i], probe.hosts[i]];
    const h = restAt(s, limits, x, z, y, tan, probe);
    if (h <= from + limits.step && h >= from - limits.step) {
      probe.tan = tan;
      probe.host = host;
      return h;
    }
  }
  return NaN;
}

/**
 * Walks a body along a straight line in plan, over what is there: steps no higher than it takes, gaps no wider
 * than its foot bridges, room on all sides at every look.
 *
 * @param h height of its feet where it starts; that it can stand there is known
 * @param each told of each look on the way: where, and how high the feet are
 * @returns height of its feet at the end, or NaN where it does not get there
 */
export function stride(
  s: SolidsNear,
  limits: Limits,
  ax: number,
  az: number,
  h: number,
  bx: number,
  bz: number,
  probe: Probe,
  each?: (x: number, z: number, h: number) => void,
): number {
  const length = Math.sqrt((bx - ax) * (bx - ax) + (bz - az) * (bz - az));
  const n = Math.max(1, Math.ceil(length / LOOK_EVERY));
  let bridged = 0;
  for (let k = 1; k <= n; k++) {
    const x = ax + ((bx - ax) * k) / n;
    const z = az + ((bz - az) * k) / n;
    const next = stepTo(s, limits, x, z, h, probe);
    if (next === next) {
      h = next;
      bridged = 0;
    } else {
      bridged += length / n;
      if (k === n || bridged > limits.side || roomAt(s, limits, x, z, h, 0, probe) < limits.side - HAIR) return NaN;
    }
    each?.(x, z, h);
  }
  return h;
}

/** Looks a body that slides along walls may take for each that it would take straight. */
const DETOUR = 3;

/**
 * Walks a body from one place to another near by, sliding along what is in its way: in a door just wide
 * enough it must be between the posts before it goes on.
 *
 * @returns height of its feet at the end, or NaN where it does not get there
 */
export function slide(s: SolidsNear, limits: Limits, ax: number, az: number, h: number, bx: number, bz: number, probe: Probe): number {
  let [x, z] = [ax, az];
  let left = Math.ceil((DETOUR * Math.sqrt((bx - ax) * (bx - ax) + (bz - az) * (bz - az))) / LOOK_EVERY);
  for (; left > 0; left--) {
    const far = Math.sqrt((bx - x) * (bx - x) + (bz - z) * (bz - z));
    const on = Math.min(1, LOOK_EVERY / far);
    let nextX = x + (bx - x) * on;
    let nextZ = z + (bz - z) * on;
    let next = stepTo(s, limits, nextX, nextZ, h, probe);
    for (let push = 0; push < 4 && next !== next; push++) {
      // Only what is beside it can be slid along; what is met from above or below cannot.
      const room = roomAt(s, limits, nextX, nextZ, h, 0, probe);
      if (room < 1e-6 || room >= limits.side - HAIR) return NaN;
      const by = (limits.side - room) / room;
      nextX += (nextX - probe.nearX) * by;
      nextZ += (nextZ - probe.nearZ) * by;
      next = stepTo(s, limits, nextX, nextZ, h, probe);
    }
    const rest = Math.sqrt((bx - nextX) * (bx - nextX) + (bz - nextZ) * (bz - nextZ));
    if (next !== next || (on < 1 && rest > far - LOOK_EVERY * 0.1)) return NaN;
    [x, z, h] = [nextX, nextZ, next];
    if (rest < HAIR) return h;
  }
  return NaN;
}
