import type { Vec3 } from '../../num/vec';
import { wrapDeg, type Pose } from '../../num/pose';
import type { Kit, Part } from '../kinds/kit';
import type { LaidLine } from '../kinds/laidLine';
import { choose, cornerOf, lookingBack, partsFor, standing, turnOf } from './parts';

type Way = readonly [x: number, z: number];

/** What stands at a corner: which part, how it is turned, and how much of the stretches before and after it takes, metres. */
export interface CornerPart {
  part: Part;
  turn: number;
  /** of its own axes what stands at the corner */
  vertex: Vec3;
  reach: [number, number];
}

/** Corners are of one angle within this, degrees. */
const SAME = 1;

/**
 * The part for a corner.
 *
 * @param n number of the corner
 * @param come way of the stretch before, of unit length
 * @param go way of the stretch after
 * @returns nothing where the kit has none for this angle
 */
export function cornerPart(kit: Kit, line: Pick<LaidLine, 'seed' | 'turned'>, n: number, come: Way, go: Way): CornerPart | undefined {
  const cross = come[0] * go[1] - come[1] * go[0];
  const dot = come[0] * go[0] + come[1] * go[1];
  if (dot > 0.9999) return undefined;
  // What looks to the right of the way is outside of a corner that turns left.
  const outside = line.turned ? cross > 0 : cross < 0;
  const own = partsFor(kit, outside ? 'corner' : 'inner corner');
  const list = own.length > 0 ? own : partsFor(kit, 'corner');
  const along = turnOf(come[0], come[1]);
  const fitting = list.flatMap((part): CornerPart[] => {
    const fit = fitted(part, come, go);
    return fit ? [fit] : [];
  });
  const square = Math.abs(dot) < 0.0175;
  const any = fitting.length > 0 ? [] : list.filter((p) => !cornerOf(p));
  const chosen = choose(fitting.length > 0 ? fitting.map((f) => f.part) : any.length > 0 ? any : partsFor(kit, 'post'), line.seed, [n, -3, 0]);
  if (!chosen) return undefined;
  const fit = fitting.find((f) => f.part === chosen);
  if (fit) return fit;
  // A part that stands on the corner itself: along the wall, or of an odd angle half way between the two.
  const half: Way = [come[0] + go[0], come[1] + go[1]];
  const turn = square || half[0] * half[0] + half[1] * half[1] < 1e-6 ? along : turnOf(half[0], half[1]);
  return { part: chosen, turn: line.turned ? lookingBack(turn) : turn, vertex: [0, 0, 0], reach: [0, 0] };
}

/** A part whose two joins look along the two stretches, whichever is which. */
function fitted(part: Part, come: Way, go: Way): CornerPart | undefined {
  const corner = cornerOf(part);
  if (!corner) return undefined;
  const { joins, reach, vertex } = corner;
  const back = turnOf(-come[0], -come[1]);
  const on = turnOf(go[0], go[1]);
  for (const [i, j] of [
    [0, 1],
    [1, 0],
  ] as const) {
    const turn = wrapDeg(back - joins[i].turn);
    if (Math.abs(wrapDeg(joins[j].turn + turn - on)) < SAME) return { part, turn, vertex, reach: [reach[i], reach[j]] };
  }
  return undefined;
}

/** Where a corner's part stands. */
export const atCorner = ({ turn, vertex }: CornerPart, at: Vec3): Pose => standing({ at, turn }, vertex);
