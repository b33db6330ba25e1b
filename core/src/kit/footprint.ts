import type { PlacedMesh } from '../block/placedMesh';
import { hull } from '../num/hull';
import { offsetLine, signedArea, thinned, type Point2 } from '../num/outline';
import type { Vec3 } from '../num/vec';

/** What of a thing is its foot: so high over its lowest point, metres, or a third of its height if that is less. */
const FOOT = 0.5;

/**
 * The outline of a thing's foot in plan: the convex hull of its lowest part.
 *
 * @param off metres outside it
 * @returns counter-clockwise seen from above, so that what is outside lies to the right; at the height of its lowest point. Nothing of what has no area
 */
export function footprint({ positions, min, max }: Pick<PlacedMesh, 'positions' | 'min' | 'max'>, off: number): Vec3[] | undefined {
  const top = min[1] + Math.min(FOOT, (max[1] - min[1]) / 3 + 1e-6);
  const points: Point2[] = [];
  for (let i = 0; i < positions.length; i += 3) if (positions[i + 1] <= top) points.push([positions[i], -positions[i + 2]]);
  const around = hull(points);
  if (around.length < 3 || Math.abs(signedArea(around)) < 1e-4) return undefined;
  const counter = signedArea(around) > 0 ? around : [...around].reverse();
  const few = counter.length > 16 ? thinned([...counter, counter[0]], 0.03).slice(0, -1) : counter;
  return offsetLine(few.length > 2 ? few : counter, off, true).map(([x, y]): Vec3 => [x, min[1], -y]);
}
