import { TERRAIN_LOD_STRIDES } from '../earth/mesh';
import { tanDeg } from '../num/trig';
import { clamp, type Vec3 } from '../num/vec';
import type { Camera } from './camera';
import type { Drawable } from './drawable';

/** Projected side of a terrain quad, as a share of half the screen height, that a LOD may reach. */
export const QUAD_ON_SCREEN = 0.08;

/**
 * Height on the screen, as a share of half of it, down to which each LOD but the last is drawn. An
 * asset with fewer LODs uses the last of these, one with more `lodOnScreen`.
 */
export const LOD_ON_SCREEN = [0.3, 0.13, 0.045] as const;

/** Height on the screen down to which LOD `lod` of `lods` is drawn; of more than four each further one to half of it. */
export function lodOnScreen(lods: number, lod: number): number {
  const last = LOD_ON_SCREEN.length - 1;
  const at = Math.max(0, last + 1 - (lods - 1)) + lod;
  return at <= last ? LOD_ON_SCREEN[at] : LOD_ON_SCREEN[last] / 2 ** (at - last);
}

/** LOD of an instanced thing by its height on the screen: s = radius / (distance tan(fov / 2)). */
export function instanceLod(
  lods: number,
  radius: number,
  distance: number,
  { fov, halfHeight }: Pick<Camera, 'fov' | 'halfHeight'>,
  coarseness: number,
): number {
  const s = fov === 0 ? radius / halfHeight : radius / (Math.max(distance, 0.5) * tanDeg(fov / 2));
  let lod = 0;
  while (lod < lods - 1 && s < lodOnScreen(lods, lod) * coarseness) lod++;
  return lod;
}

/** LOD a drawable is drawn at. @param distance of its nearest point, metres @param spacing of the terrain's samples @param coarseness see `batchList` */
export function lodOf(d: Drawable, camera: Camera, distance: number, spacing: number, coarseness: number): number {
  if (d.course === 'terrain') return terrainLod(camera, distance, spacing, coarseness);
  if (d.instances === 0) return 0;
  return instanceLod(d.triangles.length, d.radius, distance, camera, coarseness);
}

function terrainLod(camera: Camera, distance: number, spacing: number, coarseness: number): number {
  const scale = camera.fov === 0 ? 1 / camera.halfHeight : 1 / (Math.max(distance, 1) * tanDeg(camera.fov / 2));
  let lod = 0;
  while (lod + 1 < TERRAIN_LOD_STRIDES.length && spacing * TERRAIN_LOD_STRIDES[lod + 1] * scale <= QUAD_ON_SCREEN * coarseness) lod++;
  return lod;
}

/** Metres from a point to the farthest corner of a box. */
export function farthest(p: Vec3, min: Vec3, max: Vec3): number {
  let sum = 0;
  for (let k = 0; k < 3; k++) {
    const d = Math.max(Math.abs(p[k] - min[k]), Math.abs(p[k] - max[k]));
    sum += d * d;
  }
  return Math.sqrt(sum);
}

/** Metres from a point to a box; 0 inside it. */
export function nearest(p: Vec3, min: Vec3, max: Vec3): number {
  let sum = 0;
  for (let k = 0; k < 3; k++) {
    const d = p[k] - clamp(p[k], min[k], max[k]);
    sum += d * d;
  }
  return Math.sqrt(sum);
}
