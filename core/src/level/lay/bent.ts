import { distance, type Vec3 } from '../../num/vec';
import type { Part } from '../kinds/kit';
import { drawnOut, type Bend, type Piece } from '../kinds/piece';
import { measure, pieceAt, standing, turnOf } from './parts';
import { pointAlong, type Path } from './path';

/** Half of the length over which the way of a path is felt, metres. */
const FEEL = 1;
/** What turns away from its own length by more than this at an end is laid straight: the tangent of 60 degrees. */
const STEEPEST = 1.732;
/** What bends by less than this is straight: a millimetre in ten metres. */
const STRAIGHT = 1e-4;

const fine = (v: number): number => Math.round(v * 1e6) / 1e6 + 0;

/** Whether a path leads back to where it starts. */
const isRound = ({ points, straight }: Path): boolean => !straight && distance(points[0], points[points.length - 1]) < 1e-6;

/** The way a path goes at a place: the chord about it, as far as there is path on both sides; of a ring all around. */
function wayOf(path: Path, s: number): Vec3 {
  const round = isRound(path);
  const about = round ? FEEL : Math.min(FEEL, Math.max(1e-3, Math.min(s, path.length - s)));
  const at = (v: number): Vec3 => pointAlong(path, round ? ((v % path.length) + path.length) % path.length : Math.min(path.length, Math.max(0, v)));
  const [a, b] = [at(s - about), at(s + about)];
  return [b[0] - a[0], b[1] - a[1], b[2] - a[2]];
}

/**
 * A part bent to a path between two places of it.
 *
 * @param y height it is laid at; where absent it goes up and down with the path
 * @returns nothing where the path turns too sharply for it: it is laid straight there
 */
export function bentAlong(
  path: Path,
  [from, to, y]: readonly [number, number, number | undefined],
  turned: boolean,
): ((slot: string, name: string, part: Part) => Piece | undefined) | undefined {
  const ends = [from, to].map((s) => ({ at: pointAlong(path, s), way: wayOf(path, s) }));
  if (y !== undefined) for (const { at, way } of ends) [at[1], way[1]] = [y, 0];
  if (turned) {
    ends.reverse();
    for (const { way } of ends) way.forEach((v, k) => (way[k] = -v));
  }
  const [a, b] = ends;
  const [dx, dy, dz] = [b.at[0] - a.at[0], b.at[1] - a.at[1], b.at[2] - a.at[2]];
  const run = Math.sqrt(dx * dx + dz * dz);
  if (run < 1e-3) return undefined;
  const ahead = ends.map(({ way }) => (way[0] * dx + way[2] * dz) / run);
  if (ahead.some((v) => v <= 1e-9)) return undefined;
  const side = ends.map(({ way }, i) => (way[2] * dx - way[0] * dz) / run / ahead[i]);
  const slope = ends.map(({ way }, i) => way[1] / ahead[i]);
  if ([...side, ...slope].some((v) => Math.abs(v) > STEEPEST)) return undefined;
  const straight = side.every((v) => Math.abs(v) < STRAIGHT) && slope.every((v) => Math.abs(v - dy / run) < STRAIGHT);
  if (straight) return undefined;
  return (slot, name, part) => {
    const { left, length } = measure(part);
    if (!drawnOut(run / length)) return undefined;
    const bend: Bend = {
      at: left,
      length: fine(length),
      run: fine(run),
      rise: fine(dy),
      side: [fine(side[0]), fine(side[1])],
      slope: [fine(slope[0]), fine(slope[1])],
    };
    return { ...pieceAt(slot, name, part, standing({ at: a.at, turn: turnOf(dx, dz) }, left)), bend };
  };
}
