import { contours } from 'd3-contour';
import { signedArea, thinned, type Point2 } from '../num/outline';
import type { WaterBody } from './water';

/** How far a shore may be off its samples once it has fewer corners, in samples. */
const OFF = 0.6;

/**
 * Where a water meets the land, its islands too, as closed lines in plan, those with most corners first.
 *
 * @returns x and z, metres, each line without its first point again; land lies to the right of the way a line goes
 */
export function shoreLines({ rect, wet, spacing }: Pick<WaterBody, 'rect' | 'wet' | 'spacing'>): Point2[][] {
  const size: [number, number] = [rect.x1 - rect.x0 + 1, rect.z1 - rect.z0 + 1];
  const [area] = contours().size(size).smooth(true).thresholds([0.5])(Array.from(wet));
  const lines = area.coordinates.flatMap((polygon) =>
    polygon.map((ring, hole) => {
      // A value of the grid is the middle of its cell there.
      const own = ring.slice(0, -1).map(([x, z]): Point2 => [(rect.x0 + x - 0.5) * spacing, (rect.z0 + z - 0.5) * spacing]);
      const line = thinned(own, OFF * spacing);
      // Counter-clockwise seen from above has what is outside to its right; an island's outside is the water.
      const counter = signedArea(line.map(([x, z]): Point2 => [x, -z])) > 0;
      return counter === (hole === 0) ? line : line.reverse();
    }),
  );
  return lines.filter((l) => l.length > 2).sort((a, b) => b.length - a.length);
}
