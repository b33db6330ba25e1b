import type { Terrain } from '../earth/compose';
import type { Limits } from './limits';
import { binAt, CEILING, FLOOR, isBarred, type SolidsNear } from './solidsNear';

/** Surfaces under a place nearer than this in height are one, metres. */
const SAME = 0.002;
/** A floor this far under the terrain is buried. */
const BURIED = 0.05;
/** Undersides from this far over the feet up are in the way. */
const OVER_FEET = 0.02;
/** How far inside the sides it needs a body may be by rounding, metres. */
export const HAIR = 0.004;
/** How often a foot may be set higher at one place: stairs steeper than the body is wide have no more treads under it. */
const LIFTS = 3;

/**
 * Room to work in, one for each user: what was found under a place, and what is nearest to a body there.
 */
export interface Probe {
  /** floors a body may stand on, from the top: heights, rises over run, and solids (-1 terrain) */
  floors: Float64Array;
  tans: Float64Array;
  hosts: Int32Array;
  count: number;
  /** crossings over a place: heights, and 1 + solid where the face looks up, minus that where it looks down */
  cross: Float64Array;
  faces: Int32Array;
  /** the nearest point of what is in the way, and its triangle, after `roomAt` */
  nearX: number;
  nearZ: number;
  near: number;
  /** rise over run of the floor last rested on */
  tan: number;
  /** solid last rested on, -1 terrain */
  host: number;
  polygon: Float64Array;
  /** the place that is looked at, and the heights between which things count there */
  x: number;
  z: number;
  low: number;
  high: number;
}

/** What a body feels its way with: the solids near, what it can do, and room to look in. */
export interface Feeler {
  near: SolidsNear;
  limits: Limits;
  probe: Probe;
}

const MOST = 512;
/** Room for what is near a place while it is looked at; one for each who looks. */
export const makeProbe = (): Probe => ({
  floors: new Float64Array(MOST),
  tans: new Float64Array(MOST),
  hosts: new Int32Array(MOST),
  count: 0,
  cross: new Float64Array(MOST),
  faces: new Int32Array(MOST),
  nearX: 0,
  nearZ: 0,
  near: -1,
  tan: 0,
  host: -1,
  polygon: new Float64Array(24),
  x: 0,
  z: 0,
  low: 0,
  high: 0,
});

/** Height of the terrain at a place and its rise over run there, into `at`: the same triangles as the mesh has. */
export function terrainAt({ grid, heights: h }: Terrain, x: number, z: number): { y: number; tan: number } {
  const { nx, nz, spacing: s } = grid;
  const gx = Math.min(Math.max(x / s, 0), nx - 1);
  const gz = Math.min(Math.max(z / s, 0), nz - 1);
  const ix = Math.min(Math.floor(gx), nx - 2);
  const iz = Math.min(Math.floor(gz), nz - 2);
  const [u, v] = [gx - ix, gz - iz];
  const i = iz * nx + ix;
  const [nw, ne, sw, se] = [h[i], h[i + 1], h[i + nx], h[i + nx + 1]];
  const [dx, dz] = u >= v ? [ne - nw, se - ne] : [se - sw, sw - nw];
  return { y: nw + dx * u + dz * v, tan: Math.sqrt(dx * dx + dz * dz) / s };
}

/**
 * Floors at a place on which a body of some limits could put its middle: the terrain and faces that look up,
 * not too steep, not buried, not inside a closed solid, not too deep in water. From the top down into
 * `probe.floors`. Whether there is room on them is another question, see `roomAt`.
 */
export function floorsAt(s: SolidsNear, limits: Limits, x: number, z: number, probe: Probe): number {
  const ground = terrainAt(s.terrain, x, z);
  const { cross, faces, floors, tans, hosts } = probe;
  const { start, list } = s.over;
  const b = binAt(s.rect, s.over, x, z);
  let crossings = 0;
  let found = 0;
  const { corners: c, bounds, kind, of } = s;
  for (let e = start[b]; e < start[b + 1]; e++) {
    const i = list[e];
    if (x < bounds[i * 6] || x > bounds[i * 6 + 3] || z < bounds[i * 6 + 2] || z > bounds[i * 6 + 5]) continue;
    const o = i * 9;
    const ux = c[o + 3] - c[o],
      uz = c[o + 5] - c[o + 2],
      vx = c[o + 6] - c[o],
      vz = c[o + 8] - c[o + 2];
    const area = uz * vx - ux * vz;
    if (Math.abs(area) < 1e-12) continue;
    const wx = x - c[o],
      wz = z - c[o + 2];
    const r = (wz * vx - wx * vz) / area;
    const t = (uz * wx - ux * wz) / area;
    if (r < -1e-9 || t < -1e-9 || r + t > 1 + 1e-9) continue;
    const y = c[o + 1] + r * (c[o + 4] - c[o + 1]) + t * (c[o + 7] - c[o + 1]);
    if (crossings < MOST) {
      cross[crossings] = y;
      faces[crossings++] = area > 0 ? 1 + of[i] : -1 - of[i];
    }
    if (kind[i] === FLOOR && y > ground.y - BURIED && found < MOST - 1 && !isBarred(s.terrain, x, z, y, false)) {
      floors[found] = y;
      tans[found] = s.tan[i];
      hosts[found++] = of[i];
    }
  }
  if (ground.tan <= limits.grade && !isBarred(s.terrain, x, z, ground.y, true)) {
    floors[found] = ground.y;
    tans[found] = ground.tan;
    hosts[found++] = -1;
  }
  // Few lie over each other: sorted by insertion, from the top; those inside a solid and those met twice fall out.
  let kept = 0;
  for (let i = 0; i < found; i++) {
    const [y, tan, host] = [floors[i], tans[i], hosts[i]];
    if (insideAt(s, probe, crossings, y)) continue;
    let at = kept;
    while (at > 0 && floors[at - 1] < y) at--;
    if ((at > 0 && floors[at - 1] - y < SAME) || (at < kept && y - floors[at] < SAME)) continue;
    for (let k = kept; k > at; k--) {
      floors[k] = floors[k - 1];
      tans[k] = tans[k - 1];
      hosts[k] = hosts[k - 1];
    }
    floors[at] = y;
    tans[at] = tan;
    hosts[at] = host;
    kept++;
  }
  probe.count = kept;
  return kept;
}

/** Whether a height at the place of the last crossings lies inside a closed solid: more of its faces over it look up than down. */
function insideAt({ closed }: SolidsNear, { cross, faces }: Probe, crossings: number, y: number): boolean {
  for (let i = 0; i < crossings; i++) {
    if (cross[i] <= y + SAME || faces[i] < 0) continue;
    const solid = faces[i] - 1;
    if (!closed[solid]) continue;
    let in_ = 0;
    for (let k = 0; k < crossings; k++) {
      if (cross[k] <= y + SAME) continue;
      // A crossing through an edge two faces share is met twice; it is one.
      if (faces[k] === faces[i]) {
        if (!metBefore(cross, faces, k)) in_++;
      } else if (faces[k] === -faces[i] && !metBefore(cross, faces, k)) in_--;
    }
    if (in_ > 0) return true;
  }
  return false;
}

function metBefore(cross: Float64Array, faces: Int32Array, k: number): boolean {
  for (let i = 0; i < k; i++) if (faces[i] === faces[k] && Math.abs(cross[i] - cross[k]) < 1e-6) return true;
  return false;
}

/**
 * Room around a body that stands at a place: distance in plan from its middle to the nearest thing in its way,
 * metres; `look` where nothing is as near as that. The nearest point and its triangle go into the probe.
 *
 * In the way is what lies between the height it can step to and its head; undersides from its feet on; and
 * floors so high that no slope it can walk leads up to them.
 *
 * @param h height of its feet
 * @param tan rise over run of what it stands on
 */
export function roomAt({ near: s, limits, probe }: Feeler, x: number, z: number, h: number, tan: number): number {
  const {
    corners,
    bounds,
    kind,
    about: { start, list },
  } = s;
  const hi = h + limits.head;
  const wall = h + Math.max(limits.step, limits.side * tan + 0.05);
  const ceiling = h + OVER_FEET;
  const floor = h + limits.step + limits.side * limits.grade;
  let best = s.look;
  probe.near = -1;
  probe.x = x;
  probe.z = z;
  probe.high = hi;
  const b = binAt(s.rect, s.about, x, z);
  for (let e = start[b]; e < start[b + 1]; e++) {
    const i = list[e];
    const lo = kind[i] === FLOOR ? floor : kind[i] === CEILING ? ceiling : wall;
    const o = i * 6;
    if (
      bounds[o + 4] <= lo ||
      bounds[o + 1] >= hi ||
      bounds[o] - x >= best ||
      x - bounds[o + 3] >= best ||
      bounds[o + 2] - z >= best ||
      z - bounds[o + 5] >= best
    )
      continue;
    probe.low = lo;
    const d = distanceTo(corners, i * 9, bounds[o + 1] >= lo && bounds[o + 4] <= hi, best, probe);
    if (d < best) {
      best = d;
      probe.near = i;
    }
  }
  return best;
}

/**
 * Distance in plan from the probe's place to the part of a triangle between its two heights; the nearest point goes
 * into the probe where it is nearer than `best`.
 *
 * @param whole the triangle lies between them
 */
function distanceTo(c: Float64Array, o: number, whole: boolean, best: number, probe: Probe): number {
  const { polygon: p, x, z } = probe;
  let n = 3;
  if (whole)
    for (let k = 0; k < 3; k++) {
      p[k * 2] = c[o + k * 3];
      p[k * 2 + 1] = c[o + k * 3 + 2];
    }
  else n = between(c, o, probe.low, probe.high, p);
  if (n === 0) return Infinity;
  let least = best * best;
  let found = false;
  let inside = n > 2;
  let turn = 0;
  for (let k = 0; k < n; k++) {
    const j = k + 1 === n ? 0 : k + 1;
    const ax = p[k * 2],
      az = p[k * 2 + 1];
    const ex = p[j * 2] - ax,
      ez = p[j * 2 + 1] - az;
    const wx = x - ax,
      wz = z - az;
    const side = ex * wz - ez * wx;
    if (Math.abs(side) < 1e-12 || (turn !== 0 && side > 0 !== turn > 0)) inside = false;
    turn = side;
    const l = ex * ex + ez * ez;
    const t = l === 0 ? 0 : Math.min(1, Math.max(0, (wx * ex + wz * ez) / l));
    const dx = wx - ex * t,
      dz = wz - ez * t;
    const d = dx * dx + dz * dz;
    if (d < least) {
      least = d;
      found = true;
      probe.nearX = x - dx;
      probe.nearZ = z - dz;
    }
  }
  if (inside) {
    probe.nearX = x;
    probe.nearZ = z;
    return 0;
  }
  return found ? Math.sqrt(least) : Infinity;
}

/** Where a body's middle is in plan, and how high its feet are, metres. */
export interface FeetAt {
  readonly x: number;
  readonly z: number;
  readonly h: number;
}

/**
 * Whether nothing is within a body's sides all along a short straight line between two places it stands at. Never true
 * where it is not so; false also where the heights leave it open.
 *
 * @param tan rise over run of what it stands on
 */
export function clearAlong({ near: s, limits, probe }: Feeler, a: FeetAt, b: FeetAt, tan: number): boolean {
  const { x: ax, z: az } = a;
  const { x: bx, z: bz } = b;
  const [low, high] = [Math.min(a.h, b.h), Math.max(a.h, b.h)];
  const {
    corners,
    bounds,
    kind,
    about: { start, list },
  } = s;
  const reach = limits.side - HAIR;
  const hi = high + limits.head;
  const wall = low + Math.max(limits.step, limits.side * tan + 0.05);
  const ceiling = low + OVER_FEET;
  const floor = low + limits.step + limits.side * limits.grade;
  const [x0, x1, z0, z1] = [Math.min(ax, bx) - reach, Math.max(ax, bx) + reach, Math.min(az, bz) - reach, Math.max(az, bz) + reach];
  const p = probe.polygon;
  const bin = binAt(s.rect, s.about, (ax + bx) / 2, (az + bz) / 2);
  for (let e = start[bin]; e < start[bin + 1]; e++) {
    const i = list[e];
    const lo = kind[i] === FLOOR ? floor : kind[i] === CEILING ? ceiling : wall;
    const o = i * 6;
    if (bounds[o + 4] <= lo || bounds[o + 1] >= hi || bounds[o] >= x1 || bounds[o + 3] <= x0 || bounds[o + 2] >= z1 || bounds[o + 5] <= z0) continue;
    probe.low = lo;
    probe.high = hi;
    probe.x = ax;
    probe.z = az;
    if (distanceTo(corners, i * 9, false, reach, probe) < reach) return false;
    probe.x = bx;
    probe.z = bz;
    if (distanceTo(corners, i * 9, false, reach, probe) < reach) return false;
    // Both ends are free of it: what is left is a corner that comes near the line between, or an edge that crosses it.
    const n = between(corners, i * 9, lo, hi, p);
    const [dx, dz] = [bx - ax, bz - az];
    const l = dx * dx + dz * dz;
    if (l === 0) continue;
    for (let k = 0; k < n; k++) {
      const j = k + 1 === n ? 0 : k + 1;
      const [px, pz, qx, qz] = [p[k * 2] - ax, p[k * 2 + 1] - az, p[j * 2] - ax, p[j * 2 + 1] - az];
      const t = (px * dx + pz * dz) / l;
      const off = px * dz - pz * dx;
      if (t > 0 && t < 1 && off * off < reach * reach * l) return false;
      const other = qx * dz - qz * dx;
      if (off > 0 === other > 0) continue;
      const at = off / (off - other);
      const along = ((px + (qx - px) * at) * dx + (pz + (qz - pz) * at) * dz) / l;
      if (along > 0 && along < 1) return false;
    }
  }
  return true;
}

/** The part of a triangle between two heights, as plan points; how many. */
function between(c: Float64Array, o: number, lo: number, hi: number, out: Float64Array): number {
  let n = 0;
  for (let k = 0; k < 3; k++) {
    const a = o + k * 3;
    const b = o + (k === 2 ? 0 : (k + 1) * 3);
    const [ya, yb] = [c[a + 1], c[b + 1]];
    // Cut points in the order they come along the edge.
    let t0 = 0,
      t1 = 1;
    if (ya !== yb) {
      const tl = (lo - ya) / (yb - ya),
        th = (hi - ya) / (yb - ya);
      t0 = Math.max(0, Math.min(tl, th));
      t1 = Math.min(1, Math.max(tl, th));
    } else if (ya < lo || ya > hi) continue;
    if (t0 > t1) continue;
    out[n * 2] = c[a] + (c[b] - c[a]) * t0;
    out[n * 2 + 1] = c[a + 2] + (c[b + 2] - c[a + 2]) * t0;
    n++;
    if (t1 > t0) {
      out[n * 2] = c[a] + (c[b] - c[a]) * t1;
      out[n * 2 + 1] = c[a + 2] + (c[b + 2] - c[a + 2]) * t1;
      n++;
    }
  }
  return n;
}

/**
 * Height of the highest floor within a body's sides of a place that it can still step on from `h`; NaN for none.
 * So it goes up stairs steeper than it is wide: its foot stands on the tread before its middle is over it.
 */
export function treadAt({ near: s, limits, probe }: Feeler, x: number, z: number, h: number): number {
  const {
    bounds,
    kind,
    corners,
    about: { start, list },
  } = s;
  let best = NaN;
  probe.x = x;
  probe.z = z;
  probe.low = h + OVER_FEET;
  probe.high = h + limits.step;
  const b = binAt(s.rect, s.about, x, z);
  for (let e = start[b]; e < start[b + 1]; e++) {
    const i = list[e];
    const o = i * 6;
    if (
      kind[i] !== FLOOR ||
      bounds[o + 4] <= h + OVER_FEET ||
      bounds[o + 4] > h + limits.step ||
      bounds[o] - x >= limits.side ||
      x - bounds[o + 3] >= limits.side ||
      bounds[o + 2] - z >= limits.side ||
      z - bounds[o + 5] >= limits.side
    )
      continue;
    if (distanceTo(corners, i * 9, false, limits.side, probe) >= limits.side) continue;
    if (!(best >= bounds[o + 4])) best = bounds[o + 4];
  }
  return best;
}

/**
 * Where a body rests that stands with its middle over a floor: the floor's height, or that of a tread its foot
 * is on already. NaN where there is no room.
 */
export function restAt(feeler: Feeler, x: number, z: number, floor: number, tan: number): number {
  const { side } = feeler.limits;
  let h = floor;
  for (let lift = 0; ; lift++) {
    if (roomAt(feeler, x, z, h, lift === 0 ? tan : 0) >= side - HAIR) return h;
    if (lift === LIFTS) return NaN;
    const next = treadAt(feeler, x, z, h);
    if (!(next > h)) return NaN;
    h = next;
  }
}
