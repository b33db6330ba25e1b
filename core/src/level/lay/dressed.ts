import { axisRotation, splitRotation, timesRotation, turnRotation, unitRotation, type Pose, type Quaternion } from '../../num/pose';
import { sinCosDeg } from '../../num/trig';
import { normalize, type Vec3 } from '../../num/vec';

/** How each of many things that are set may differ from the next. */
export interface Ranges {
  /** degrees about the way it stands, lowest and highest */
  turn: readonly [number, number];
  /** against its own size */
  size: readonly [number, number];
  /** how much each axis may be larger or smaller by itself, as a share */
  uneven: number;
  /** metres into what it stands on */
  sink: readonly [number, number];
  /** from upright (0) to standing out of the surface (1) */
  lean: number;
  /** degrees out of that, to any side */
  tilt: number;
  /** stands on its head one time in so many; 0 never */
  flip: number;
}

/** What is set, and how each may differ. */
export interface Dressing extends Ranges {
  /** ids of assets and how often each comes against the others */
  list: readonly { asset: string; weight: number }[];
  /** no two of them nearer, metres, whatever side of whatever they stand on */
  spacing: number;
  seed: number;
}

/** Defaults of what is taken up to dress with: what lies about, turned any way, a little uneven in size. */
export const DRESSING: Dressing = {
  list: [],
  spacing: 1.2,
  turn: [-180, 180],
  size: [0.85, 1.15],
  uneven: 0,
  sink: [0, 0],
  lean: 0,
  tilt: 0,
  flip: 0,
  seed: 1,
};

/** A place on something. */
export interface Surface {
  at: Vec3;
  /** out of it, of unit length */
  normal: Vec3;
}

/** A piece that is to be set. */
export interface Dressed extends Pose {
  asset: string;
  /** metres; dropping keeps it */
  sink: number;
}

/** The rotation that takes upright to a direction the shortest way. */
function leanTo([x, y, z]: Vec3): Quaternion {
  return y < -0.999999 ? [1, 0, 0, 0] : unitRotation([z, 0, -x, 1 + y]);
}

/** What a place draws from a range. */
const within = ([low, high]: readonly [number, number], share: number): number => low + (high - low) * share;

/** One of a list by its weight. @param share drawn, from 0 to 1 */
export function drawn<T extends { weight: number }>(list: readonly T[], share: number): T {
  let left = share * list.reduce((sum, l) => sum + l.weight, 0);
  return list.find((l) => (left -= l.weight) < 0) ?? list[list.length - 1];
}

/**
 * How something stands on a place, with what it draws.
 *
 * @param ahead degrees about Y that its turn counts from
 * @param draw a number in [0, 1) for each thing that is drawn: 3 to 11
 */
export function standingOn(ranges: Ranges, { at, normal }: Surface, ahead: number, draw: (what: number) => number): Pose & { sink: number } {
  const up = normalize([normal[0] * ranges.lean, normal[1] * ranges.lean + 1 - ranges.lean + 1e-9, normal[2] * ranges.lean]);
  const [s, c] = sinCosDeg(draw(3) * 360);
  const head = ranges.flip > 0 && draw(4) < 1 / ranges.flip ? axisRotation([1, 0, 0], 180) : undefined;
  let q = timesRotation(leanTo(up), turnRotation(ahead + within(ranges.turn, draw(5))));
  if (ranges.tilt > 0) q = timesRotation(axisRotation([c, 0, s], ranges.tilt * draw(6)), q);
  if (head) q = timesRotation(q, head);
  const size = within(ranges.size, draw(7));
  const scale = [8, 9, 10].map((k) => Math.round(size * (1 + ranges.uneven * (2 * draw(k) - 1)) * 1e4) / 1e4) as Vec3;
  const sink = Math.round(within(ranges.sink, draw(11)) * 1000) / 1000;
  const even = scale[0] === 1 && scale[1] === 1 && scale[2] === 1;
  const fine = (x: number) => Math.round(x * 1e4) / 1e4 + 0;
  return { sink, ...splitRotation(q), at: at.map((p, k) => fine(p - up[k] * sink)) as Vec3, ...(even ? {} : { scale }) };
}

/**
 * A piece on a place, with what it draws. The list is not empty.
 *
 * @param draw a number in [0, 1) for each thing that is drawn: 2 to 11
 */
export function dressedAt(dressing: Dressing, surface: Surface, draw: (what: number) => number): Dressed {
  return { asset: drawn(dressing.list, draw(2)).asset, ...standingOn(dressing, surface, 0, draw) };
}
