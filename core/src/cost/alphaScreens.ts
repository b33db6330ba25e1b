import { tanDeg } from '../num/trig';
import type { Drawable } from './drawable';
import type { Camera } from './camera';

/**
 * Screens that alpha-tested areas cover, each instance at most one: by its own distance and size where that is known, those behind
 * the eye none; else all as near as the nearest of them.
 */
export function alphaScreens(
  d: Pick<Drawable, 'instances' | 'places' | 'radius' | 'holds' | 'size' | 'min' | 'max'>,
  area: number,
  camera: Camera,
  near: number,
): number {
  // What is drawn as one cell is far: all of it is as far as its middle.
  if (d.holds && camera.fov !== 0) {
    const far = Math.hypot(...[0, 1, 2].map((k) => (d.min[k] + d.max[k]) / 2 - camera.eye[k]));
    return d.instances * screensOf(area * (d.size ?? 1), camera, Math.max(near, far));
  }
  if (!d.places || camera.fov === 0) return Math.max(1, d.instances) * screensOf(area, camera, near);
  const { eye, forward } = camera;
  let sum = 0;
  for (let i = 0; i < d.places.length; i += 16) {
    const m = d.places;
    const [x, y, z] = [m[i + 12] - eye[0], m[i + 13] - eye[1], m[i + 14] - eye[2]];
    if (x * forward[0] + y * forward[1] + z * forward[2] < -d.radius) continue;
    const size = m[i + 4] * m[i + 4] + m[i + 5] * m[i + 5] + m[i + 6] * m[i + 6];
    sum += screensOf(area * size, camera, Math.sqrt(x * x + y * y + z * z));
  }
  return sum;
}

/** Share of the screen an area covers when it faces the eye, at most one. */
function screensOf(area: number, camera: Camera, distance: number): number {
  const half = camera.fov === 0 ? camera.halfHeight : Math.max(distance, 0.1) * tanDeg(camera.fov / 2);
  return Math.min(1, area / (4 * half * half * camera.aspect));
}
