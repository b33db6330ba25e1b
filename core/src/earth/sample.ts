import { clamp, type Vec3 } from '../num/vec';
import { slopeDeg } from '../num/trig';
import type { Grid } from '../level/tiles';
import type { Terrain } from './compose';

/**
 * Height of the drawn surface at (x, z), metres: the two triangles of each quad, split from its
 * north-west to its south-east corner, exactly as the mesh, the walk area and the walker have it.
 * Outside the level the nearest edge counts.
 *
 * @example
 * const feet: Vec3 = [x, heightAt(terrain, x, z), z];
 */
export function heightAt(terrain: Terrain, x: number, z: number): number {
  const { nx, nz, spacing } = terrain.grid;
  const h = terrain.heights;
  const gx = clamp(x / spacing, 0, nx - 1);
  const gz = clamp(z / spacing, 0, nz - 1);
  const ix = Math.min(Math.floor(gx), nx - 2);
  const iz = Math.min(Math.floor(gz), nz - 2);
  const u = gx - ix;
  const v = gz - iz;
  const i = iz * nx + ix;
  const nw = h[i];
  const se = h[i + nx + 1];
  if (u >= v) {
    const ne = h[i + 1];
    return nw + (ne - nw) * u + (se - ne) * v;
  }
  const sw = h[i + nx];
  return nw + (sw - nw) * v + (se - sw) * u;
}

/** Gradient (rise over run in x and z) at a sample by central differences, one-sided at the rim. */
export function gradientAtSample(terrain: Terrain, ix: number, iz: number): [gx: number, gz: number] {
  const { nx, nz, spacing } = terrain.grid;
  const h = terrain.heights;
  const x0 = Math.max(ix - 1, 0);
  const x1 = Math.min(ix + 1, nx - 1);
  const z0 = Math.max(iz - 1, 0);
  const z1 = Math.min(iz + 1, nz - 1);
  return [(h[iz * nx + x1] - h[iz * nx + x0]) / ((x1 - x0) * spacing), (h[z1 * nx + ix] - h[z0 * nx + ix]) / ((z1 - z0) * spacing)];
}

/** Gradient at any point, bilinear between the samples' central differences. */
export function gradientAt(terrain: Terrain, x: number, z: number): [gx: number, gz: number] {
  const { nx, nz, spacing } = terrain.grid;
  const fx = clamp(x / spacing, 0, nx - 1);
  const fz = clamp(z / spacing, 0, nz - 1);
  const ix = Math.min(Math.floor(fx), nx - 2);
  const iz = Math.min(Math.floor(fz), nz - 2);
  const u = fx - ix;
  const v = fz - iz;
  const a = gradientAtSample(terrain, ix, iz);
  const b = gradientAtSample(terrain, ix + 1, iz);
  const c = gradientAtSample(terrain, ix, iz + 1);
  const d = gradientAtSample(terrain, ix + 1, iz + 1);
  const mix = (k: 0 | 1) => (a[k] * (1 - u) + b[k] * u) * (1 - v) + (c[k] * (1 - u) + d[k] * u) * v;
  return [mix(0), mix(1)];
}

/** The quad of the grid a point lies in: its north-west sample and how far it is across, 0 to 1 each way. Outside the level the nearest edge counts. */
export function quadAt({ nx, nz, spacing }: Pick<Grid, 'nx' | 'nz' | 'spacing'>, x: number, z: number): { ix: number; iz: number; u: number; v: number } {
  const fx = clamp(x / spacing, 0, nx - 1);
  const fz = clamp(z / spacing, 0, nz - 1);
  const ix = Math.min(Math.floor(fx), nx - 2);
  const iz = Math.min(Math.floor(fz), nz - 2);
  return { ix, iz, u: fx - ix, v: fz - iz };
}

/**
 * Steepness (rise over run) at any point: the length of `gradientAt`, with the same arithmetic and
 * without making anything, for loops over many points.
 */
export function steepnessAt(terrain: Terrain, x: number, z: number): number {
  const { nx, nz, spacing } = terrain.grid;
  const h = terrain.heights;
  const { ix, iz, u, v } = quadAt(terrain.grid, x, z);
  if (ix < 1 || iz < 1 || ix > nx - 3 || iz > nz - 3) {
    const [gx, gz] = gradientAt(terrain, x, z);
    return Math.sqrt(gx * gx + gz * gz);
  }
  const i = iz * nx + ix;
  const j = i + nx;
  const run = 2 * spacing;
  const ax = (h[i + 1] - h[i - 1]) / run;
  const bx = (h[i + 2] - h[i]) / run;
  const cx = (h[j + 1] - h[j - 1]) / run;
  const dx = (h[j + 2] - h[j]) / run;
  const az = (h[j] - h[i - nx]) / run;
  const bz = (h[j + 1] - h[i + 1 - nx]) / run;
  const cz = (h[j + nx] - h[i]) / run;
  const dz = (h[j + nx + 1] - h[i + 1]) / run;
  const gx = (ax * (1 - u) + bx * u) * (1 - v) + (cx * (1 - u) + dx * u) * v;
  const gz = (az * (1 - u) + bz * u) * (1 - v) + (cz * (1 - u) + dz * u) * v;
  return Math.sqrt(gx * gx + gz * gz);
}

/** Slope in degrees: the angle of the central-difference gradient. */
export function slopeAt(terrain: Terrain, x: number, z: number): number {
  const [gx, gz] = gradientAt(terrain, x, z);
  return slopeDeg(Math.sqrt(gx * gx + gz * gz));
}

/** The upward normal of the terrain at a point, of length 1. @param x metres @param z metres; outside the level those of its edge */
export function normalAt(terrain: Terrain, x: number, z: number): Vec3 {
  const [gx, gz] = gradientAt(terrain, x, z);
  const l = Math.sqrt(gx * gx + gz * gz + 1);
  return [-gx / l, 1 / l, -gz / l];
}

/**
 * First hit of a ray with the terrain, as distance along the ray, or `undefined`.
 *
 * Marches in steps of half the spacing (longer where the ray is high above the ground), then
 * bisects to under a millimetre.
 *
 * @param direction unit length
 */
export function rayTerrain(terrain: Terrain, origin: Vec3, direction: Vec3, far: number): number | undefined {
  const { width, depth, spacing } = terrain.grid;
  const [near, end] = clipToBox(origin, direction, width, depth, far);
  if (near > end) return undefined;
  const over = (t: number) => origin[1] + direction[1] * t - heightAt(terrain, origin[0] + direction[0] * t, origin[2] + direction[2] * t);
  const flat = Math.sqrt(direction[0] * direction[0] + direction[2] * direction[2]);
  let t = near;
  let gap = over(t);
  if (gap < 0) return undefined;
  while (t < end) {
    // Ground steeper than 8:1 is not expected between samples, so a high ray may take longer steps.
    const step = Math.max(spacing * 0.5, (gap / 8) * (flat > 0.125 ? 1 : 4)) / Math.max(flat, 0.05);
    const next = Math.min(t + Math.max(step * 0.5, spacing * 0.25), end);
    const nextGap = over(next);
    if (nextGap <= 0) {
      let low = t;
      let high = next;
      for (let i = 0; i < 24 && high - low > 0.0005; i++) {
        const mid = (low + high) / 2;
        if (over(mid) > 0) low = mid;
        else high = mid;
      }
      return high;
    }
    t = next;
    gap = nextGap;
    if (next === end) break;
  }
  return undefined;
}

function clipToBox(o: Vec3, d: Vec3, width: number, depth: number, far: number): [number, number] {
  let near = 0;
  let end = far;
  for (const [p, v, max] of [
    [o[0], d[0], width],
    [o[2], d[2], depth],
  ]) {
    if (Math.abs(v) < 1e-12) {
      if (p < 0 || p > max) return [1, 0];
      continue;
    }
    const a = -p / v;
    const b = (max - p) / v;
    near = Math.max(near, Math.min(a, b));
    end = Math.min(end, Math.max(a, b));
  }
  return [near, end];
}
