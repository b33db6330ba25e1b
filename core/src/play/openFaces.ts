import { OPEN, type Terrain } from '../earth/compose';
import { sharedRect, type Rect } from '../earth/rect';
import type { PlanRect } from './navGeometry';

/**
 * Takes out of triangles what lies so deep in water that a body may not stand there: faces that look up
 * are cut as fine as the samples where the water reaches them, and the parts that are too deep left out.
 *
 * @param terrain with `barred`
 * @param rect where it matters, metres: what lies beside it stays whole, so that a wide floor costs a tile no
 *   more than its own part of it
 * @param base number of the first of `positions`; `indices` count from 0
 */
export function openFaces({ barred, grid }: Terrain, rect: PlanRect, base: number, positions: number[], indices: number[]): void {
  const { nx, nz, spacing } = grid;
  const kept: number[] = [];
  const sample = (v: number, n: number) => Math.min(n - 1, Math.max(0, Math.round(v / spacing)));
  const sampleRect = (x0: number, z0: number, x1: number, z1: number): Rect => ({ x0: sample(x0, nx), z0: sample(z0, nz), x1: sample(x1, nx), z1: sample(z1, nz) });
  const at = (i: number, k: number) => positions[(i - base) * 3 + k];
  const within = sampleRect(rect.x0, rect.z0, rect.x1, rect.z1);
  /** Whether water over some sample of the rectangle under a triangle is too deep for its lowest corner. */
  const reached = (a: number, b: number, c: number): boolean => {
    const low = Math.min(at(a, 1), at(b, 1), at(c, 1));
    const under = sharedRect(within, sampleRect(Math.min(at(a, 0), at(b, 0), at(c, 0)), Math.min(at(a, 2), at(b, 2), at(c, 2)), Math.max(at(a, 0), at(b, 0), at(c, 0)), Math.max(at(a, 2), at(b, 2), at(c, 2))));
    if (!under) return false;
    for (let z = under.z0; z <= under.z1; z++) for (let x = under.x0; x <= under.x1; x++) if (low < barred![z * nx + x]) return true;
    return false;
  };
  const long = (a: number, b: number): number => (at(a, 0) - at(b, 0)) ** 2 + (at(a, 2) - at(b, 2)) ** 2;
  const open = (a: number, b: number, c: number): void => {
    if (!reached(a, b, c)) { kept.push(a, b, c); return; }
    const [ab, bc, ca] = [long(a, b), long(b, c), long(c, a)];
    // The longest edge first, so that it is the one that is cut.
    if (bc >= ab && bc >= ca) { halve(b, c, a, bc); return; }
    if (ca >= ab) { halve(c, a, b, ca); return; }
    halve(a, b, c, ab);
  };
  const halve = (a: number, b: number, c: number, edge: number): void => {
    if (edge > spacing * spacing) {
      const m = base + positions.length / 3;
      for (let k = 0; k < 3; k++) positions.push((at(a, k) + at(b, k)) / 2);
      open(a, m, c);
      open(m, b, c);
      return;
    }
    const [x, y, z] = [0, 1, 2].map((k) => (at(a, k) + at(b, k) + at(c, k)) / 3);
    const least = barred![sample(z, nz) * nx + sample(x, nx)];
    if (least === OPEN || y >= least) kept.push(a, b, c);
  };
  for (let i = 0; i < indices.length; i += 3) {
    const [a, b, c] = [indices[i], indices[i + 1], indices[i + 2]];
    // Twice the area in plan, positive where the face looks up; no body stands on the others.
    const up = (at(b, 2) - at(a, 2)) * (at(c, 0) - at(a, 0)) - (at(b, 0) - at(a, 0)) * (at(c, 2) - at(a, 2));
    if (up > 1e-9) open(a, b, c);
    else kept.push(a, b, c);
  }
  indices.length = 0;
  for (const i of kept) indices.push(i);
}
