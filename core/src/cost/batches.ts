import { alphaScreens } from './alphaScreens';
import { boxInFrustum, frustumPlanes, type Camera } from './camera';
import { isCover, type Course, type Drawable, type Shared } from './drawable';
import { NOTHING_TOGETHER, drawnTogether } from './drawnTogether';
import { lodOf, nearest } from './lods';
import { SHADE, screenShare } from './sheet';

/** What is drawn of one drawable in a view. */
export interface Batch {
  key: string;
  course: Course;
  of: string;
  lod: number;
  draws: number;
  triangles: number;
  vertices: number;
  instances: number;
  /** what is shaded over again, in screens: alpha-tested area, surfaces mixed, water, haze */
  overdraw: number;
  /** how much of that is coats */
  coats?: number;
  bytes: number;
  shared?: readonly Shared[];
}

/**
 * The batch list of a view: what is drawn, at which LOD. The view draws exactly this list and the
 * wall counts it. A batch is (mesh LOD, material, cell), drawn instanced; it counts if its bounds meet
 * the frustum and its distance is within the cut-off.
 *
 * A drawable that holds others is drawn in their place where all of them are at their coarsest LOD and within their cut-off: what
 * one sees is the same, in fewer draws.
 *
 * A terrain tile takes the coarsest LOD whose quads stay under `QUAD_ON_SCREEN * coarseness` on the
 * screen at the tile's nearest point.
 *
 * @param coarseness 1 for the full picture; larger lets LODs change nearer (the governor's lever); 0 keeps the finest
 * @param cull false draws what is out of view too: a baseline to measure against
 */
export function batchList(drawables: Iterable<Drawable>, camera: Camera, spacing: number, coarseness: number, cull = true): Batch[] {
  const planes = frustumPlanes(camera);
  const out: Batch[] = [];
  let coats = 0;
  const together = cull ? drawnTogether(drawables, camera, spacing, coarseness) : NOTHING_TOGETHER;
  for (const d of drawables) {
    if (d.holds ? !together.wide.has(d.key) : together.held.has(d.key)) continue;
    if (cull && !boxInFrustum(planes, d.min, d.max)) continue;
    const distance = camera.fov === 0 ? 0 : nearest(camera.eye, d.min, d.max);
    if (cull && d.cutoff > 0 && distance > d.cutoff) continue;
    const batch = batchOf(d, lodOf(d, camera, distance, spacing, coarseness), camera, distance);
    if (d.sheet && d.sheet.shade > 0) batch.overdraw += d.sheet.shade * (d.sheet.y === undefined ? 1 : screenShare(camera, d.min, d.max, d.sheet.y, planes));
    if (d.coated) coats = Math.max(coats, d.coated.coats);
    out.push(batch);
  }
  underScreen(out, SHADE.coat * coats);
  return out;
}

/** What is solid is shaded about once a pixel, whatever stands behind it: all coats together cover the screen at most once each. */
function underScreen(batches: Batch[], most: number): void {
  const sum = batches.reduce((s, b) => s + (b.coats ?? 0), 0);
  if (sum <= most) return;
  for (const b of batches) {
    if (!b.coats) continue;
    b.overdraw -= b.coats;
    b.coats *= most / sum;
    b.overdraw += b.coats;
  }
}

/** What a drawable comes to at a LOD. @param distance of its nearest point, metres: overdraw goes by it */
export function batchOf(d: Drawable, lod: number, camera: Camera, distance: number): Batch {
  const n = Math.max(1, d.instances);
  const coats = d.coated ? SHADE.coat * alphaScreens(d, d.coated.area[lod], camera, distance) : 0;
  return {
    key: d.key,
    course: d.course,
    of: d.of,
    lod,
    draws: d.draws[lod],
    triangles: d.triangles[lod] * n,
    vertices: d.vertices[lod] * n,
    instances: d.instances,
    overdraw: coats + (d.alphaArea[lod] > 0 ? alphaScreens(d, d.alphaArea[lod], camera, distance) : 0),
    ...(d.coated ? { coats } : {}),
    bytes: d.bytes,
    ...(d.shared ? { shared: d.shared } : {}),
  };
}

/** Everything at its finest, as if it were all seen at once: the scope "whole level". What covers the ground round eyes is left out. */
export function wholeLevel(drawables: Iterable<Drawable>): Batch[] {
  return [...drawables]
    .filter((d) => !isCover(d) && !d.holds)
    .map((d): Batch => {
      const n = Math.max(1, d.instances);
      return {
        key: d.key,
        course: d.course,
        of: d.of,
        lod: 0,
        draws: d.draws[0],
        triangles: d.triangles[0] * n,
        vertices: d.vertices[0] * n,
        instances: d.instances,
        overdraw: 0,
        bytes: d.bytes,
        ...(d.shared ? { shared: d.shared } : {}),
      };
    });
}
