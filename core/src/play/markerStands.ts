import type { Vec3 } from '../num/vec';
import { FINE, PLAIN, STAND } from './bakeTile';
import { floorsAt, makeProbe } from './standing';
import type { PlanRect, SolidsNear } from './solidsNear';
import { standAt, type StandAt, type WalkArea } from './walkArea';

/** How far a marker may float over its ground, and how deep it may be sunk in it, metres. */
const FLOATS = 2;
const SUNK = 0.5;
/** Heights over the ground at which nothing may stand between a body and a marker, as shares of its own. */
const LOOKS = [0.3, 0.85] as const;

/**
 * Stands from which a marker is reached: on its own ground, within a distance of it, and with nothing in
 * between; the nearest first.
 *
 * @param radius metres in plan
 */
export function markerStands(area: WalkArea, marker: Vec3, radius: number): number[] {
  const [x, y, z] = marker;
  const near = area.near(x, z);
  const ground = groundUnder(near, area, x, y, z);
  if (ground === undefined) return [];
  const found: { id: number; away: number }[] = [];
  const at: StandAt = { x: 0, z: 0, h: 0 };
  const probe = makeProbe();
  // A cell's own size is added: its stand is somewhere in it.
  const within = radius + area.cut.cell;
  eachStand(area, { x0: x - radius, z0: z - radius, x1: x + radius, z1: z + radius }, (id, open) => {
    standAt(area, id, at);
    const away = Math.sqrt((at.x - x) * (at.x - x) + (at.z - z) * (at.z - z));
    if (Math.abs(at.h - ground) > area.limits.step + away * area.limits.grade) return;
    if (away > within) {
      // A quad of open ground is walked all over: so near to the marker as is asked, if the body gets there.
      const t = radius / away;
      if (!open || !(area.walk(at, { x: x + (at.x - x) * t, z: z + (at.z - z) * t }, probe) > -Infinity)) return;
    }
    if (LOOKS.every((share) => !blocked(near, [at.x, at.h + area.body.height * share, at.z], [x, ground + area.body.height * share, z])))
      found.push({ id, away });
  });
  return found.sort((a, b) => a.away - b.away || a.id - b.id).map(({ id }) => id);
}

/** Height of what a marker stands on: the highest floor under it that a body could stand on. */
function groundUnder(near: SolidsNear, { limits }: WalkArea, x: number, y: number, z: number): number | undefined {
  const probe = makeProbe();
  const n = floorsAt(near, limits, x, z, probe);
  for (let i = 0; i < n; i++) if (probe.floors[i] <= y + SUNK) return probe.floors[i] >= y - FLOATS ? probe.floors[i] : undefined;
  return undefined;
}

/** Stands of the quads a rectangle touches: of open quads one each. */
function eachStand(
  { cut: { grid, quads, across, cells }, tiles, base }: WalkArea,
  { x0, z0, x1, z1 }: PlanRect,
  each: (id: number, open: boolean) => void,
): void {
  const s = grid.spacing;
  const [a0, a1] = [Math.max(0, Math.floor(x0 / s)), Math.min(grid.nx - 2, Math.floor(x1 / s))];
  const [b0, b1] = [Math.max(0, Math.floor(z0 / s)), Math.min(grid.nz - 2, Math.floor(z1 / s))];
  for (let qz = b0; qz <= b1; qz++) {
    for (let qx = a0; qx <= a1; qx++) {
      const t = Math.floor(qz / quads) * across + Math.floor(qx / quads);
      const tile = tiles[t];
      const q = (qz % quads) * quads + (qx % quads);
      if (tile.state[q] === PLAIN || tile.state[q] === STAND) each(qz * (grid.nx - 1) + qx, true);
      else if (tile.state[q] === FINE) {
        const c = tile.at[q];
        for (let i = tile.first[c]; i < tile.first[c + cells * cells]; i++) each(base[t] + i, false);
      }
    }
  }
}

/** Whether a triangle stands between two points; either side of it hides. */
export function blocked({ corners: c, count, bounds }: SolidsNear, [ax, ay, az]: Vec3, [bx, by, bz]: Vec3): boolean {
  const [dx, dy, dz] = [bx - ax, by - ay, bz - az];
  const [lx, hx, ly, hy, lz, hz] = [Math.min(ax, bx), Math.max(ax, bx), Math.min(ay, by), Math.max(ay, by), Math.min(az, bz), Math.max(az, bz)];
  for (let i = 0; i < count; i++) {
    const k = i * 6;
    if (bounds[k] > hx || bounds[k + 3] < lx || bounds[k + 1] > hy || bounds[k + 4] < ly || bounds[k + 2] > hz || bounds[k + 5] < lz) continue;
    const o = i * 9;
    const ux = c[o + 3] - c[o],
      uy = c[o + 4] - c[o + 1],
      uz = c[o + 5] - c[o + 2];
    const vx = c[o + 6] - c[o],
      vy = c[o + 7] - c[o + 1],
      vz = c[o + 8] - c[o + 2];
    const nx = uy * vz - uz * vy,
      ny = uz * vx - ux * vz,
      nz = ux * vy - uy * vx;
    const facing = nx * dx + ny * dy + nz * dz;
    if (Math.abs(facing) < 1e-12) continue;
    const wx = ax - c[o],
      wy = ay - c[o + 1],
      wz = az - c[o + 2];
    const t = -(nx * wx + ny * wy + nz * wz) / facing;
    if (t < 0 || t > 1) continue;
    // Moeller and Trumbore: barycentric coordinates of where it is met.
    const qx = wy * dz - wz * dy,
      qy = wz * dx - wx * dz,
      qz = wx * dy - wy * dx;
    const s = (qx * vx + qy * vy + qz * vz) / -facing;
    const r = -(qx * ux + qy * uy + qz * uz) / -facing;
    if (s >= 0 && r >= 0 && s + r <= 1) return true;
  }
  return false;
}
