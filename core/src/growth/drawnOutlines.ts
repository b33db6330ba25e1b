import { nearestStretch, noNear, stretchesOf, type Stretches } from '../earth/stretches';
import { insideOutline, type Point2 } from '../num/outline';

/** A rectangle in plan, metres. */
export interface Box {
  x0: number;
  z0: number;
  x1: number;
  z1: number;
}

/** Outlines made ready to be asked how far inside them a place lies. */
export interface DrawnOutlines {
  /** metres from the edge of the outline that a place lies deepest in, negative outside all of them; no farther off than `reach` */
  inside(x: number, z: number): number;
  /** of each with its reach: outside all of them a place is as far off as that */
  boxes: Box[];
}

/** @param reach metres that edges are looked for */
export function drawnOutlines(outlines: readonly (readonly Point2[])[], reach: number): DrawnOutlines {
  const shapes = outlines.map((outline) => ({ outline, sides: stretchesOf(outline, true, reach), box: boxOf(outline, reach) }));
  const near = noNear();
  const signed = (outline: readonly Point2[], sides: Stretches, x: number, z: number): number => {
    const found = nearestStretch(sides, x, z, near);
    const d = found.id < 0 ? reach : found.distance;
    return insideOutline([x, z], outline) ? d : -d;
  };
  return {
    inside(x, z) {
      let most = -reach;
      for (const { outline, sides, box } of shapes) {
        if (x < box.x0 || x > box.x1 || z < box.z0 || z > box.z1) continue;
        most = Math.max(most, signed(outline, sides, x, z));
        if (most >= reach) break;
      }
      return most;
    },
    boxes: shapes.map((s) => s.box),
  };
}

function boxOf(outline: readonly Point2[], reach: number): Box {
  const [xs, zs] = [outline.map((p) => p[0]), outline.map((p) => p[1])];
  return { x0: Math.min(...xs) - reach, z0: Math.min(...zs) - reach, x1: Math.max(...xs) + reach, z1: Math.max(...zs) + reach };
}
