import { hashUnit } from '../../num/hash';
import { composed, tiltOf, wrapDeg, type Pose } from '../../num/pose';
import { atan2Deg, sinCosDeg } from '../../num/trig';
import type { Vec3 } from '../../num/vec';
import type { Join, Kit, Part, PartUse } from '../kinds/kit';
import type { Piece } from '../kinds/piece';

/** A part as a line measures it: between the joins of its left and right sides, or the sides of its box. */
export interface Measured {
  part: Part;
  /** where it meets what is left of it, in its own axes */
  left: Vec3;
  /** to where it meets what is right of it, along its own x, metres */
  length: number;
}

const measured = new WeakMap<Part, Measured>();

/** Whether a join's way out is the given one, degrees, within half a degree. */
const looks = (join: Join, turn: number): boolean => Math.abs(wrapDeg(join.turn - turn)) < 0.5;

/** How long a part is along a line, and where on it its left side is. */
export function measure(part: Part): Measured {
  let known = measured.get(part);
  if (!known) {
    const [low, high] = part.box;
    const a = part.joins.find((j) => looks(j, 180));
    const b = part.joins.find((j) => looks(j, 0));
    const left: Vec3 = a ? [...a.at] : [low[0], 0, b ? b.at[2] : 0];
    const right = b ? b.at[0] : high[0];
    known = { part, left, length: Math.max(1e-3, right - left[0]) };
    measured.set(part, known);
  }
  return known;
}

const byUse = new WeakMap<Kit, Map<PartUse, Part[]>>();

/** Parts of a kit that are laid as something, those of no weight left out. */
export function partsFor(kit: Kit, use: PartUse): readonly Part[] {
  let known = byUse.get(kit);
  if (!known) {
    known = new Map();
    for (const part of kit.parts) if (part.weight > 0) known.set(part.use, [...(known.get(part.use) ?? []), part]);
    byUse.set(kit, known);
  }
  return known.get(use) ?? [];
}

/**
 * One of some parts by their weights: the same for the same place under the same seed.
 *
 * @param place numbers that name it
 */
export function choose(parts: readonly Part[], seed: number, place: readonly [number, number, number]): Part | undefined {
  if (parts.length < 2) return parts[0];
  let left = hashUnit(seed, ...place) * parts.reduce((sum, p) => sum + p.weight, 0);
  for (const part of parts) if ((left -= part.weight) < 0) return part;
  return parts[parts.length - 1];
}

/** The turn that makes a thing's own x look along a way in plan. */
export const turnOf = (dx: number, dz: number): number => atan2Deg(-dz, dx) + 0;

/** To a millionth of a metre. */
const fine = (v: number): number => Math.round(v * 1e6) / 1e6 + 0;

/** Where a part stands whose left side is at one place and its right side at another: drawn out or pressed together to that. */
export function between({ left, length }: Measured, from: Vec3, to: Vec3): Pose {
  const [dx, dy, dz] = [to[0] - from[0], to[1] - from[1], to[2] - from[2]];
  const plan = Math.sqrt(dx * dx + dz * dz);
  const by = Math.sqrt(plan * plan + dy * dy) / length;
  const tilt = Math.abs(dy) > 1e-9 ? tiltOf(0, atan2Deg(dy, plan)) : undefined;
  const scale: Vec3 | undefined = Math.abs(by - 1) > 1e-6 ? [by, 1, 1] : undefined;
  return standing({ at: from, turn: turnOf(dx, dz), tilt, scale }, left);
}

/** Where a thing stands whose own point is at `pose.at`. */
export function standing(pose: Pose, own: Vec3): Pose {
  const { at, ...rest } = pose;
  const off = composed({ at: [0, 0, 0], ...rest }, { at: own, turn: 0 }).at;
  return { ...pose, at: [at[0] - off[0], at[1] - off[1], at[2] - off[2]] };
}

/** A pose turned about the line it stands on the other way round. */
export const lookingBack = (turn: number): number => wrapDeg(turn + 180);

/** A laid piece as an object: its id is its place in the line. */
export function pieceAt(slot: string, name: string, part: Part, { at, turn, tilt, scale }: Pose): Piece {
  return {
    id: slot,
    version: 1,
    kind: 'piece',
    name,
    asset: part.asset,
    at: [fine(at[0]), fine(at[1]), fine(at[2])],
    turn: fine(wrapDeg(turn)),
    ...(tilt ? { tilt } : {}),
    ...(scale ? { scale: scale.map((s) => Math.min(100, Math.max(0.01, s))) as Vec3 } : {}),
    sink: 0,
    collider: 'asset',
    hidden: false,
    out: false,
  };
}

/** Where the lines through two joins of a corner part cross, in its own axes, and how far each join is from there, metres. */
export function cornerOf(part: Part): { vertex: Vec3; joins: [Join, Join]; reach: [number, number] } | undefined {
  const [a, b] = part.joins;
  if (!a || !b) return undefined;
  const [sa, ca] = sinCosDeg(a.turn);
  const [sb, cb] = sinCosDeg(b.turn);
  // In plan x, z: the ways out are (c, -s).
  const det = ca * -sb - -sa * cb;
  if (Math.abs(det) < 1e-6) return undefined;
  const [ex, ez] = [b.at[0] - a.at[0], b.at[2] - a.at[2]];
  // a - ra * wayA = vertex = b - rb * wayB
  const ra = -(ex * -sb - ez * cb) / det;
  const vertex: Vec3 = [a.at[0] - ra * ca, a.at[1], a.at[2] + ra * sa];
  const rb = (b.at[0] - vertex[0]) * cb + (b.at[2] - vertex[2]) * -sb;
  return { vertex, joins: [a, b], reach: [ra, rb] };
}
