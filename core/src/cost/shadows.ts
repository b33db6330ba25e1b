import { batchOf, type Batch } from './batches';
import type { Camera } from './camera';
import type { Drawable } from './drawable';
import { farthest, lodOf, nearest } from './lods';

/** Far ends of the shadow cascades, metres; nothing beyond the last throws a shadow on the target device. */
export const CASCADES = [12, 35, 80] as const;

/**
 * The shadow pass of the target device: everything that casts within the shadow distance, seen or
 * not, drawn again in each cascade it touches at the LOD it is seen at. Rammer's own view bakes its
 * shadows and draws none of this. An orthographic view has no shadow pass.
 */
export function shadowBatches(drawables: Iterable<Drawable>, camera: Camera, spacing: number): Batch[] {
  if (camera.fov === 0) return [];
  const out: Batch[] = [];
  for (const d of drawables) {
    if (!d.casts || d.holds) continue;
    const near = nearest(camera.eye, d.min, d.max);
    if (near > Math.min(CASCADES[CASCADES.length - 1], d.castsTo ?? Infinity) || (d.cutoff > 0 && near > d.cutoff)) continue;
    const far = farthest(camera.eye, d.min, d.max);
    const batch = batchOf(d, lodOf(d, camera, near, spacing, 1), camera, near);
    CASCADES.forEach((end, i) => {
      const start = i === 0 ? 0 : CASCADES[i - 1];
      // Meshes are on the GPU once already; a depth pass shades no pixels worth counting.
      if (near <= end && far >= start) out.push({ ...batch, key: `${d.key}#${i}`, course: 'shadows', overdraw: 0, bytes: 0, shared: undefined });
    });
  }
  return out;
}

/**
 * What throws shadows in Rammer's own picture: all that casts on the target device, and the terrain, seen or not, at the LOD it is seen at.
 */
export function castersOf(drawables: Iterable<Drawable>, camera: Camera, spacing: number, coarseness: number): { drawable: Drawable; lod: number }[] {
  const out: { drawable: Drawable; lod: number }[] = [];
  for (const d of drawables) {
    if ((!d.casts && d.course !== 'terrain') || d.holds) continue;
    const distance = camera.fov === 0 ? 0 : nearest(camera.eye, d.min, d.max);
    if ((d.cutoff > 0 && distance > d.cutoff) || distance > (d.castsTo ?? Infinity)) continue;
    out.push({ drawable: d, lod: lodOf(d, camera, distance, spacing, coarseness) });
  }
  return out;
}
