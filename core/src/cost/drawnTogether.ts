import type { Camera } from './camera';
import type { Drawable } from './drawable';
import { farthest, lodOf, nearest } from './lods';

/** What is drawn as one, and what is not for that. */
interface Together {
  /** keys of those that hold others and are drawn */
  wide: ReadonlySet<string>;
  /** keys of those that are not, for that */
  held: ReadonlySet<string>;
}

/** All by itself. */
export const NOTHING_TOGETHER: Together = { wide: new Set(), held: new Set() };

/** Which wide cells are drawn in the place of what they hold; the widest come first in a list. */
export function drawnTogether(drawables: Iterable<Drawable>, camera: Camera, spacing: number, coarseness: number): Together {
  const wide = new Set<string>();
  const held = new Set<string>();
  for (const d of drawables) {
    if (!d.holds || held.has(d.holds[0])) continue;
    const distance = camera.fov === 0 ? 0 : nearest(camera.eye, d.min, d.max);
    if (lodOf(d, camera, distance, spacing, coarseness) < d.triangles.length - 1) continue;
    if (d.cutoff > 0 && camera.fov > 0 && distance <= d.cutoff && farthest(camera.eye, d.min, d.max) > d.cutoff) continue;
    wide.add(d.key);
    for (const key of d.holds) held.add(key);
  }
  return { wide, held };
}
