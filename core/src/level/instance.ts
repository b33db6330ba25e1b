import {
  composed,
  inverseRotation,
  relative,
  rotationOf,
  splitRotation,
  timesRotation,
  tiltAngles,
  toOwn,
  unitRotation,
  wrapDeg,
  type Pose,
  type Quaternion,
} from '../num/pose';
import type { Vec3 } from '../num/vec';
import { isDrawn } from './drawn';
import type { Standing } from './kinds/index';
import { MIN_BLOCK, type Block } from './kinds/block';
import type { Override } from './kinds/copy';
import type { Piece } from './kinds/piece';

/** Between the ids of a copy and a member in the id of what is made for it; no id of the document has it. */
export const MARK = '~';

/** The object of the document that an id belongs to: itself, or the copy it is made for. */
export const ownerOf = (id: string): string => {
  const at = id.indexOf(MARK);
  return at < 0 ? id : id.slice(0, at);
};
/**
 * Whether something of an id is made for a copy or a line, and stands in no document.
 *
 * @example
 * const own = pieces.filter((p) => !isMade(p.id)); // those that can be removed
 */
export const isMade = (id: string): boolean => id.includes(MARK);
/** Of what is made for a copy, which member it is, as `Override.member` names it. */
export const memberOf = (id: string): string => id.slice(id.indexOf(MARK) + 1);

const uniform = (s: number): Vec3 => [s, s, s];

/** Where something stands, as a pose: scales of one number on every axis. */
export function poseOf(o: Standing): Pose {
  const scale = o.kind === 'plant' ? (typeof o.scale === 'number' ? uniform(o.scale) : o.scale) : o.kind === 'piece' || o.kind === 'copy' ? o.scale : undefined;
  const tilt = 'tilt' in o ? o.tilt : undefined;
  return { at: o.at, turn: o.turn, ...(tilt ? { tilt } : {}), ...(scale ? { scale } : {}) };
}

const ONE = (s: Vec3 | undefined): boolean => s === undefined || (s[0] === 1 && s[1] === 1 && s[2] === 1);
const share = (s: number): number => Math.min(100, Math.max(0.01, s));

/**
 * Something at another pose. What has no tilt of its own stays upright; a block takes a scale on as size.
 *
 * @param pose for a block `scale` is against its size; for all others it is the scale it has then
 */
export function atPose<T extends Standing>(o: T, pose: Pose): T {
  const { at, turn, tilt, scale } = pose;
  if (o.kind === 'marker' || o.kind === 'people' || o.kind === 'laidLine') return { ...o, at, turn };
  const { tilt: _, ...rest } = o as Exclude<Standing, { kind: 'marker' | 'people' | 'laidLine' }>;
  const stood = { ...rest, at, turn, ...(tilt ? { tilt } : {}) } as T;
  if (stood.kind === 'block') return ONE(scale) ? stood : (scaledBlock(stood as Block, scale!) as unknown as T);
  const kept = scale?.map(share) as Vec3 | undefined;
  if (stood.kind === 'plant') return { ...stood, scale: !kept ? 1 : kept[0] === kept[1] && kept[1] === kept[2] ? kept[0] : kept };
  if (ONE(kept)) {
    const { scale: __, ...own } = stood as T & { scale?: Vec3 };
    return own as T;
  }
  return { ...stood, scale: kept };
}

/** A block of other measures: what runs across a line or is thick takes the middle of the scales in plan. */
function scaledBlock(b: Block, [sx, sy, sz]: Vec3): Block {
  const plan = Math.sqrt(sx * sz);
  const side = (v: number): number => Math.max(MIN_BLOCK, v);
  const size: Vec3 = [side(b.size[0] * sx), side(b.size[1] * sy), side(b.size[2] * sz)];
  const more = {
    ...(b.wall !== undefined ? { wall: Math.max(0.02, b.wall * plan) } : {}),
    ...(isDrawn(b.shape) && b.wide !== undefined ? { wide: Math.max(0.02, b.wide * plan) } : {}),
    ...(b.tall !== undefined ? { tall: side(b.tall * sy) } : {}),
    ...(b.line ? { line: b.line.map(([x, y, z]): Vec3 => [x * sx, y * sy, z * sz]) } : {}),
  };
  return { ...b, size, ...more };
}

/** Where the axes of an assembly's members lie in the level: what is at the pivot of the master stands at the copy. */
export interface Frame {
  pose: Pose;
  pivot: Vec3;
}

/**
 * A member as it stands in a copy.
 *
 * @param id what it is called there
 * @param named what the copy it is made for is called
 * @param overrides that are laid on it, the innermost copy's first
 */
export function inFrame<T extends Standing>(member: T, { pose, pivot }: Frame, id: string, named: string, overrides: readonly Override[]): T {
  const own = overridden(poseOf(member), overrides);
  own.at = [own.at[0] - pivot[0], own.at[1] - pivot[1], own.at[2] - pivot[2]];
  const placed = composed(pose, own);
  const made = { ...atPose(member, placed), id, name: `${named}: ${member.name}`, group: named } as T;
  if (made.kind === 'block' && made.stops) {
    // A stop is a way and not a place: it is turned and scaled, not moved.
    const way = { ...pose, at: [0, 0, 0] as Vec3 };
    (made as Block).stops = made.stops.map((s) => ({ ...s, by: composed(way, { at: s.by, turn: 0 }).at.map((v) => v + 0) as Vec3 }));
  }
  for (const o of overrides) {
    if (o.hidden !== undefined) made.hidden = o.hidden;
    if (made.kind === 'piece') {
      if (o.tint !== undefined) (made as Piece).tint = o.tint;
      if (o.paint !== undefined) (made as Piece).paint = o.paint;
    }
    if (o.swap === undefined) continue;
    if (made.kind === 'piece') (made as { asset: string }).asset = o.swap;
    else if (made.kind === 'plant') (made as { species: string }).species = o.swap;
    else if (made.kind === 'copy') (made as { assembly: string }).assembly = o.swap;
  }
  return made;
}

/** A member, where its master stands, with what is overridden of its pose. */
export const withOverrides = <T extends Standing>(member: T, overrides: readonly Override[]): T =>
  overrides.length === 0 ? member : atPose(member, overridden(poseOf(member), overrides));

/** A pose of the master's with what is overridden laid on it. */
function overridden(pose: Pose, overrides: readonly Override[]): Pose {
  let { at, turn, tilt, scale } = pose;
  for (const o of overrides) {
    if (o.move) at = [at[0] + o.move[0], at[1] + o.move[1], at[2] + o.move[2]];
    if (o.turn !== undefined) turn = wrapDeg(turn + o.turn);
    if (o.tilt) tilt = tilt ? unitRotation(timesRotation(unitRotation(o.tilt), unitRotation(tilt))) : o.tilt;
    if (o.scale) scale = [0, 1, 2].map((k) => (scale?.[k] ?? 1) * o.scale![k]) as Vec3;
  }
  return { at, turn, ...(tilt ? { tilt } : {}), ...(scale ? { scale } : {}) };
}

const fine = (v: number): number => Math.round(v * 1e6) / 1e6 + 0;
const upright = (tilt: Quaternion | undefined): boolean => tiltAngles(tilt).every((deg) => Math.abs(deg) < 1e-4);

/**
 * What is to be overridden so that a member stands in a copy as `wanted`: move, turn, tilt and scale, without those that
 * are the master's.
 *
 * @param member the master, as it is in the document
 * @param wanted where it is to stand in the level; of a block its size counts as scale
 */
export function overrideFor<T extends Standing>(member: T, { pose, pivot }: Frame, wanted: T): Pick<Override, 'move' | 'turn' | 'tilt' | 'scale'> {
  const was = poseOf(member);
  const is = relative(pose, poseOf(wanted));
  const move = is.at.map((v, k) => fine(v + pivot[k] - was.at[k])) as Vec3;
  let turn = is.turn;
  let tilt: Quaternion | undefined;
  if (is.tilt || was.tilt) {
    const whole = splitRotation(rotationOf(is));
    turn = whole.turn;
    const lain = unitRotation(timesRotation(whole.tilt ?? [0, 0, 0, 1], inverseRotation(unitRotation(was.tilt ?? [0, 0, 0, 1]))));
    if (!upright(lain) || Math.abs(lain[1]) > 1e-6) tilt = lain.map((v) => Math.round(v * 1e9) / 1e9 + 0) as Quaternion;
  }
  const by = fine(wrapDeg(turn - was.turn));
  const sizes =
    member.kind === 'block' && wanted.kind === 'block'
      ? ([0, 1, 2].map((k) => (wanted as Block).size[k] / (pose.scale?.[k] ?? 1) / (member as Block).size[k]) as Vec3)
      : ([0, 1, 2].map((k) => (is.scale?.[k] ?? 1) / (was.scale?.[k] ?? 1)) as Vec3);
  const scale = sizes.map((s) => share(fine(s))) as Vec3;
  return {
    ...(move.some((v) => Math.abs(v) > 5e-4) ? { move } : {}),
    ...(Math.abs(by) > 1e-4 ? { turn: by } : {}),
    ...(tilt ? { tilt } : {}),
    ...(scale.some((s) => Math.abs(s - 1) > 1e-5) ? { scale } : {}),
  };
}

/** The frame of what stands in a copy, or along a line. */
export const frameOf = (copy: Standing & { kind: 'copy' | 'laidLine' }, pivot: Vec3): Frame => ({ pose: poseOf(copy), pivot });

/** A point of the master where it stands in a copy. */
export const inCopy = (copy: Pose, pivot: Vec3, p: Vec3): Vec3 => composed(copy, { at: [p[0] - pivot[0], p[1] - pivot[1], p[2] - pivot[2]], turn: 0 }).at;

/** A point of a copy where it is in the master. */
export function inMaster(copy: Pose, pivot: Vec3, p: Vec3): Vec3 {
  const own = toOwn(copy, p);
  return [0, 1, 2].map((k) => own[k] / (copy.scale?.[k] ?? 1) + pivot[k]) as Vec3;
}
