import { placeMesh, type PlacedMesh } from '../block/placedMesh';
import { shapeMesh } from '../block/shapes';
import { blockToLevel } from '../block/solid';
import { insideOutline, toStretch } from '../num/outline';
import type { Vec3 } from '../num/vec';
import { DIRECTIONS, lookRound } from '../play/skyline';
import { dotsApart } from '../play/walkDots';
import type { Snag } from './finding';
import type { SnagInput } from './input';

/** Solids and pieces as they stand: a solid by its own mesh where it was built, else by its shape. */
function massesOf({ solids, placed }: Pick<SnagInput, 'solids' | 'placed'>): PlacedMesh[] {
  const built = new Set(placed.filter((m) => m.of === 'block').map((m) => m.id));
  const plain = solids.filter((b) => b.op !== 'void' && !built.has(b.id));
  return [...placed, ...plain.map((b) => placeMesh(b.id, b.name, shapeMesh(b), (x, y, z) => blockToLevel(b, x, y, z)))];
}

/** Places looked round from. */
const PLACES = 24;

/**
 * The play bounds: ground outside it that the player can walk to from the entry, and places inside it
 * from which the edge of the level is seen against nothing.
 */
export function playBoundsChecks(input: SnagInput): Snag[] {
  const { playBounds, dots, terrain, body } = input;
  const linked: Vec3[] = [];
  for (let i = 0; i < dots.length; i += 4) if (dots[i + 3] === 1) linked.push([dots[i], dots[i + 1], dots[i + 2]]);
  return playBounds.flatMap((bounds): Snag[] => {
    const found: Snag[] = [];
    const inside = linked.filter((p) => insideOutline([p[0], p[2]], bounds.outline));
    const outside = linked.filter((p) => !insideOutline([p[0], p[2]], bounds.outline));
    if (outside.length > 0) {
      const off = (p: Vec3) => Math.min(...bounds.outline.map((a, i) => toStretch([p[0], p[2]], a, bounds.outline[(i + 1) % bounds.outline.length])));
      const first = outside.reduce((best, p) => (off(p) < off(best) ? p : best));
      found.push({
        code: 'bounds-walked-off',
        severity: 'blocking',
        message:
          `${bounds.name} can be walked out of: ${outside.length * dotsApart(terrain.grid) ** 2} ` +
          `m² outside are reached from the entry, the nearest ${off(first).toFixed(1)} m beyond them`,
        mend: 'close it there with a face, a wall or water, or draw the bounds farther out',
        at: first,
        object: bounds.id,
      });
    }
    // Evenly among the places inside, in their own order.
    const masses = massesOf(input);
    const step = Math.max(1, Math.floor(inside.length / PLACES));
    const looks = inside
      .filter((_, i) => i % step === 0)
      .slice(0, PLACES)
      .map((p) => lookRound(terrain, masses, [p[0], p[1] + body.eye, p[2]]));
    const open = looks.filter((l) => l.holes.length > 0);
    if (open.length > 0) {
      const worst = open.reduce((a, b) => (b.holes.length > a.holes.length ? b : a));
      found.push({
        code: 'bounds-hole',
        severity: 'warning',
        message:
          `from ${open.length} of ${looks.length} places inside ${bounds.name} the level's edge is seen against ` +
          `the sky, most in ${worst.holes.length} of ${DIRECTIONS} directions, the first at ${worst.holes[0].toFixed(0)}°`,
        mend: 'raise the ground towards the edge, or set a ring of masses behind it',
        at: [worst.eye[0], worst.eye[1] - body.eye, worst.eye[2]],
        object: bounds.id,
      });
    }
    return found;
  });
}
