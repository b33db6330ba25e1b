import { floorsAt, HAIR, restAt, roomAt, type Feeler, type FeetAt } from './standing';

/** How far a body is moved between two looks, metres: at a sharp corner it cuts off less than a tenth of a millimetre. */
const LOOK_EVERY = 0.04;

/**
 * Where a body comes to rest that steps on to a place from feet at a height: not more than its step up or
 * down. NaN where it cannot.
 */
export function stepTo(feeler: Feeler, x: number, z: number, from: number): number {
  const { near, limits, probe } = feeler;
  const n = floorsAt(near, limits, x, z, probe);
  for (let i = 0; i < n; i++) {
    const y = probe.floors[i];
    if (y > from + limits.step) continue;
    // A tread under its foot may hold it up to its lifts over what is under its middle.
    if (y < from - 3 * limits.step) return NaN;
    const [tan, host] = [probe.tans[i], probe.hosts[i]];
    const h = restAt(feeler, x, z, y, tan);
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
 * @param from that it can stand there is known
 * @param each told of each look on the way: where, and how high the feet are
 * @returns height of its feet at the end, or NaN where it does not get there
 */
export function stride(
  feeler: Feeler,
  { x: ax, z: az, h: from }: FeetAt,
  { x: bx, z: bz }: Pick<FeetAt, 'x' | 'z'>,
  each?: (x: number, z: number, h: number) => void,
): number {
  const { side } = feeler.limits;
  let h = from;
  const length = Math.sqrt((bx - ax) * (bx - ax) + (bz - az) * (bz - az));
  const n = Math.max(1, Math.ceil(length / LOOK_EVERY));
  let bridged = 0;
  for (let k = 1; k <= n; k++) {
    const x = ax + ((bx - ax) * k) / n;
    const z = az + ((bz - az) * k) / n;
    const next = stepTo(feeler, x, z, h);
    if (next === next) {
      h = next;
      bridged = 0;
    } else {
      bridged += length / n;
      if (k === n || bridged > side || roomAt(feeler, x, z, h, 0) < side - HAIR) return NaN;
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
export function slide(feeler: Feeler, from: FeetAt, { x: bx, z: bz }: Pick<FeetAt, 'x' | 'z'>): number {
  const {
    limits: { side },
    probe,
  } = feeler;
  let { x, z, h } = from;
  let left = Math.ceil((DETOUR * Math.sqrt((bx - x) * (bx - x) + (bz - z) * (bz - z))) / LOOK_EVERY);
  for (; left > 0; left--) {
    const far = Math.sqrt((bx - x) * (bx - x) + (bz - z) * (bz - z));
    const on = Math.min(1, LOOK_EVERY / far);
    let nextX = x + (bx - x) * on;
    let nextZ = z + (bz - z) * on;
    let next = stepTo(feeler, nextX, nextZ, h);
    for (let push = 0; push < 4 && next !== next; push++) {
      // Only what is beside it can be slid along; what is met from above or below cannot.
      const room = roomAt(feeler, nextX, nextZ, h, 0);
      if (room < 1e-6 || room >= side - HAIR) return NaN;
      const by = (side - room) / room;
      nextX += (nextX - probe.nearX) * by;
      nextZ += (nextZ - probe.nearZ) * by;
      next = stepTo(feeler, nextX, nextZ, h);
    }
    const rest = Math.sqrt((bx - nextX) * (bx - nextX) + (bz - nextZ) * (bz - nextZ));
    if (next !== next || (on < 1 && rest > far - LOOK_EVERY * 0.1)) return NaN;
    [x, z, h] = [nextX, nextZ, next];
    if (rest < HAIR) return h;
  }
  return NaN;
}
